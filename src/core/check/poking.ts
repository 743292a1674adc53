/**
 * Poking through: meshes of props that pass through surfaces, mesh against mesh. It takes longer than all other checks, so it
 * is looked for after them, and rests now and then.
 */
import type { Body } from "../mesh";
import { kindOf, worldMatrix, type Dressing, type Placements } from "../place";
import { isStanding } from "./rows";
import { list, metres, naming, props, say, type Finding, type Mend } from "./finding";
import type { Work } from "../graph";

/** A surface that props may poke through, as it stands in the world. */
export interface Wall {
  id: string;
  body: Body;
  /** Whether props stand on it, and so may dig in as deep as the dressing sinks them, and its play. */
  under: boolean;
  /** Whether the dressing's own props stand on it. */
  carries: boolean;
}

/** The name of the check in files, and its name for the artist. */
export const POKING = { name: "poking", label: "Poking through" } as const;

/** So many placements are looked at before it rests. */
const PORTION = 64;
/** Crossings over less than this, metres, are let pass. */
const LEAST = 0.005;

/** What of a dressing bears on how deep its props may dig in, and on what would mend it. */
export interface Poked {
  id: string;
  fit: Pick<Dressing["fit"], "sink" | "play" | "up" | "drop" | "dropBy" | "dropRest">;
  stance: Pick<Dressing["stance"], "up" | "upBy">;
  where: Pick<Dressing["where"], "kind" | "surfaces">;
}

/** @param bodies of the props that the placements count */
export function* poking(
  dressing: Poked,
  placements: Placements,
  bodies: readonly (Body | undefined)[],
  walls: readonly Wall[],
): Work<Finding[]> {
  if (walls.length === 0) return [];
  const { sink, play, up } = dressing.fit;
  const raise = Math.max(0, sink) + Math.max(0, -up) + play;
  const members: number[] = [];
  const met = new Set<Wall>();
  let worst = 0;
  for (let i = 0; i < placements.count; i++) {
    if (i % PORTION === PORTION - 1) yield i / placements.count;
    const body = isStanding(placements, i) && !isBent(placements, i) ? bodies[placements.prop[i]] : undefined;
    if (!body) continue;
    const [low, high] = [0, raise].map((by) => worldMatrix(placements, i, by));
    let over = 0;
    for (const wall of walls) {
      const by = body.crossing(wall.under ? high : low, wall.body);
      if (by < LEAST) continue;
      met.add(wall);
      over = Math.max(over, by);
    }
    if (over > 0) members.push(i);
    worst = Math.max(worst, over);
  }
  if (members.length === 0) return [];
  const through = met.size === 1 ? list([[...met][0].id], "guide") : say`${met.size} surfaces`;
  const better = [...met].every(({ carries }) => carries) ? betterStand(dressing) : null;
  return [
    {
      check: POKING.name,
      dressing: dressing.id,
      ...naming(placements, members),
      worst,
      message: say`${props(members.length)} ${members.length === 1 ? "pokes" : "poke"} through ${through}, over up to ${metres(worst)}.`,
      mend: better ?? "leave-blank",
      ...(better && { orElse: "leave-blank" as const }),
    },
  ];
}

/** What could make props that dig into what they stand on do so less; null where all of it is so already. */
function betterStand({ where, stance, fit }: Poked): Mend | null {
  if (fit.drop === "down") return fit.dropBy === "footprint" && fit.dropRest === "highest" ? null : "rest-highest";
  const leans = stance.up === "normal" && stance.upBy === 1;
  return kindOf(where).onSurfaces && where.surfaces.length > 0 && fit.drop === "off" && !leans
    ? "up-from-normal"
    : null;
}

/** What is bent along its line is another mesh than its prop's. */
const isBent = ({ shapes }: Placements, i: number): boolean => shapes !== null && shapes.entry[i] >= 0;

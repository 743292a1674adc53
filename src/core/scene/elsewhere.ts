/**
 * *The parts of an assembly as things of a scene*, where a use of it stands: lines, surfaces and dressings with their rules. Only
 * where these come to the very same there; rules know what is up, and draw by the numbers of lines.
 */
import { fromStand } from "../mesh";
import { rotate, type Vec3 } from "../math";
import { familyOf, isFamily, laidOf, type Knot, type Line } from "../line";
import { linesOf, thingsOf } from "../made";
import { carriedHangs, kindOf, LOOSE, STEP_SCHEMAS, type Dressing } from "../place";
import { back, carriedFrame, carriedPoint, carriedTurn, type Carry, type Tie } from "../tie";
import { namedBy, type Thing } from "./named";
import { movedKnot, movedSurface, tiesIn } from "./ties";
import type { Parts } from "./assembly-shape";
import type { Surface } from "./surface-schema";

/** What leans by less than this stands upright; what turns by less is not turned. */
const SLIGHT = 1e-6;

/** Parts elsewhere, or why their rules would come to something else there, in words that go on after “as”. */
export type Elsewhere = { parts: Parts; trouble: null } | { parts: null; trouble: string };

/**
 * @param by from where they are to where they are wanted
 * @param isTaken whether another line there has a number
 * @param nextNumber gives numbers for lines whose own is taken
 * @param isPlain whether a prop is one and the same wherever it stands, no mix and no assembly
 */
export function partsElsewhere(
  parts: Parts,
  by: Carry,
  isTaken: (number: number) => boolean,
  nextNumber: () => number,
  isPlain: (prop: string) => boolean,
): Elsewhere {
  const [x, y, z, w] = by.turn;
  if (Math.hypot(x, z) > SLIGHT) return { parts: null, trouble: "it leans" };
  const turn = 2 * Math.atan2(y, w);
  const renumbered = new Set(parts.lines.filter(({ number }) => isTaken(number)).map(({ id }) => id));
  const trouble = troubleOf(parts, Math.abs(turn) > SLIGHT, renumbered, isPlain);
  if (trouble) return { parts: null, trouble };
  const grounds = parts.surfaces.filter(({ ground }) => ground).map(({ id }) => id);
  const [flat, follows] = [flatIn(parts.dressings), followers(parts.surfaces)];
  return {
    parts: {
      lines: (parts.lines as Line[]).map((line) => ({
        ...(flat.has(line.id) ? line : lineElsewhere(line, by, turn, grounds)),
        number: renumbered.has(line.id) ? nextNumber() : line.number,
      })),
      surfaces: parts.surfaces.map((surface) => surfaceElsewhere(surface, by, follows.has(surface.id))),
      dressings: parts.dressings.map((dressing) => dressingElsewhere(dressing, by, turn, grounds)),
    },
    trouble: null,
  };
}

/** Surfaces that are made of others, or of lines, and lie where those do; copies of such ones, too. */
function followers(surfaces: readonly Surface[]): Set<string> {
  const found = new Set<string>();
  for (let size = -1; size < found.size;) {
    size = found.size;
    for (const { id, made } of surfaces) {
      if (!made) continue;
      const of = made.kind === "smoothed" ? thingsOf(made).filter((one) => found.has(one)) : [...linesOf(made), ...thingsOf(made)]; // prettier-ignore
      if (of.length > 0) found.add(id);
    }
  }
  return found;
}

/** Lines that are outlines on a sheet, wherever its surface is. */
const flatIn = (dressings: readonly Dressing[]): Set<string> =>
  new Set(dressings.flatMap(({ where }) => (kindOf(where).laysOut ? kindOf(where).lines(where) : [])));

/** Lines that are where they are in the room. */
function roomIn({ lines, surfaces, dressings }: Parts): Set<string> {
  const lineOf = () => undefined;
  const namedIn = (list: keyof Parts, thing: Thing) => [...namedBy(list, thing, lineOf).ids];
  return new Set([
    ...lines.flatMap((line) => namedIn("lines", line)),
    ...surfaces.flatMap((surface) => namedIn("surfaces", surface)),
    ...(dressings as Dressing[]).flatMap((one) => {
      const where = kindOf(one.where).laysOut ? { ...one.where, areas: [], holes: [] } : one.where;
      return namedIn("dressings", { ...one, where });
    }),
  ]);
}

function troubleOf(
  parts: Parts,
  turned: boolean,
  renumbered: ReadonlySet<string>,
  isPlain: (prop: string) => boolean,
): string | null {
  const { lines, surfaces, dressings } = parts;
  const things = [...lines, ...surfaces, ...dressings];
  if (things.some(({ courses }) => Object.keys(courses).length > 0) || surfaces.some(({ movers }) => movers.length > 0))
    return "something in it moves";
  const lineOf = (id: string) => (lines as Line[]).find((line) => line.id === id);
  const names = [
    ...lines.map((line) => namedBy("lines", line, lineOf)),
    ...dressings.map((dressing) => namedBy("dressings", dressing, lineOf)),
  ];
  if (names.some(({ anyLine }) => anyLine)) return "something in it faces the nearest line, whichever that is";
  if (names.some(({ anyGround }) => anyGround) && !surfaces.some(({ ground }) => ground))
    return "something in it looks for ground that is not there";
  const room = roomIn(parts);
  if ([...flatIn(dressings)].some((id) => room.has(id))) return "an outline on a sheet is a line in the room as well";
  const follows = followers(surfaces);
  // In their own coordinates all of these move when what they are made of does.
  const edged = (lines as Line[]).some((line) => line.laid?.kind === "edges" && follows.has(line.laid.on));
  const tied = tiesIn(parts).some(({ tie }) => tie.kind === "surface" && follows.has(tie.surface));
  if (edged || tied) return "something in it is held by a place of what is made of lines";
  for (const { name, where, gaps, sown, variation, oldPegs } of dressings as Dressing[]) {
    const on = [...where.surfaces, ...where.volumes];
    const { ordered, pins } = kindOf(where);
    const placed = !ordered && where.kind !== LOOSE;
    if (placed && ((on.length === 0 && !pins) || on.some((id) => follows.has(id))))
      return `“${name}” is dealt by places that do not go along`;
    if (where.kind === LOOSE && (variation.wanderOn || (turned && variation.positionOn)))
      return `“${name}” is moved by where it is`;
    if (turned && (sown.length > 0 || gaps.images.some(({ project }) => project === "above")))
      return `what was sown or masked in “${name}” cannot be turned`;
    if (oldPegs.length > 0) return `“${name}” has pegs of an older version`;
  }
  const drawing = (dressings as Dressing[]).find(
    (one) => one.where.lines.some((id) => renumbered.has(familyOf(id) ?? id)) && !isDrawless(one, isPlain),
  );
  return drawing ? `“${drawing.name}” would be dealt anew` : null;
}

/** Whether nothing along lines is left to chance: one prop, and in all steps that draw what they begin with. */
function isDrawless({ what, where, variation, gaps, pegs }: Dressing, isPlain: (prop: string) => boolean): boolean {
  const begins = (step: "variation" | "gaps", own: object) =>
    JSON.stringify(STEP_SCHEMAS[step].parse(step === "variation" ? { seed: variation.seed } : {})) ===
    JSON.stringify(own);
  const one = JSON.stringify(what) === JSON.stringify(STEP_SCHEMAS.what.parse({ entries: what.entries.slice(0, 1) }));
  const plain = one && what.entries.every(({ prop }) => prop === null || isPlain(prop));
  return (
    plain && begins("variation", variation) && begins("gaps", gaps) && !where.stacked && Object.keys(pegs).length === 0
  );
}

/** A tie as it was when it took hold, there. */
function tieElsewhere<T extends Tie>(tie: T, by: Carry): T {
  const { position, rotation } = carriedFrame(by, tie.stood);
  return { ...tie, stood: { ...tie.stood, position, rotation } };
}

const turnedBy = ({ turn }: Carry, direction: Vec3): Vec3 => rotate(turn, direction);

function lineElsewhere(line: Line, by: Carry, turn: number, grounds: readonly string[]): Line {
  const knots = (line.knots as Knot[]).map((knot) => ({
    ...movedKnot(knot, by),
    ...(knot.held && { held: tieElsewhere(knot.held, by) }),
  }));
  const laid = laidOf(line);
  const on = laid && laid.kind !== "edges" && laid.on.length === 0 ? [...grounds] : undefined;
  const place = line.source?.place;
  const source = line.source &&
    place &&
    !place.sheet && {
      source: {
        ...line.source,
        place: {
          ...place,
          middle: carriedPoint(by, place.middle),
          right: turnedBy(by, place.right),
          down: turnedBy(by, place.down),
        },
      },
    };
  const moved = { ...line, knots, ...source, ...("heading" in line && { heading: line.heading + turn }) } as Line;
  if (isFamily(moved)) return on ? { ...moved, on } : moved;
  if (moved.laid?.kind !== "surface") return moved;
  return { ...moved, laid: { ...moved.laid, axis: turnedBy(by, moved.laid.axis), ...(on && { on }) } };
}

function surfaceElsewhere(surface: Surface, by: Carry, follows: boolean): Surface {
  const held = surface.held && tieElsewhere(surface.held, by);
  // What was not seen in the assembly is not seen now either.
  const now = { ...surface, held, part: false, hidden: surface.hidden || !surface.part };
  if (!follows) return movedSurface(now, by);
  // Its lines go along already: it stands as it did to them.
  const undone = back(by);
  const origin = carriedPoint(by, fromStand(surface, carriedPoint(undone, [0, 0, 0])));
  return {
    ...now,
    position: origin,
    rotation: carriedTurn(by, carriedTurn({ ...by, turn: surface.rotation }, undone.turn)),
  };
}

function dressingElsewhere(dressing: Dressing, by: Carry, turn: number, grounds: readonly string[]): Dressing {
  const { where, stance, gaps, fit, pegs, sown } = dressing;
  const up = by.to[1] - by.from[1];
  const onGround = fit.drop !== "off" && fit.onto.length === 0;
  const across = carriedPoint(by, [0, 0, 0]);
  const [right, ahead] = [across[0], across[2]];
  return {
    ...dressing,
    // Headings go clockwise, as on a compass.
    stance: { ...stance, heading: stance.heading - turn, point: carriedPoint(by, stance.point) },
    fit: { ...fit, floor: fit.floor + up, onto: onGround ? [...grounds] : fit.onto },
    gaps: {
      ...gaps,
      height: [gaps.height[0] + up, gaps.height[1] + up],
      facing: gaps.facing - turn,
      images: gaps.images.map((image) => ({
        ...image,
        least: [image.least[0] + right, image.least[1] + ahead] as const,
        most: [image.most[0] + right, image.most[1] + ahead] as const,
      })),
    } as Dressing["gaps"],
    where: where.patch.tied ? { ...where, patch: { ...where.patch, tied: tieElsewhere(where.patch.tied, by) } } : where,
    pegs: pegsElsewhere(pegs, by, turn),
    sown: where.kind === LOOSE ? sown.map((one) => ({ ...one, from: carriedPoint(by, one.from) })) : sown,
  };
}

function pegsElsewhere(pegs: Dressing["pegs"], by: Carry, turn: number): Dressing["pegs"] {
  return Object.fromEntries(
    Object.entries(pegs).map(([key, peg]) => {
      const held = peg.held && { held: tieElsewhere(peg.held, by) };
      // Others say where they are in coordinates of what they lie on.
      if (peg.on !== LOOSE) return [key, { ...peg, ...held }];
      const point = peg.point && { point: carriedPoint(by, peg.point) };
      const turned = peg.hangs ? { hangs: carriedHangs(peg.hangs, by) } : { turn: (peg.turn ?? 0) + turn };
      return [key, { ...peg, ...point, ...turned, ...held }];
    }),
  );
}

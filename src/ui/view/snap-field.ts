/**
 * The snap points of props near the pointer: what is moved or drawn catches on them. Where placements are on screen is remembered
 * by dressings, in a graph of its own.
 */
import { Graph, input, query } from "@/core/graph";
import { snapFrame } from "@/core/tie";
import { lengthOf, type Vec3 } from "@/core/math";
import { FLAG, hexOf, NO_PROP, standingAt, type Key, type Placements } from "@/core/place";
import { preparedBounds, snapPointsOf, type Prop } from "@/core/scene";
import { useSceneStore } from "@/store";
import { useResults } from "../state";
import type { Aim } from "./aim";
import type { SnapTarget } from "./snap";

/** Snap points of so many placements are looked at, the nearest to the pointer. */
const MOST_NEAR = 6;
/** Those count as near that the pointer is no farther from than their own extent on screen and so many pixels. */
const NEAR = 28;

/** What is held, and so is not caught on: all of some dressings, and placements of one, by their keys. */
export interface But {
  dressings: ReadonlySet<string>;
  dressing: string | null;
  keys: ReadonlySet<Key>;
}

/** Pixels, 2n, NaN for what is not seen; and how many pixels each reaches on screen: n. */
interface OnScreen {
  pixel: Float32Array;
  reach: Float32Array;
}

/** Whence one looks, by a name that is the same as long as that is. */
const sightInput = input<{ aim: Aim; sight: string }>("sight");
const propsInput = input<readonly Prop[]>("props");
const placedInput = input<Placements>("placements");

const sizes = query(
  "sizes of props",
  (ask): ReadonlyMap<string, number> => new Map(ask(propsInput, "")!.map((prop) => [prop.id, sizeOf(prop)])),
);

const onScreen = query("on screen", (ask, dressing): OnScreen => {
  const { count, props, prop, flags, position, scale, origin } = ask(placedInput, dressing)!;
  const each = props.map((id) => ask(sizes, "").get(id) ?? 0);
  const [pixel, reach] = [new Float32Array(2 * count), new Float32Array(count)];
  ask(sightInput, "")!.aim.writePixels(position, origin, count, pixel, reach);
  for (let i = 0; i < count; i++) {
    if (prop[i] === NO_PROP || flags[i] & FLAG.blank) pixel[2 * i] = NaN;
    else reach[i] *= each[prop[i]] * Math.max(scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]);
  }
  return { pixel, reach };
});

const graph = new Graph();
const known = new Set<string>();

/** The snap points of the placements that are nearest to the pointer; of those that are held none. */
export function snapsNear(aim: Aim, but: But | null = null): SnapTarget[] {
  const { byDressing } = useResults.getState();
  const props = useSceneStore.getState().shown.props as readonly Prop[];
  graph.set(sightInput, "", { aim, sight: aim.sight });
  graph.set(propsInput, "", props);
  for (const id of known) {
    if (byDressing.has(id)) continue;
    graph.forget(id);
    known.delete(id);
  }
  const [x, y] = aim.pixel;
  const found: { far: number; dressing: string; placements: Placements; i: number }[] = [];
  for (const [dressing, { placements }] of byDressing) {
    if (but?.dressings.has(dressing)) continue;
    known.add(dressing);
    graph.set(placedInput, dressing, placements);
    const { pixel, reach } = graph.get(onScreen, dressing);
    const held = but?.dressing === dressing ? but.keys : null;
    for (let i = 0; i < reach.length; i++) {
      const far = Math.hypot(pixel[2 * i] - x, pixel[2 * i + 1] - y);
      if (far < reach[i] + NEAR && !held?.has(placements.key[i])) found.push({ far, dressing, placements, i });
    }
  }
  found.sort((a, b) => a.far - b.far);
  const byId = new Map(props.map((prop) => [prop.id, prop]));
  return found.slice(0, MOST_NEAR).flatMap(({ dressing, placements, i }) => snapsOf(byId, dressing, placements, i));
}

function snapsOf(props: ReadonlyMap<string, Prop>, dressing: string, placements: Placements, i: number): SnapTarget[] {
  const standing = standingAt(placements, i);
  const prop = props.get(standing.prop ?? "");
  if (!prop) return [];
  return snapPointsOf(prop).map((snap): SnapTarget => {
    const frame = snapFrame(standing, snap);
    const key = hexOf(placements.key[i]);
    return {
      position: frame.position,
      frame,
      free: snap.free,
      what: `${snap.name} of ${prop.name}`,
      ...(snap.own && { name: snap.name }),
      tie: () => ({ kind: "placement", dressing, key, snap: snap.name, stood: frame }),
    };
  });
}

/** How far a prop reaches from its pivot at most, metres. */
function sizeOf(prop: Prop): number {
  const { min, max } = preparedBounds(prop);
  return lengthOf([0, 1, 2].map((k) => Math.max(-min[k], max[k])) as unknown as Vec3);
}

/** *What can be taken hold of on the sheet besides placements*: knots of lines that lie there, and the corner that sizes one placement. */
import { subtract, type Vec3 } from "@/core/math";
import { hexOf, indicesOf, type Dressing, type Key } from "@/core/place";
import { omit } from "@/core/schema";
import type { Scene } from "@/core/scene";
import { dressingOf, lineOf, millimetre, moveKnots, setSize, writePegs } from "../state";
import { isShown, middleOf } from "./model";
import type { SheetScene } from "./sheet-scene";
import type { Draft } from "immer";

type Place = readonly [x: number, z: number];

export type Grip =
  | { kind: "knot"; line: string; knot: number; point: Vec3 }
  | { kind: "size"; key: Key; middle: Place; far: number; was: number };

export const GRIP_LABELS: Readonly<Record<Grip["kind"], string>> = {
  knot: "Move knot",
  size: "Size of placement",
};
export const GRIP_CURSORS: Readonly<Record<Grip["kind"], string>> = { knot: "move", size: "nwse-resize" };

/** No size goes beyond these. */
const [LEAST, MOST] = [0.001, 1e6];

/** Knots and corners are taken hold of within so many pixels. */
const GRIP = 6;
/** Of what is smaller than this from its middle to its corner, pixels, there would be nothing left to be dragged by. */
const ROOM = 3 * GRIP;

/**
 * Where the placement that is selected alone can be sized: the corner of its footprint that lies lowest, and most to the right.
 *
 * @param scale pixels a metre
 */
export function sizeCorner({ placements: p, corners, selected }: SheetScene, scale: number): SizeCorner | null {
  if (selected.size !== 1) return null;
  const [i] = indicesOf(p.key, selected);
  // A line's own props are as large as its rules have them.
  if (i === undefined || !isShown(p, i) || p.lines.length > 0) return null;
  let best = 8 * i;
  for (let c = 8 * i; c < 8 * i + 8; c += 2)
    if (corners[c] + corners[c + 1] > corners[best] + corners[best + 1]) best = c;
  const [at, middle]: Place[] = [[corners[best], corners[best + 1]], middleOf(corners, i)];
  const far = Math.hypot(at[0] - middle[0], at[1] - middle[1]);
  // What is not shown lies nowhere.
  return far * scale >= ROOM ? { key: p.key[i], at, middle, far } : null;
}

interface SizeCorner {
  key: Key;
  at: Place;
  middle: Place;
  /** From the one to the other, metres. */
  far: number;
}

/** What can be taken hold of near a place. @param scale pixels a metre */
export function gripAt(scene: SheetScene, dressing: Dressing, [x, z]: Place, scale: number): Grip | null {
  const isNear = ([ax, az]: Place) => Math.hypot(ax - x, az - z) * scale <= GRIP;
  const corner = sizeCorner(scene, scale);
  if (corner && isNear(corner.at))
    return { kind: "size", ...omit(corner, "at"), was: dressing.pegs[hexOf(corner.key)]?.size ?? 1 };
  const knot = scene.knots.findLast(({ at }) => isNear(at));
  return knot ? { kind: "knot", line: knot.line, knot: knot.knot, point: knot.point } : null;
}

/** Writes what a grip does that has been dragged to a place; nothing beside the surface. */
export function dragGrip(draft: Draft<Scene>, scene: SheetScene, dressing: string, grip: Grip, to: Place): void {
  if (grip.kind === "knot") {
    const line = lineOf(draft, grip.line);
    const place = scene.charts?.toWorld(...to);
    const by = place && subtract(place.point, grip.point).map(millimetre);
    if (line && by) moveKnots(line, new Map([[grip.knot, grip.point]]), by as unknown as Vec3);
    return;
  }
  const own = dressingOf(draft, dressing);
  const times = Math.hypot(to[0] - grip.middle[0], to[1] - grip.middle[1]) / grip.far;
  const size = Number(Math.min(MOST, Math.max(LEAST, grip.was * times)).toPrecision(3));
  if (own && Number.isFinite(size)) writePegs(own, [grip.key], (peg) => setSize(peg, size));
}

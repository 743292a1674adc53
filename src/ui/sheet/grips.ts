/** *What can be taken hold of on the sheet besides placements*: knots of lines that lie there, the corner that sizes one placement, and the sides that stretch it. */
import { subtract, type Vec3 } from "@/core/math";
import { hexOf, indicesOf, type Dressing, type Key } from "@/core/place";
import { omit } from "@/core/schema";
import type { Scene } from "@/core/scene";
import { dressingOf, lineOf, millimetre, moveKnots, setSize, setStretch, writePegs } from "../state";
import { isShown, middleOf } from "./model";
import type { SheetScene } from "./sheet-scene";
import type { Draft } from "immer";

type Place = readonly [x: number, z: number];

export type Grip =
  | { kind: "knot"; line: string; knot: number; point: Vec3 }
  | { kind: "size"; key: Key; middle: Place; far: number; was: number }
  | { kind: "stretch"; key: Key; middle: Place; side: Place; axis: number; was: number };

export const GRIP_LABELS: Readonly<Record<Grip["kind"], string>> = {
  knot: "Move knot",
  size: "Size of placement",
  stretch: "Stretch placement",
};
export const GRIP_CURSORS: Readonly<Record<Grip["kind"], string>> = {
  knot: "move",
  size: "nwse-resize",
  stretch: "move",
};

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

/**
 * Where the same can be stretched: on two sides of its footprint, for its width and its depth, the ones lower or more to the right.
 */
export function stretchSides(scene: SheetScene, scale: number): StretchSide[] {
  const corner = sizeCorner(scene, scale);
  if (!corner) return [];
  const { key, middle } = corner;
  const [i] = indicesOf(scene.placements.key, [key]);
  const at = (c: number, axis: number) => scene.corners[8 * i + 2 * c + axis];
  // Its corners are left in front, right in front, right behind, left behind: width and depth lie between two pairs of them.
  return ([[0, [0, 3]], [2, [0, 1]]] as const).map(([axis, [a, b]]): StretchSide => {
    const way = [0, 1].map((k) => (at(a, k) + at(b, k)) / 2 - middle[k]);
    const sign = way[0] + way[1] < 0 ? -1 : 1;
    const side: Place = [middle[0] + sign * way[0], middle[1] + sign * way[1]];
    return { key, middle, side, axis };
  }); // prettier-ignore
}

interface StretchSide {
  key: Key;
  middle: Place;
  side: Place;
  /** Which of the prop's own: 0 for its width, 2 for its depth. */
  axis: number;
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
  const side = stretchSides(scene, scale).find((one) => isNear(one.side));
  if (side) return { kind: "stretch", ...side, was: dressing.pegs[hexOf(side.key)]?.stretch?.[side.axis] ?? 1 };
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
  const [x, z] = [to[0] - grip.middle[0], to[1] - grip.middle[1]];
  const size = timesByHand(grip.was * (grip.kind === "size" ? Math.hypot(x, z) / grip.far : alongSide(grip, x, z)));
  if (!own || !Number.isFinite(size)) return;
  writePegs(own, [grip.key], (peg) => {
    if (grip.kind === "size") setSize(peg, size);
    else setStretch(peg, grip.axis, size);
  });
}

const timesByHand = (times: number): number => Number(Math.min(MOST, Math.max(LEAST, times)).toPrecision(3));

/** How far a way goes towards a side, as a share of the way there. */
function alongSide({ middle, side }: Pick<StretchSide, "middle" | "side">, x: number, z: number): number {
  const [a, b] = [side[0] - middle[0], side[1] - middle[1]];
  return Math.abs(x * a + z * b) / (a * a + b * b);
}

/**
 * *What takes a flat layout over to a surface*: a handle that it is held at (`held.ts`), or the surface laid flat itself
 * (`wrapped.ts`).
 */
import type { Vec3 } from "../../math";
import type { WorldMesh } from "../../mesh";
import type { Spread } from "../slots";

/** To the right and ahead, metres. */
export type FlatPlace = readonly [right: number, ahead: number];

export interface Carrier {
  /**
   * Writes where places of the layout come to lie on the surface, their normals and which way is ahead there.
   *
   * @param there 1 for each that has a place, else 0
   */
  carry(x: Float64Array, y: Float64Array, out: Spread, there: Uint8Array): void;
  /**
   * Which place of the layout comes to lie at a point of the surface; null where none is found.
   *
   * @param near about where in the layout it is looked for
   */
  find(point: Vec3, near: FlatPlace): FlatPlace | null;
}

export const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: ArrayLike<number>, b: ArrayLike<number>): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The part of a direction that is square to a unit vector, one long; null where there is none. */
export function squareTo(up: ArrayLike<number>, direction: ArrayLike<number>): Vec3 | null {
  const along = dot(up, direction);
  const flat = [0, 1, 2].map((k) => direction[k] - along * up[k]);
  const length = Math.hypot(...flat);
  return length > 1e-6 ? (flat.map((x) => x / length) as unknown as Vec3) : null;
}

const normal = new Float64Array(3);

/** Writes a place on a triangle, or off it, and what is ahead there. */
export function put(
  out: Spread,
  i: number,
  ground: WorldMesh,
  triangle: number,
  point: ArrayLike<number>,
  ahead: Vec3,
): void {
  ground.flatNormal(triangle, normal);
  out.triangle[i] = triangle;
  for (let k = 0; k < 3; k++) out.position[3 * i + k] = point[k];
  out.normal.set(normal, 3 * i);
  out.ahead!.set(squareTo(normal, ahead) ?? ahead, 3 * i);
}

/** Places found so much alike, metres, are one. */
const FOUND = 1e-6;
const TRIES = 40;

/**
 * Looks for the place of a layout that is carried to a point: from where it is now the layout goes on by as much as is missing,
 * as ahead and to the right lie there (Newton's method with a carried frame; it settles wherever the surface bends less than
 * the way is long).
 */
export function findByTries(
  lay: (x: number, y: number, i: number, out: Spread) => boolean,
  point: Vec3,
  near: FlatPlace,
  out: Spread,
): FlatPlace | null {
  let [x, y] = near;
  let best: { place: FlatPlace; off: number } | null = null;
  for (let tried = 0; tried < TRIES; tried++) {
    if (!lay(x, y, 0, out)) break;
    const off = [0, 1, 2].map((k) => point[k] - out.position[k]);
    const right = cross(out.ahead!, out.normal);
    const [toRight, ahead] = [dot(off, right), dot(off, out.ahead!)];
    const missing = Math.hypot(toRight, ahead);
    if (best && missing >= 2 * best.off) break;
    if (!best || missing < best.off) best = { place: [x, y], off: missing };
    if (missing < FOUND) break;
    [x, y] = [x + toRight, y + ahead];
  }
  return best?.place ?? null;
}

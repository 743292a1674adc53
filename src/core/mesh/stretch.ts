/** *How much longer or shorter a mesh's ways become* when its triangles are laid elsewhere: by their singular values. */
import type { Points } from "./facets";

/** The way from a triangle to its place: how long a unit becomes at most and at least, below 0 where it turns over. */
export interface Singular {
  most: number;
  least: number;
}

/**
 * @param flat the triangle by itself, its first corner at 0: x of the second, x and y of the third; y is above 0
 * @param laid its corners where they lie: x and y of the first, of the second, of the third
 */
export function singularValues(flat: readonly [number, number, number], laid: ArrayLike<number>, out: Singular): void {
  const [side, along, high] = flat;
  const ux = (laid[2] - laid[0]) / side;
  const uy = (laid[3] - laid[1]) / side;
  const vx = (laid[4] - laid[0] - along * ux) / high;
  const vy = (laid[5] - laid[1] - along * uy) / high;
  const turn = Math.hypot(ux + vy, uy - vx) / 2;
  const flip = Math.hypot(ux - vy, uy + vx) / 2;
  out.most = turn + flip;
  out.least = turn - flip;
}

/** By how many times lengths are off in each triangle, at least 1: m. Those without area count as true. */
export function triangleStretch(
  { position: P, index }: Points,
  laid: Uint32Array,
  flat: ArrayLike<number>,
): Float64Array {
  const off = new Float64Array(index.length / 3).fill(1);
  const own: [number, number, number] = [0, 0, 0];
  const corners = new Float64Array(6);
  const singular: Singular = { most: 1, least: 1 };
  for (let t = 0; t < off.length; t++) {
    if (!asFlat(P, 3 * index[3 * t], 3 * index[3 * t + 1], 3 * index[3 * t + 2], own)) continue;
    for (let k = 0; k < 3; k++) {
      corners[2 * k] = flat[3 * laid[3 * t + k]];
      corners[2 * k + 1] = flat[3 * laid[3 * t + k] + 2];
    }
    singularValues(own, corners, singular);
    off[t] = timesOff(singular);
  }
  return off;
}

/** A height of less than this share of its side is none. */
const THIN = 1e-6;

/** Lays a triangle flat by itself; false where it has no area. */
export function asFlat(P: ArrayLike<number>, a: number, b: number, c: number, out: [number, number, number]): boolean {
  let [uu, uv, vv] = [0, 0, 0];
  for (let axis = 0; axis < 3; axis++) {
    const [u, v] = [P[b + axis] - P[a + axis], P[c + axis] - P[a + axis]];
    uu += u * u;
    uv += u * v;
    vv += v * v;
  }
  const side = Math.sqrt(uu);
  const high = Math.sqrt(Math.max(0, vv - (uu > 0 ? (uv * uv) / uu : 0)));
  if (!(side > 0) || !(high > THIN * Math.sqrt(Math.max(uu, vv)))) return false;
  out[0] = side;
  out[1] = uv / side;
  out[2] = high;
  return true;
}

/** Longer or shorter alike. */
export const timesOff = ({ most, least }: Singular): number => Math.max(most, 1 / Math.max(Math.abs(least), 1e-9));

/** By how many times lengths are off at most beside a share of the area where it is worst. */
export function offBeside(off: ArrayLike<number>, area: ArrayLike<number>, share: number): number {
  const order = Uint32Array.from({ length: off.length }, (_, t) => t).sort((a, b) => off[b] - off[a]);
  let left = 0;
  for (let t = 0; t < area.length; t++) left += share * area[t];
  for (const t of order) {
    left -= area[t];
    if (left < 0) return off[t];
  }
  return order.length > 0 ? off[order[order.length - 1]] : 1;
}

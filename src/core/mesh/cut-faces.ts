/**
 * *Triangles that a rim cut off*: the whole ones that each is a part of. Whatever is dealt out over a mesh is dealt over the
 * whole ones, and what lies beyond the rim left out; so a rim that moves a little deals nothing anew behind it.
 */
import { weightsIn } from "./barycentric";
import type { Points } from "./facets";

export interface CutFaces {
  /** The triangle that is a part, ascending; one that reaches over several whole ones comes once for each: k. */
  triangle: Uint32Array;
  /** What the whole one is known by: k. */
  name: Uint32Array;
  /** The whole one's corners as weights of the second and third corner of its part, beyond 0 to 1 mostly: 6k. */
  corners: Float64Array;
}

/** How far out of a triangle, as a weight, a point may lie by rounding. */
const ROUNDING = 1e-9;
const weights = new Float64Array(3);

export function isWithin(ground: Points, t: number, x: number, y: number, z: number): boolean {
  weightsIn(ground, t, x, y, z, weights);
  return Math.min(weights[0], weights[1], weights[2]) >= -ROUNDING;
}

/** Those of some of the mesh's triangles, which are numbered anew. */
export function cutFacesAmong({ triangle, name, corners }: CutFaces, numbers: Uint32Array): CutFaces {
  const taken: number[] = [];
  const part: number[] = [];
  for (let i = 0, t = 0; i < triangle.length; i++) {
    while (t < numbers.length && numbers[t] < triangle[i]) t++;
    if (numbers[t] !== triangle[i]) continue;
    taken.push(i);
    part.push(t);
  }
  return {
    triangle: Uint32Array.from(part),
    name: Uint32Array.from(taken, (i) => name[i]),
    corners: Float64Array.from(taken.flatMap((i) => [...corners.subarray(6 * i, 6 * i + 6)])),
  };
}

/** Writes the corners (9) of the i-th whole one, in the plane of its part; gives how many times as large as that it is. */
export function writeWhole({ position: P, index }: Points, cut: CutFaces, i: number, out: Float64Array): number {
  const t = 3 * cut.triangle[i];
  const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
  const { corners: w } = cut;
  for (let k = 0, o = 6 * i; k < 3; k++, o += 2) {
    for (let axis = 0; axis < 3; axis++) {
      const at = P[a + axis];
      out[3 * k + axis] = at + w[o] * (P[b + axis] - at) + w[o + 1] * (P[c + axis] - at);
    }
  }
  const o = 6 * i;
  return Math.abs((w[o + 2] - w[o]) * (w[o + 5] - w[o + 1]) - (w[o + 4] - w[o]) * (w[o + 3] - w[o + 1]));
}

/** The parts of each whole one, by their indices, ascending; in the order of their first ones. */
export function wholesOf({ name }: CutFaces): number[][] {
  const parts = new Map<number, number[]>();
  name.forEach((one, i) => {
    const known = parts.get(one);
    if (known) known.push(i);
    else parts.set(one, [i]);
  });
  return [...parts.values()];
}

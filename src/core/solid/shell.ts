/** *A surface that gets a thickness*: its two sides, and walls along its rims. */
import { nextOf, RIM, twinsOf, weldedVertices, type Points } from "../mesh";
import type { ClosedMesh } from "./closed";
import type { Shell } from "../made";

/** At an edge the sides are further apart than the thickness, so that it is right on the faces; by no more than so many times. */
const MOST_WIDER = 3;

export interface Shelled {
  /** Null where the surface has no faces. */
  body: ClosedMesh | null;
  /** How many faces of a side are turned over, because the surface bends more sharply than the shell is thick. */
  folded: number;
}

/** The shell of a mesh, in its own coordinates. */
export function shellOf({ thickness, side }: Pick<Shell, "thickness" | "side">, mesh: Points): Shelled {
  const vertex = weldedVertices(mesh.position);
  const index: number[] = [];
  for (let t = 0; t + 2 < mesh.index.length; t += 3) {
    const [a, b, c] = [vertex[mesh.index[t]], vertex[mesh.index[t + 1]], vertex[mesh.index[t + 2]]];
    if (a !== b && b !== c && c !== a) index.push(a, b, c);
  }
  if (index.length === 0) return { body: null, folded: 0 };
  const P = mesh.position;
  const n = P.length / 3;
  const away = offsetsOf(P, index);
  const [outer, inner] =
    side === "out" ? [thickness, 0] : side === "in" ? [0, -thickness] : [thickness / 2, -thickness / 2];
  const position = new Float32Array(6 * n);
  for (let p = 0; p < 3 * n; p++) {
    position[p] = P[p] + outer * away[p];
    position[3 * n + p] = P[p] + inner * away[p];
  }
  const all = [...index];
  for (let t = 0; t < index.length; t += 3) all.push(n + index[t], n + index[t + 2], n + index[t + 1]);
  const twins = twinsOf(index, n);
  for (let e = 0; e < index.length; e++) {
    if (twins[e] !== RIM) continue;
    const [a, b] = [index[e], index[nextOf(e)]];
    all.push(b, a, n + a, b, n + a, n + b);
  }
  return { body: { position, index: Uint32Array.from(all) }, folded: turnedOver(P, position, index, n) };
}

/**
 * How far each vertex goes for a side at distance 1: along the mean normal by angles (Thürmer, Wüthrich, 1998), as far as it
 * takes to be that far from the planes of its faces.
 */
function offsetsOf(P: ArrayLike<number>, index: readonly number[]): Float64Array {
  const normals = new Float64Array(P.length);
  const faces = new Float64Array(index.length);
  const angles = new Float64Array(index.length);
  for (let t = 0; t < index.length; t += 3) {
    const corner = (k: number) => 3 * index[t + (k % 3)];
    const edge = (k: number, c: number) => P[corner(k + 1) + c] - P[corner(k) + c];
    const [ux, uy, uz] = [0, 1, 2].map((c) => edge(0, c));
    const [vx, vy, vz] = [0, 1, 2].map((c) => edge(1, c));
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.hypot(...normal) || 1;
    for (let c = 0; c < 3; c++) faces[t + c] = normal[c] / size;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [[0, 1, 2].map((c) => edge(k, c)), [0, 1, 2].map((c) => -edge(k + 2, c))];
      const cosine = (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (Math.hypot(...a) * Math.hypot(...b) || 1);
      angles[t + k] = Math.acos(Math.max(-1, Math.min(1, cosine)));
      for (let c = 0; c < 3; c++) normals[corner(k) + c] += angles[t + k] * faces[t + c];
    }
  }
  for (let p = 0; p < normals.length; p += 3) {
    const size = Math.hypot(normals[p], normals[p + 1], normals[p + 2]) || 1;
    for (let c = 0; c < 3; c++) normals[p + c] /= size;
  }
  const [sums, weights] = [new Float64Array(P.length / 3), new Float64Array(P.length / 3)];
  for (let e = 0; e < index.length; e++) {
    const [v, t] = [index[e], e - (e % 3)];
    const along = [0, 1, 2].reduce((sum, c) => sum + normals[3 * v + c] * faces[t + c], 0);
    sums[v] += angles[e] * along;
    weights[v] += angles[e];
  }
  for (let v = 0; v < sums.length; v++) {
    const along = weights[v] > 0 ? sums[v] / weights[v] : 1;
    const far = 1 / Math.max(1 / MOST_WIDER, along);
    for (let c = 0; c < 3; c++) normals[3 * v + c] *= far;
  }
  return normals;
}

/** How many faces of either side look the other way than on the surface. */
function turnedOver(P: ArrayLike<number>, sides: Float32Array, index: readonly number[], n: number): number {
  const normalOf = (Q: ArrayLike<number>, t: number, offset: number): [number, number, number] => {
    const [a, b, c] = [0, 1, 2].map((k) => 3 * (index[t + k] + offset));
    const [ux, uy, uz] = [Q[b] - Q[a], Q[b + 1] - Q[a + 1], Q[b + 2] - Q[a + 2]];
    const [vx, vy, vz] = [Q[c] - Q[a], Q[c + 1] - Q[a + 1], Q[c + 2] - Q[a + 2]];
    return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  };
  let turned = 0;
  for (let t = 0; t < index.length; t += 3) {
    const own = normalOf(P, t, 0);
    if ([0, n].some((offset) => normalOf(sides, t, offset).reduce((sum, x, k) => sum + x * own[k], 0) < 0)) turned++;
  }
  return turned;
}

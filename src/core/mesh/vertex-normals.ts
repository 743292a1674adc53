/**
 * Smooth normals at the vertices of a mesh that moves: those at one place alike, each triangle counting by its angle there
 * (G. Thürmer, C. A. Wüthrich, *Computing Vertex Normals from Polygonal Facets*, Journal of Graphics Tools 3(1), 1998). The
 * angles are those at rest, so that a moment needs no more than a cross product a triangle.
 */
import { weldedVertices } from "./adjacency";
import type { Points } from "./facets";

export interface CornerWeights {
  /** For each corner of each triangle where the place that it lies at has its normal: 3m, multiples of 3. */
  at: Uint32Array;
  /** For each vertex the first one at its place: v. */
  welded: Uint32Array;
  /** The angle of each corner over twice the area of its triangle: 3m. */
  weight: Float32Array;
}

export function cornerWeightsOf({ position: P, index }: Points): CornerWeights {
  const welded = weldedVertices(P);
  const at = new Uint32Array(index.length);
  const weight = new Float32Array(index.length);
  for (let c = 0; c < index.length; c++) {
    at[c] = 3 * welded[index[c]];
    const t = c - (c % 3);
    const [p, q, r] = [3 * index[c], 3 * index[t + ((c + 1) % 3)], 3 * index[t + ((c + 2) % 3)]];
    const [ux, uy, uz] = [P[q] - P[p], P[q + 1] - P[p + 1], P[q + 2] - P[p + 2]];
    const [vx, vy, vz] = [P[r] - P[p], P[r + 1] - P[p + 1], P[r + 2] - P[p + 2]];
    const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    weight[c] = area > 0 ? Math.atan2(area, ux * vx + uy * vy + uz * vz) / area : 0;
  }
  return { at, welded, weight };
}

/** What sums are gathered in, as large as the largest mesh so far. */
let sums = new Float64Array(0);

/**
 * Writes unit normals (3v) of a mesh whose vertices have gone somewhere; zero where it has no area.
 *
 * @param position of its vertices: 3v
 * @param corners of the same mesh at rest
 */
export function writeVertexNormals(
  position: Float64Array,
  { at, welded, weight }: CornerWeights,
  out: Float32Array,
): void {
  if (sums.length < position.length) sums = new Float64Array(position.length);
  const N = sums;
  N.fill(0, 0, position.length);
  // What lies at one place is read at one place: seams stay closed.
  for (let c = 0; c < at.length; c += 3) {
    const i = at[c];
    const j = at[c + 1];
    const k = at[c + 2];
    const x = position[i];
    const y = position[i + 1];
    const z = position[i + 2];
    const ux = position[j] - x;
    const uy = position[j + 1] - y;
    const uz = position[j + 2] - z;
    const vx = position[k] - x;
    const vy = position[k + 1] - y;
    const vz = position[k + 2] - z;
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const wi = weight[c];
    const wj = weight[c + 1];
    const wk = weight[c + 2];
    N[i] += wi * nx;
    N[i + 1] += wi * ny;
    N[i + 2] += wi * nz;
    N[j] += wj * nx;
    N[j + 1] += wj * ny;
    N[j + 2] += wj * nz;
    N[k] += wk * nx;
    N[k + 1] += wk * ny;
    N[k + 2] += wk * nz;
  }
  for (let v = 0; v < welded.length; v++) {
    const from = welded[v];
    const p = 3 * v;
    if (from < v) {
      out[p] = out[3 * from];
      out[p + 1] = out[3 * from + 1];
      out[p + 2] = out[3 * from + 2];
      continue;
    }
    const x = N[p];
    const y = N[p + 1];
    const z = N[p + 2];
    const squared = x * x + y * y + z * z;
    const inverse = squared > 0 ? 1 / Math.sqrt(squared) : 0;
    out[p] = x * inverse;
    out[p + 1] = y * inverse;
    out[p + 2] = z * inverse;
  }
}

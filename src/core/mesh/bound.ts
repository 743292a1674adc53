/**
 * *Places bound to meshes*: in which triangle each lies, by barycentric weights, and how high above it; so that they go along
 * wherever the mesh goes and however it bends.
 *
 *     const bound = bind([sail], which, points);
 *     carryPoints(bound, [sail.at(stand, billowed)], out); // 3n, metres
 */
import { weightsIn } from "./barycentric";
import type { Met } from "./ray-tree";
import type { WorldMesh } from "./world-mesh";

export interface Bound {
  count: number;
  /** Which of the meshes each is bound to: n; {@link UNBOUND} for none. */
  which: Uint16Array;
  triangle: Uint32Array;
  /** Of the triangle's corners: 3n. */
  weight: Float64Array;
  /** Along the triangle's normal, metres: n. */
  height: Float64Array;
}

export const UNBOUND = 0xffff;

/**
 * @param meshes at rest; null for those that nothing is bound to
 * @param which of them each place lies on: n
 * @param points world coordinates, metres: 3n
 * @param triangle that each lies in: n; null to look for the nearest
 */
export function bind(
  meshes: readonly (WorldMesh | null)[],
  which: Uint16Array,
  points: Float64Array,
  triangle: Uint32Array | null,
): Bound {
  const count = which.length;
  const bound: Bound = {
    count,
    which: which.slice(),
    triangle: triangle?.slice() ?? new Uint32Array(count),
    weight: new Float64Array(3 * count),
    height: new Float64Array(count),
  };
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  const weights = new Float64Array(3);
  const normal = new Float64Array(3);
  for (let i = 0; i < count; i++) {
    const mesh = which[i] === UNBOUND ? null : meshes[which[i]];
    if (!mesh) {
      bound.which[i] = UNBOUND;
      continue;
    }
    const [x, y, z] = [points[3 * i], points[3 * i + 1], points[3 * i + 2]];
    if (!triangle) {
      mesh.tree.nearest(x, y, z, met);
      if (met.triangle < 0) bound.which[i] = UNBOUND;
      bound.triangle[i] = Math.max(0, met.triangle);
    }
    const t = bound.triangle[i];
    weightsIn(mesh, t, x, y, z, weights);
    bound.weight.set(weights, 3 * i);
    mesh.flatNormal(t, normal);
    const { index, position: P } = mesh;
    for (let axis = 0; axis < 3; axis++) {
      let foot = 0;
      for (let k = 0; k < 3; k++) foot += weights[k] * P[3 * index[3 * t + k] + axis];
      bound.height[i] += (points[3 * i + axis] - foot) * normal[axis];
    }
  }
  return bound;
}

/**
 * Writes where bound places are (3n) on meshes at a moment. What is bound to none, or to one that is null, is left as it is.
 */
export function carryPoints(bound: Bound, now: readonly (WorldMesh | null)[], out: Float64Array): void {
  const { count, which, triangle, weight: W, height } = bound;
  for (let i = 0; i < count; i++) {
    const mesh = which[i] === UNBOUND ? null : now[which[i]];
    if (!mesh) continue;
    const { index, position: P } = mesh;
    const t = 3 * triangle[i];
    const a = 3 * index[t];
    const b = 3 * index[t + 1];
    const c = 3 * index[t + 2];
    const p = 3 * i;
    const u = W[p];
    const v = W[p + 1];
    const w = W[p + 2];
    const h = height[i];
    out[p] = u * P[a] + v * P[b] + w * P[c];
    out[p + 1] = u * P[a + 1] + v * P[b + 1] + w * P[c + 1];
    out[p + 2] = u * P[a + 2] + v * P[b + 2] + w * P[c + 2];
    if (h === 0) continue;
    const ux = P[b] - P[a];
    const uy = P[b + 1] - P[a + 1];
    const uz = P[b + 2] - P[a + 2];
    const vx = P[c] - P[a];
    const vy = P[c + 1] - P[a + 1];
    const vz = P[c + 2] - P[a + 2];
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
    const out1 = length > 0 ? h / length : 0;
    out[p] += out1 * nx;
    out[p + 1] += out1 * ny;
    out[p + 2] += out1 * nz;
  }
}

/** A direction at a triangle of a mesh as it goes along with it: stretched and turned as the triangle is. */
export function carryDirection(
  rest: WorldMesh,
  now: WorldMesh,
  t: number,
  direction: ArrayLike<number>,
  out: Float64Array,
): void {
  const [x, y, z] = [direction[0], direction[1], direction[2]];
  edgesOf(rest, t, before);
  edgesOf(now, t, after);
  const [ux, uy, uz, vx, vy, vz, nx, ny, nz] = before;
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const uv = ux * vx + uy * vy + uz * vz;
  const du = ux * x + uy * y + uz * z;
  const dv = vx * x + vy * y + vz * z;
  const squared = uu * vv - uv * uv;
  const p = squared > 0 ? (vv * du - uv * dv) / squared : 0;
  const q = squared > 0 ? (uu * dv - uv * du) / squared : 0;
  const n = nx * x + ny * y + nz * z;
  for (let axis = 0; axis < 3; axis++) out[axis] = p * after[axis] + q * after[3 + axis] + n * after[6 + axis];
}

const before = new Float64Array(9);
const after = new Float64Array(9);

/** Two edges of a triangle from its first corner, and its unit normal. */
function edgesOf({ index, position: P }: WorldMesh, t: number, out: Float64Array): void {
  const [a, b, c] = [3 * index[3 * t], 3 * index[3 * t + 1], 3 * index[3 * t + 2]];
  for (let axis = 0; axis < 3; axis++) {
    out[axis] = P[b + axis] - P[a + axis];
    out[3 + axis] = P[c + axis] - P[a + axis];
  }
  const nx = out[1] * out[5] - out[2] * out[4];
  const ny = out[2] * out[3] - out[0] * out[5];
  const nz = out[0] * out[4] - out[1] * out[3];
  const length = Math.hypot(nx, ny, nz);
  const inverse = length > 0 ? 1 / length : 0;
  out[6] = nx * inverse;
  out[7] = ny * inverse;
  out[8] = nz * inverse;
}

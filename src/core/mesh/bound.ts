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
  /** How many are bound, of those that were given; they are sorted by mesh and triangle, as they are read fastest. */
  count: number;
  /** Which of those given each is: n. */
  slot: Uint32Array;
  /** Which of the meshes each is bound to: n. */
  which: Uint16Array;
  triangle: Uint32Array;
  /** Where the triangle's corners begin among the mesh's positions: 3n. */
  corner: Uint32Array;
  /** Of the triangle's corners: 3n. */
  weight: Float64Array;
  /** Along the triangle's normal, metres: n. */
  height: Float64Array;
  /** A direction of the mesh's, along the triangle's first edge and its second from the same corner: 2n. */
  ahead: Float64Array;
}

/** What lies on none of the meshes. */
export const UNBOUND = 0xffff;

/**
 * @param meshes at rest; null for those that nothing is bound to
 * @param which of them each place lies on, or {@link UNBOUND}
 * @param points world coordinates, metres, 3 numbers each
 * @param triangle that each lies in; null to look for the nearest
 * @param directions of each mesh, which go along with it; or of each place, 3 numbers each
 */
export function bind(
  meshes: readonly (WorldMesh | null)[],
  which: Uint16Array,
  points: Float64Array,
  triangle: Uint32Array | null,
  directions: readonly (readonly number[])[] | Float32Array = [],
): Bound {
  const found = triangle ?? nearestTriangles(meshes, which, points);
  const slot = inOrder(meshes, which, found);
  const count = slot.length;
  const bound: Bound = {
    count,
    slot,
    which: new Uint16Array(count),
    triangle: new Uint32Array(count),
    corner: new Uint32Array(3 * count),
    weight: new Float64Array(3 * count),
    height: new Float64Array(count),
    ahead: new Float64Array(2 * count),
  };
  const weights = new Float64Array(3);
  const normal = new Float64Array(3);
  for (let i = 0; i < count; i++) {
    const p = 3 * slot[i];
    const mesh = meshes[(bound.which[i] = which[slot[i]])]!;
    const t = (bound.triangle[i] = found[slot[i]]);
    const { index, position: P } = mesh;
    weightsIn(mesh, t, points[p], points[p + 1], points[p + 2], weights);
    bound.weight.set(weights, 3 * i);
    for (let k = 0; k < 3; k++) bound.corner[3 * i + k] = 3 * index[3 * t + k];
    const direction = directions instanceof Float32Array ? directions.subarray(p, p + 3) : directions[which[slot[i]]];
    if (direction) bound.ahead.set(alongEdges(mesh, t, direction), 2 * i);
    mesh.flatNormal(t, normal);
    for (let axis = 0; axis < 3; axis++) {
      let foot = 0;
      for (let k = 0; k < 3; k++) foot += weights[k] * P[bound.corner[3 * i + k] + axis];
      bound.height[i] += (points[p + axis] - foot) * normal[axis];
    }
  }
  return bound;
}

const NONE = 0xffffffff;

function nearestTriangles(
  meshes: readonly (WorldMesh | null)[],
  which: Uint16Array,
  points: Float64Array,
): Uint32Array {
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  const out = new Uint32Array(which.length).fill(NONE);
  for (let i = 0; i < which.length; i++) {
    const mesh = which[i] === UNBOUND ? null : meshes[which[i]];
    if (!mesh) continue;
    mesh.tree.nearest(points[3 * i], points[3 * i + 1], points[3 * i + 2], met);
    if (met.triangle >= 0) out[i] = met.triangle;
  }
  return out;
}

/** Which of some places lie on any mesh, sorted by mesh and triangle. */
function inOrder(meshes: readonly (WorldMesh | null)[], which: Uint16Array, triangle: Uint32Array): Uint32Array {
  const slots: number[] = [];
  for (let i = 0; i < which.length; i++)
    if (which[i] !== UNBOUND && meshes[which[i]] && triangle[i] !== NONE) slots.push(i);
  return Uint32Array.from(slots).sort((i, j) => which[i] - which[j] || triangle[i] - triangle[j] || i - j);
}

/** Writes where bound places are on meshes at a moment, 3 numbers each; what is bound to none is left as it is. */
export function carryPoints(bound: Bound, now: readonly (WorldMesh | null)[], out: Float64Array): void {
  const { count, slot, which, corner: C, weight: W, height } = bound;
  for (let i = 0; i < count; i++) {
    const mesh = now[which[i]];
    if (!mesh) continue;
    const P = mesh.position;
    const a = C[3 * i];
    const b = C[3 * i + 1];
    const c = C[3 * i + 2];
    const p = 3 * slot[i];
    const u = W[3 * i];
    const v = W[3 * i + 1];
    const w = W[3 * i + 2];
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
    const off = length > 0 ? h / length : 0;
    out[p] += off * nx;
    out[p + 1] += off * ny;
    out[p + 2] += off * nz;
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
  const [p, q] = alongEdges(rest, t, direction);
  edgesOf(now, t, after);
  const n = before[6] * x + before[7] * y + before[8] * z;
  for (let axis = 0; axis < 3; axis++) out[axis] = p * after[axis] + q * after[3 + axis] + n * after[6 + axis];
}

/** A direction at a triangle by its two edges; what is square to it is left out. */
function alongEdges(mesh: WorldMesh, t: number, direction: ArrayLike<number>): [first: number, second: number] {
  edgesOf(mesh, t, before);
  const [x, y, z] = [direction[0], direction[1], direction[2]];
  const [ux, uy, uz, vx, vy, vz] = before;
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const uv = ux * vx + uy * vy + uz * vz;
  const du = ux * x + uy * y + uz * z;
  const dv = vx * x + vy * y + vz * z;
  const squared = uu * vv - uv * uv;
  return squared > 0 ? [(vv * du - uv * dv) / squared, (uu * dv - uv * du) / squared] : [0, 0];
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

/** What one wants to know of a solid before it is made in earnest. */
import { boxOf, volumeOf, type ClosedMesh } from "./closed";
import { RayTree, type Met } from "../mesh";

export interface SolidFacts {
  /** Whether every edge has its faces in pairs. */
  closed: boolean;
  /** Cubic metres. */
  volume: number;
  /** The sides of the box round it, metres. */
  size: [number, number, number];
  triangles: number;
  /** The thinnest wall of all places looked at, metres, and where that is; null where there is none. */
  thinnest: { thickness: number; at: [number, number, number] } | null;
}

/** The walls are looked at in about so many places. */
const LOOKS = 4000;

/** Cosine of the angle between the normals of a wall's sides, at most. */
const OPPOSITE = -0.8;

const dotOf = (normal: Float64Array, a: number, b: number): number =>
  normal[3 * a] * normal[3 * b] + normal[3 * a + 1] * normal[3 * b + 1] + normal[3 * a + 2] * normal[3 * b + 2];

/** @param open how many edges are open */
export function factsOf(mesh: ClosedMesh, open: number): SolidFacts {
  const { low, high } = boxOf(mesh.position);
  const size = high.map((x, k) => Math.max(0, x - low[k])) as SolidFacts["size"];
  return {
    closed: open === 0,
    volume: volumeOf(mesh),
    size,
    triangles: mesh.index.length / 3,
    thinnest: thinnestOf(mesh, Math.hypot(...size)),
  };
}

/** The shortest way from a place on a face straight in to where it comes out again; faces count by their area. */
function thinnestOf({ position: P, index }: ClosedMesh, size: number): SolidFacts["thinnest"] {
  const faces = index.length / 3;
  if (faces === 0) return null;
  const normal = new Float64Array(3 * faces);
  const before = new Float64Array(faces + 1);
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [3 * index[3 * f], 3 * index[3 * f + 1], 3 * index[3 * f + 2]];
    const [ux, uy, uz] = [P[b] - P[a], P[b + 1] - P[a + 1], P[b + 2] - P[a + 2]];
    const [vx, vy, vz] = [P[c] - P[a], P[c + 1] - P[a + 1], P[c + 2] - P[a + 2]];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const twice = Math.hypot(x, y, z);
    before[f + 1] = before[f] + twice;
    for (const [k, one] of [x, y, z].entries()) normal[3 * f + k] = twice > 0 ? one / twice : 0;
  }
  const tree = new RayTree(Float64Array.from(P), index);
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  let thinnest: SolidFacts["thinnest"] = null;
  for (let look = 0, f = 0; look < LOOKS; look++) {
    const wanted = ((look + 0.5) / LOOKS) * before[faces];
    while (f + 1 < faces && before[f + 1] <= wanted) f++;
    const at = [0, 1, 2].map((k) => [0, 1, 2].reduce((sum, c) => sum + P[3 * index[3 * f + c] + k], 0) / 3);
    const n = normal.subarray(3 * f, 3 * f + 3);
    if (n[0] === 0 && n[1] === 0 && n[2] === 0) continue;
    const [x, y, z] = at.map((one, k) => one - 1e-6 * size * n[k]);
    tree.first(x, y, z, -n[0], -n[1], -n[2], met);
    // Near a sharp edge the other side is as near as one likes: a wall has two sides that face away from each other.
    if (met.triangle < 0 || dotOf(normal, f, met.triangle) > OPPOSITE) continue;
    const thickness = Math.hypot(met.x - at[0], met.y - at[1], met.z - at[2]);
    if (thickness < (thinnest?.thickness ?? Infinity)) thinnest = { thickness, at: [at[0], at[1], at[2]] };
  }
  return thinnest;
}

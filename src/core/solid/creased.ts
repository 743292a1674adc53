/** Normals of a closed mesh that are smooth but for its creases. */
import { rimmed, stitched } from "./stitch";
import { nextOf, twinsOf, type TriangleMesh } from "../mesh";
import type { ClosedMesh } from "./closed";

/** Faces that meet at more than this, radians, meet in a crease. */
const CREASE = (40 * Math.PI) / 180;

/** The mesh with normals; where faces meet in a crease a vertex comes once for each side of it. */
export function creased({ position: P, index }: ClosedMesh): TriangleMesh {
  const faces = index.length / 3;
  const normal = new Float64Array(3 * faces);
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [3 * index[3 * f], 3 * index[3 * f + 1], 3 * index[3 * f + 2]];
    const [ux, uy, uz] = [P[b] - P[a], P[b + 1] - P[a + 1], P[b + 2] - P[a + 2]];
    const [vx, vy, vz] = [P[c] - P[a], P[c + 1] - P[a + 1], P[c + 2] - P[a + 2]];
    // As long as the face is large, which is how much it counts.
    normal[3 * f] = uy * vz - uz * vy;
    normal[3 * f + 1] = uz * vx - ux * vz;
    normal[3 * f + 2] = ux * vy - uy * vx;
  }
  const least = Math.cos(CREASE);
  const isSmooth = (f: number, g: number): boolean => {
    let [dot, a, b] = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      const [x, y] = [normal[3 * f + k], normal[3 * g + k]];
      dot += x * y;
      a += x * x;
      b += y * y;
    }
    return dot >= least * Math.sqrt(a * b);
  };
  const twins = twinsOf(index, P.length / 3);
  // Corners that go smoothly over into each other are one vertex.
  const group = Int32Array.from(index, (_, e) => e);
  const find = (e: number): number => {
    while (group[e] !== e) e = group[e] = group[group[e]];
    return e;
  };
  for (let e = 0; e < index.length; e++) {
    const twin = twins[e];
    if (twin < e || !isSmooth((e - (e % 3)) / 3, (twin - (twin % 3)) / 3)) continue;
    const [from, to] = [e, nextOf(e)];
    const [back, forth] = [nextOf(twin), twin];
    group[find(from)] = find(back);
    group[find(to)] = find(forth);
  }
  const name = new Int32Array(index.length).fill(-1);
  const own = new Uint32Array(index.length);
  const corners: number[] = [];
  for (let e = 0; e < index.length; e++) {
    const root = find(e);
    if (name[root] < 0) {
      name[root] = corners.length;
      corners.push(index[e]);
    }
    own[e] = name[root];
  }
  const position = new Float32Array(3 * corners.length);
  const sum = new Float64Array(3 * corners.length);
  corners.forEach((v, i) => position.set(P.subarray(3 * v, 3 * v + 3), 3 * i));
  for (let e = 0; e < index.length; e++) for (let k = 0; k < 3; k++) sum[3 * own[e] + k] += normal[e - (e % 3) + k];
  const smooth = new Float32Array(sum.length);
  for (let i = 0; i < sum.length; i += 3) {
    const size = Math.hypot(sum[i], sum[i + 1], sum[i + 2]) || 1;
    for (let k = 0; k < 3; k++) smooth[i + k] = sum[i + k] / size;
  }
  return { position, index: own, attributes: [{ name: "NORMAL", width: 3, array: smooth }] };
}

/** The closed mesh that a creased one was, each vertex once. */
export const uncreased = (mesh: ClosedMesh): ClosedMesh => stitched([rimmed(mesh)]).mesh;

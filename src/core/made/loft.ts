/** A surface through lines, one behind the other. */
import { pointsAlong } from "./along";
import { latticeMesh } from "./lattice";
import type { GuideLine } from "../line";
import type { TriangleMesh } from "../mesh";
import type { Loft } from "./schema";

/** Null where fewer than two of the lines are there. */
export function loft(made: Loft, guides: ReadonlyMap<string, GuideLine>): TriangleMesh | null {
  const curves = made.lines.flatMap((id) => guides.get(id)?.curve ?? []).filter(({ length }) => length > 0);
  if (curves.length < 2) return null;
  const rails = curves.map((curve) => pointsAlong(curve, made.along));
  const closed = made.closed && rails.length > 2;
  const steps = closed ? rails.length : rails.length - 1;
  const rail = (k: number): Float64Array => {
    const n = rails.length;
    return rails[closed ? ((k % n) + n) % n : Math.max(0, Math.min(n - 1, k))];
  };
  const rows = steps * made.between + 1;
  const point = (row: number, column: number, out: Float64Array): void => {
    const k = row === rows - 1 && closed ? 0 : Math.min(steps - 1, Math.floor(row / made.between));
    const share = row === rows - 1 && closed ? 0 : (row - k * made.between) / made.between;
    const [a, b, c, d] = [rail(k - 1), rail(k), rail(k + 1), rail(k + 2)];
    for (let axis = 0; axis < 3; axis++) {
      const p = 3 * column + axis;
      out[axis] = made.rounded ? through(a[p], b[p], c[p], d[p], share) : b[p] + share * (c[p] - b[p]);
    }
  };
  const mesh = latticeMesh({ rows, columns: made.along + 1, point });
  if (looksDown(mesh) !== made.flip) turnOver(mesh.index);
  return mesh;
}

/** Whether more of a mesh shows its lower side, seen from above. */
function looksDown({ position: P, index }: TriangleMesh): boolean {
  let up = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [p, q, r] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    up += (P[q + 2] - P[p + 2]) * (P[r] - P[p]) - (P[q] - P[p]) * (P[r + 2] - P[p + 2]);
  }
  return up < 0;
}

function turnOver(index: Uint32Array): void {
  for (let t = 0; t < index.length; t += 3) [index[t + 1], index[t + 2]] = [index[t + 2], index[t + 1]];
}

/** Between b and c, with the slopes that their neighbours give (E. Catmull, R. Rom, 1974). */
const through = (a: number, b: number, c: number, d: number, t: number): number =>
  b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));

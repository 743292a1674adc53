/** Lattices seen from above, over a field: the highest of its mesh at each of their places. */
import { hitsFor } from "../../mesh";
import { MAX_SAMPLES } from "./samples";
import type { Field } from "../../host";

/** Where a lattice is counted from, seen from above, and what turns with it. */
export interface Frame {
  at: readonly [x: number, z: number];
  /** Radians, clockwise seen from above. */
  heading: number;
}

/** How far apart columns and rows are, by how much of a column each second row is shifted, and where columns run, radians. */
export interface Lattice {
  pitch: number;
  rowPitch: number;
  shift: number;
  heading: number;
}

/** Rows and columns of a grid are at most so many. */
export const GRID = 2 ** 13;

/** Places of a mesh: n. */
interface Hits {
  count: number;
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  /** Unit normals of the triangles: 3n. */
  normal: Float32Array;
  triangle: Uint32Array;
}

/** @returns what stands on the mesh, and the row and column of each: 2n */
export function latticeOver(
  field: Pick<Field, "ground" | "plan">,
  { pitch, rowPitch, shift, heading }: Lattice,
  frame: Frame,
): { hits: Hits; names: Int32Array } {
  const [least, most] = boxOf(field);
  const [x0, z0] = frame.at;
  const [sine, cosine] = [Math.sin(heading + frame.heading), Math.cos(heading + frame.heading)];
  // Columns run along the heading, which is north where it is zero; rows follow each other to its right.
  const corners = [least[0] - x0, most[0] - x0].flatMap((x) =>
    [least[1] - z0, most[1] - z0].map((z): [number, number] => [x * cosine + z * sine, x * sine - z * cosine]),
  );
  const range = (k: 0 | 1, step: number): [number, number] => [
    Math.ceil(Math.min(...corners.map((corner) => corner[k])) / step - 1),
    Math.floor(Math.max(...corners.map((corner) => corner[k])) / step + 1),
  ];
  const [firstRow, lastRow] = range(0, rowPitch);
  const [first, last] = range(1, pitch);
  const wide = Math.min(GRID, last - first + 1);
  const rows = Math.min(GRID, lastRow - firstRow + 1, Math.ceil((4 * MAX_SAMPLES) / wide));
  const points = new Float64Array(3 * wide * rows);
  const names = new Int32Array(2 * wide * rows);
  let n = 0;
  for (let row = firstRow; row < firstRow + rows; row++) {
    const across = row * rowPitch;
    for (let column = first; column < first + wide; column++) {
      const along = (column + (row & 1 ? shift : 0)) * pitch;
      const [x, z] = [x0 + across * cosine + along * sine, z0 + across * sine - along * cosine];
      if (x < least[0] || x > most[0] || z < least[1] || z > most[1]) continue;
      points[3 * n] = x;
      points[3 * n + 2] = z;
      names[2 * n] = row;
      names[2 * n++ + 1] = column;
    }
  }
  return standing(field, points, names, n);
}

/** The box of a field seen from above: its outlines', or its mesh's. */
function boxOf({
  ground,
  plan,
}: Pick<Field, "ground" | "plan">): [least: readonly [number, number], most: readonly [number, number]] {
  if (plan?.bounded) return [plan.least, plan.most];
  const P = ground.position;
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let p = 0; p < P.length; p += 3) {
    x0 = Math.min(x0, P[p]);
    x1 = Math.max(x1, P[p]);
    z0 = Math.min(z0, P[p + 2]);
    z1 = Math.max(z1, P[p + 2]);
  }
  return [
    [x0, z0],
    [x1, z1],
  ];
}

/** Of the first `n` points those that have the field's mesh above or below them, on it. */
function standing({ ground }: Pick<Field, "ground">, points: Float64Array, names: Int32Array, n: number) {
  const found = hitsFor(n);
  found.triangle.fill(-1);
  ground.heights.cast(points, n, "above", found, 0);
  let count = 0;
  for (let i = 0; i < n; i++) {
    if (found.triangle[i] < 0) continue;
    points[3 * count] = points[3 * i];
    points[3 * count + 1] = found.height[i];
    points[3 * count + 2] = points[3 * i + 2];
    found.triangle[count] = found.triangle[i];
    names[2 * count] = names[2 * i];
    names[2 * count + 1] = names[2 * i + 1];
    count++;
  }
  const triangle = Uint32Array.from(found.triangle.subarray(0, count));
  const hits = { count, position: points.slice(0, 3 * count), normal: ground.flatNormals(triangle), triangle };
  return { hits, names: names.subarray(0, 2 * count) };
}

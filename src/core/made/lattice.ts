/** A mesh of rows and columns of points, as all made surfaces but boxes are. */
import type { TriangleMesh } from "../mesh";

export interface Lattice {
  /** How many rows of points there are, and how many points in each. */
  rows: number;
  columns: number;
  /** Writes the point in a row and a column, metres. */
  point: (row: number, column: number, out: Float64Array) => void;
  /** How far across each column and each row lies, from 0 to 1; without it they lie equally far apart. */
  shares?: { columns: ArrayLike<number>; rows: ArrayLike<number> };
  flip?: boolean;
}

/**
 * The mesh, with texture coordinates from 0 to 1: `u` along the columns, and `v` from the last row back to the first, so that
 * pictures, which begin at their upper left corner, stand upright. The side it shows is the one
 * from which rows follow each other upwards where columns go to the right. Faces are counted from the middle, so that a
 * column more leaves most of them what they are.
 */
export function latticeMesh({ rows, columns, point, shares, flip = false }: Lattice): TriangleMesh {
  const position = new Float32Array(3 * rows * columns);
  const uv = new Float32Array(2 * rows * columns);
  const at = new Float64Array(3);
  for (let row = 0, i = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++, i++) {
      point(row, column, at);
      position.set(at, 3 * i);
      uv[2 * i] = shares ? shares.columns[column] : columns > 1 ? column / (columns - 1) : 0;
      uv[2 * i + 1] = shares ? 1 - shares.rows[row] : rows > 1 ? 1 - row / (rows - 1) : 0;
    }
  }
  const most = 2 * Math.max(0, rows - 1) * Math.max(0, columns - 1);
  const index = new Uint32Array(3 * most);
  const faces = new Uint32Array(most);
  let count = 0;
  const whole = (a: number, b: number, c: number, face: number): void => {
    if (alike(position, a, b) || alike(position, b, c) || alike(position, c, a)) return;
    index[3 * count] = a;
    index[3 * count + 1] = flip ? c : b;
    index[3 * count + 2] = flip ? b : c;
    faces[count++] = face;
  };
  const [middleRow, middleColumn] = [(rows - 1) >> 1, (columns - 1) >> 1];
  for (let row = 0; row + 1 < rows; row++) {
    for (let column = 0; column + 1 < columns; column++) {
      const a = row * columns + column;
      const [b, c, d] = [a + 1, a + columns + 1, a + columns];
      whole(a, b, c, faceName(row - middleRow, column - middleColumn, 0));
      whole(a, c, d, faceName(row - middleRow, column - middleColumn, 1));
    }
  }
  return {
    position,
    index: index.slice(0, 3 * count),
    attributes: [{ name: "TEXCOORD_0", width: 2, array: uv }],
    metric: metricOf(position, rows, columns),
    faces: faces.slice(0, count),
  };
}

/**
 * How far along its row and its column each point lies, metres: as it is in the mean over all rows and columns, so that rows
 * and columns are straight where all of it is laid flat. Rows count by how much of the surface they stand for.
 */
function metricOf(P: Float32Array, rows: number, columns: number): Float64Array {
  const way = (a: number, b: number) =>
    Math.hypot(P[3 * a] - P[3 * b], P[3 * a + 1] - P[3 * b + 1], P[3 * a + 2] - P[3 * b + 2]);
  const along = new Float64Array(rows);
  for (let row = 1; row < rows; row++) {
    let sum = 0;
    for (let column = 0; column < columns; column++) sum += way(row * columns + column, (row - 1) * columns + column);
    along[row] = along[row - 1] + sum / columns;
  }
  const high = along[rows - 1];
  const across = new Float64Array(columns);
  for (let column = 1; column < columns; column++) {
    let sum = 0;
    for (let row = 0; row < rows; row++) {
      const weight = (along[Math.min(rows - 1, row + 1)] - along[Math.max(0, row - 1)]) / 2;
      sum += weight * way(row * columns + column, row * columns + column - 1);
    }
    across[column] = across[column - 1] + (high > 0 ? sum / high : 0);
  }
  const metric = new Float64Array(2 * rows * columns);
  for (let row = 0, i = 0; row < rows; row++)
    for (let column = 0; column < columns; column++, i++) {
      metric[2 * i] = across[column];
      metric[2 * i + 1] = high - along[row];
    }
  return metric;
}

/** What a face is known by: its row and column, counted from the middle, and which half of the square it is. */
export const faceName = (row: number, column: number, half: 0 | 1): number =>
  (((((row << 16) | (column & 0xffff)) << 1) >>> 0) | half) >>> 0;

const alike = (P: Float32Array, a: number, b: number): boolean =>
  P[3 * a] === P[3 * b] && P[3 * a + 1] === P[3 * b + 1] && P[3 * a + 2] === P[3 * b + 2];

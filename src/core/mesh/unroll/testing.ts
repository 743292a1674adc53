/** Meshes by a place for each u and v, for tests and benchmarks of what lays them flat. */

/** A place on a mesh: u from column to column, v from row to row, both from 0 to 1. */
export type At = (u: number, v: number) => readonly [number, number, number];

/** A lattice of so many rows and columns; closed, its last column is its first. It shows the side from which rows run downwards and columns to the right. */
export function lattice(rows: number, columns: number, at: At, closed = false): [Float64Array, Uint32Array] {
  const wide = closed ? columns : columns + 1;
  const position = new Float64Array(3 * (rows + 1) * wide);
  for (let r = 0; r <= rows; r++)
    for (let c = 0; c < wide; c++) position.set(at(c / columns, r / rows), 3 * (r * wide + c));
  const id = (r: number, c: number) => r * wide + (c % wide);
  const index = new Uint32Array(6 * rows * columns);
  for (let r = 0, o = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++, o += 6) {
      const [a, b, d, e] = [id(r, c), id(r + 1, c), id(r + 1, c + 1), id(r, c + 1)];
      index.set([a, b, d, a, d, e], o);
    }
  }
  return [position, index];
}

export const TURN = 2 * Math.PI;

/** A place so far round the y axis. */
export const round = (u: number, radius: number, y: number) =>
  [radius * Math.cos(TURN * u), y, -radius * Math.sin(TURN * u)] as const;

/** Shapes that bend both ways: a boat's hull, an oblong float, a lobster pot's bell and a piece of hilly ground. */
export const FREE: Readonly<Record<string, { at: At; closed: boolean; across: number }>> = {
  hull: {
    at: (u, v) => {
      const breadth = 0.8 * (1 - (2 * Math.abs(u - 0.5)) ** 2.5);
      const angle = Math.PI * (v - 0.5);
      return [4 * u, -breadth * Math.cos(angle), breadth * Math.sin(angle)];
    },
    closed: false,
    across: 2,
  },
  float: {
    at: (u, v) => {
      const angle = 1e-3 + v * (Math.PI - 2e-3);
      return round(u, 0.2 * Math.sin(angle), 0.5 * Math.cos(angle));
    },
    closed: true,
    across: 1.5,
  },
  pot: { at: (u, v) => round(u, 0.4 + 0.15 * Math.sin(5 * v), -v), closed: true, across: 2 },
  ground: { at: (u, v) => [10 * u, 0.7 * Math.sin(7 * u) * Math.cos(6 * v), 10 * v], closed: false, across: 1 },
};

/** One of them of about so many triangles. */
export function freeMesh(name: string, triangles: number): [Float64Array, Uint32Array] {
  const { at, closed, across } = FREE[name];
  const rows = Math.round(Math.sqrt(triangles / 2 / across));
  return lattice(rows, Math.round(across * rows), at, closed);
}

/**
 * *How high a mesh lies above or below a point*: a grid over the ground plan, each cell with the triangles over it. Straight
 * down is what is asked most, and by far quicker to answer so than by rays through a tree.
 */

/** Where points meet ground: heights (n, metres), triangles (n, -1 where there is none), and which ground (n). */
export interface Hits {
  height: Float64Array;
  triangle: Int32Array;
  ground: Uint16Array;
}

export const hitsFor = (n: number): Hits => ({
  height: new Float64Array(n),
  triangle: new Int32Array(n),
  ground: new Uint16Array(n),
});

/**
 * Which of several grounds over each other counts: the highest, the lowest, or the first at or below the point itself and,
 * where there is none below, the first above.
 */
export type Seen = "above" | "lowest" | "itself";

/** Numbers a triangle: two weights and the height, each as constant, x and z. */
const TRIANGLE = 9;
/** Triangles are taken as a little larger than they are, so that nothing falls through a seam; a share of their size. */
const SEAM = 1e-7;
/** Of a point on the ground, the ground counts as below within this, metres. */
const ON = 1e-6;
/** A triangle that stands upright has no inside from above: so much of its longest side it must be broad. */
const UPRIGHT = 1e-9;
/** Cells a triangle, and how many entries all cells together may have for each triangle. */
const CELLS = 1;
const MOST_ENTRIES = 24;
const FEW = 100_000;

/** What is looked up: nothing but numbers, so that another thread can have worked it out. */
export interface HeightTable {
  /** Of the triangles in the order of the cells that they lie in, so that what is looked at together lies together. */
  planes: Float64Array;
  /** Which triangle each is. */
  order: Uint32Array;
  /** Where each cell's triangles begin, and at last how many there are. */
  start: Uint32Array;
  entries: Uint32Array;
  columns: number;
  rows: number;
  perMetre: number;
  /** The grid's corner. */
  x: number;
  z: number;
}

export class Heights {
  readonly table: HeightTable;

  constructor(table: HeightTable) {
    this.table = table;
  }

  /**
   * @param position of vertices: 3v, metres
   * @param index of triangles: 3m
   */
  static over(position: Float64Array, index: Uint32Array): Heights {
    return new Heights(tableOver(position, index));
  }

  /** The triangles that may lie within a box of the ground plan, each once. */
  within(x0: number, z0: number, x1: number, z1: number): Set<number> {
    const { entries, start, order, columns, rows, perMetre: k, x: left, z: front } = this.table;
    const found = new Set<number>();
    const cell = (at: number, from: number, count: number) =>
      Math.max(0, Math.min(count - 1, Math.floor((at - from) * k)));
    if (
      !(
        (x1 - left) * k >= -1 &&
        (z1 - front) * k >= -1 &&
        (x0 - left) * k <= columns + 1 &&
        (z0 - front) * k <= rows + 1
      )
    )
      return found;
    for (let row = cell(z0, front, rows); row <= cell(z1, front, rows); row++)
      for (let column = cell(x0, left, columns); column <= cell(x1, left, columns); column++)
        for (let e = start[row * columns + column]; e < start[row * columns + column + 1]; e++)
          found.add(order[entries[e]]);
    return found;
  }

  /**
   * Looks straight up and down at `n` points (3n, metres) and writes into `hits` where this mesh counts before what is
   * there already; a triangle of -1 there stands for nothing yet.
   *
   * @param ground what to write as the ground's number
   */
  cast(points: ArrayLike<number>, n: number, seen: Seen, hits: Hits, ground: number): void {
    const { planes, entries, start: starts, order, columns, rows, perMetre: k, x: left, z: front } = this.table;
    const { height, triangle, ground: groundOf } = hits;
    for (let i = 0, p = 0; i < n; i++, p += 3) {
      const x = points[p] - left;
      const z = points[p + 2] - front;
      let column = Math.floor(x * k);
      let row = Math.floor(z * k);
      // What stands on the rim to within rounding stands on it.
      if (column === columns || (column === -1 && x > -ON)) column = column < 0 ? 0 : column - 1;
      if (row === rows || (row === -1 && z > -ON)) row = row < 0 ? 0 : row - 1;
      if (!(column >= 0 && column < columns && row >= 0 && row < rows)) continue;
      const cell = row * columns + column;
      let best = triangle[i] < 0 ? NaN : height[i];
      let found = -1;
      const limit = points[p + 1] + ON;
      for (let e = starts[cell], end = starts[cell + 1]; e < end; e++) {
        const o = TRIANGLE * entries[e];
        const u = planes[o] + planes[o + 1] * x + planes[o + 2] * z;
        if (u < -SEAM) continue;
        const v = planes[o + 3] + planes[o + 4] * x + planes[o + 5] * z;
        if (v < -SEAM || u + v > 1 + SEAM) continue;
        const y = planes[o + 6] + planes[o + 7] * x + planes[o + 8] * z;
        if (best !== best || counts(y, best, seen, limit)) {
          best = y;
          found = entries[e];
        }
      }
      if (found < 0) continue;
      height[i] = best;
      triangle[i] = order[found];
      groundOf[i] = ground;
    }
  }
}

/** The grid with as many cells as triangles, or fewer where these lie over each other in heaps. */
function tableOver(position: Float64Array, index: Uint32Array): HeightTable {
  const triangles = index.length / 3;
  let [minX, minZ, maxX, maxZ] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let p = 0; p < position.length; p += 3) {
    minX = Math.min(minX, position[p]);
    maxX = Math.max(maxX, position[p]);
    minZ = Math.min(minZ, position[p + 2]);
    maxZ = Math.max(maxZ, position[p + 2]);
  }
  const upright = new Uint8Array(triangles);
  for (let t = 0; t < triangles; t++) if (!planeOf(position, index, t, minX, minZ, null)) upright[t] = 1;
  const [width, depth] = [Math.max(1e-6, maxX - minX), Math.max(1e-6, maxZ - minZ)];
  // Where triangles lie over each other in heaps, finer cells would only hold the same ones again and again.
  for (let cells = Math.max(1, CELLS * triangles); ; cells /= 4) {
    const wanted = Math.sqrt(cells / (width * depth));
    const columns = Math.max(1, Math.min(4096, Math.ceil(width * wanted)));
    const rows = Math.max(1, Math.min(4096, Math.ceil(depth * wanted)));
    const perMetre = Math.min(columns / width, rows / depth) * (1 - 1e-12);
    const grid = { x: minX, z: minZ, columns, rows, perMetre };
    const start = new Uint32Array(columns * rows + 1);
    let count = 0;
    eachCell(grid, position, index, upright, (cell) => {
      start[cell + 1]++;
      count++;
    });
    if (count > MOST_ENTRIES * triangles + FEW && cells > 4) continue;
    for (let cell = 0; cell < start.length - 1; cell++) start[cell + 1] += start[cell];
    const entries = new Uint32Array(count);
    const next = start.slice();
    eachCell(grid, position, index, upright, (cell, triangle) => (entries[next[cell]++] = triangle));
    return { ...grid, start, ...sorted(grid, entries, position, index) };
  }
}

type Grid = Pick<HeightTable, "x" | "z" | "columns" | "rows" | "perMetre">;

/** The planes in the order in which the cells name their triangles first, and these by that order. */
function sorted(
  { x, z }: Grid,
  entries: Uint32Array,
  position: Float64Array,
  index: Uint32Array,
): Pick<HeightTable, "planes" | "order" | "entries"> {
  const planes = new Float64Array(TRIANGLE * (index.length / 3));
  const rank = new Int32Array(index.length / 3).fill(-1);
  const order = new Uint32Array(rank.length);
  let n = 0;
  for (let e = 0; e < entries.length; e++) {
    const t = entries[e];
    if (rank[t] < 0) {
      rank[t] = n;
      order[n] = t;
      planeOf(position, index, t, x, z, planes.subarray(TRIANGLE * n));
      n++;
    }
    entries[e] = rank[t];
  }
  return { planes, order, entries };
}

/** Calls `each` for every cell that a triangle lies over, row by row between its edges. */
function eachCell(
  grid: Grid,
  position: Float64Array,
  index: Uint32Array,
  upright: Uint8Array,
  each: (cell: number, triangle: number) => void,
): void {
  const { perMetre: k, columns, rows } = grid;
  const x = [0, 0, 0];
  const z = [0, 0, 0];
  for (let t = 0; t < upright.length; t++) {
    if (upright[t] === 1) continue;
    for (let corner = 0; corner < 3; corner++) {
      const p = 3 * index[3 * t + corner];
      x[corner] = (position[p] - grid.x) * k;
      z[corner] = (position[p + 2] - grid.z) * k;
    }
    const first = Math.max(0, Math.floor(Math.min(z[0], z[1], z[2]) - SEAM));
    const last = Math.min(rows - 1, Math.floor(Math.max(z[0], z[1], z[2]) + SEAM));
    for (let row = first; row <= last; row++) {
      let [least, most] = [Infinity, -Infinity];
      for (let corner = 0; corner < 3; corner++) {
        const next = (corner + 1) % 3;
        const [z0, z1] = [z[corner], z[next]];
        if (Math.max(z0, z1) < row - SEAM || Math.min(z0, z1) > row + 1 + SEAM) continue;
        // The part of the edge that lies within the row.
        for (let at = row; at <= row + 1; at++) {
          const level = Math.min(Math.max(at, Math.min(z0, z1)), Math.max(z0, z1));
          const share = z1 === z0 ? 0 : (level - z0) / (z1 - z0);
          const reached = x[corner] + share * (x[next] - x[corner]);
          least = Math.min(least, reached);
          most = Math.max(most, reached);
          if (z1 === z0) {
            least = Math.min(least, x[next]);
            most = Math.max(most, x[next]);
          }
        }
      }
      const from = Math.max(0, Math.floor(least - SEAM));
      const to = Math.min(columns - 1, Math.floor(most + SEAM));
      for (let column = from; column <= to; column++) each(row * columns + column, t);
    }
  }
}

/**
 * Writes the weights of a triangle's second and third corner and its height as functions of x and z, counted from a corner
 * of the grid; false where it stands upright and there are none.
 */
function planeOf(
  position: Float64Array,
  index: Uint32Array,
  t: number,
  x: number,
  z: number,
  out: Float64Array | null,
): boolean {
  const [a, b, c] = [3 * index[3 * t], 3 * index[3 * t + 1], 3 * index[3 * t + 2]];
  const [ax, az] = [position[a] - x, position[a + 2] - z];
  const [bx, bz] = [position[b] - position[a], position[b + 2] - position[a + 2]];
  const [cx, cz] = [position[c] - position[a], position[c + 2] - position[a + 2]];
  const area = bx * cz - bz * cx;
  const longest = Math.max(bx * bx + bz * bz, cx * cx + cz * cz, (bx - cx) ** 2 + (bz - cz) ** 2);
  if (!(Math.abs(area) > UPRIGHT * longest)) return false;
  if (!out) return true;
  const [ux, uz, vx, vz] = [cz / area, -cx / area, -bz / area, bx / area];
  const [u, v] = [-(ux * ax + uz * az), -(vx * ax + vz * az)];
  const y = position[a + 1];
  const [by, cy] = [position[b + 1] - y, position[c + 1] - y];
  out[0] = u;
  out[1] = ux;
  out[2] = uz;
  out[3] = v;
  out[4] = vx;
  out[5] = vz;
  out[6] = y + u * by + v * cy;
  out[7] = ux * by + vx * cy;
  out[8] = uz * by + vz * cy;
  return true;
}

/** Whether ground at height `y` counts before ground at `best`, for a point whose own height reaches to `limit`. */
function counts(y: number, best: number, seen: Seen, limit: number): boolean {
  if (seen === "above") return y > best;
  if (seen === "lowest") return y < best;
  if (best <= limit) return y <= limit && y > best;
  return y <= limit || y < best;
}

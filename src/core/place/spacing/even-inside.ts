/** The even pattern inside volumes. */
import { cellKey, CHANNEL, drawFrom, streamOf } from "../../math";
import { LOCAL_BITS } from "../slots";
import { cellsOf, eachCell, Insides, MAYBE, namesOf, OUT, type Cells } from "./cells";
import type { Volume } from "../where/volume";
import type { Growing } from "./sow-inside";

/** So many darts are thrown into each cell; what is left free of it is looked for in so small parts of it. */
const THROWN = 3;
const DEPTH = 2;
/** Numbers of what can lie about a cell. */
const NEARS = 3 * 128;
/** Of a cell that a wall goes through so many places are asked at most whether they lie inside. */
const ASKS = 8;

/**
 * None nearer to another than the pitch, and hardly room for one more: each cell is so small that it has room for one. Some
 * darts are thrown into all cells; then what is left free of each empty one is looked for by cutting it into eighths, and
 * those again (after M. S. Ebeida, S. A. Mitchell and others, *A Simple Algorithm for Maximal Poisson-Disk Sampling in High
 * Dimensions*, Computer Graphics Forum 31(2), 2012). Cells that could disturb each other never have their turn at the same
 * time, so that what comes of it hangs on what lies near alone (after the phases of L.-Y. Wei, *Parallel Poisson Disk
 * Sampling*, SIGGRAPH 2008).
 */
export function evenInside(volume: Volume, pitch: number, seed: number, out: Growing): void {
  const cells = cellsOf(volume, [pitch / Math.sqrt(3), pitch / Math.sqrt(3), pitch / Math.sqrt(3)]);
  const name = namesOf(cells, LOCAL_BITS);
  const { count, first } = cells;
  const darts = new Darts(volume, cells, Math.max(pitch, cells.size[0] * Math.sqrt(3)), seed);
  for (let attempt = 0; attempt <= THROWN; attempt++) {
    for (let phase = 0; phase < 27; phase++) {
      // Where to begin in each axis, so that a phase means the same cells wherever the box begins.
      const [a, b, c] = [phase % 3, Math.floor(phase / 3) % 3, Math.floor(phase / 9)].map(
        (wanted, axis) => (((wanted - first[axis]) % 3) + 3) % 3,
      );
      for (let i = a; i < count[0]; i += 3) {
        for (let j = b; j < count[1]; j += 3) {
          for (let k = c; k < count[2]; k += 3) {
            if (attempt < THROWN) darts.throwInto(i, j, k, attempt);
            else darts.search(i, j, k);
          }
        }
      }
    }
  }
  eachCell(cells, (i, j, k, rank) => {
    if (darts.push(i - first[0], j - first[1], k - first[2], out.position)) out.local.push(name(i, j, k, rank));
  });
}

/** Cells with at most one position each, none of them nearer to another than a distance. */
class Darts {
  readonly #insides: Insides;
  readonly #cells: Cells;
  readonly #stream: number;
  /** As {@link Insides.sides}; cells that lie wholly within reach of a position are outside too. */
  readonly #sides: Uint8Array;
  readonly #squared: number;
  /** Positions of the cells, with two rows of empty ones all round, so that no neighbour has to be asked whether it is there. */
  readonly #points: Float64Array;
  /** 1 for those of them that are there: small enough to stay close at hand. */
  readonly #taken: Uint8Array;
  readonly #wide: number;
  readonly #deep: number;
  readonly #around: Int32Array;
  /** What lies about the cell that is searched, then what of that about each smaller part; and what is drawn for it. */
  readonly #near = new Float64Array(NEARS * (DEPTH + 2));
  #searched = 0;
  #key = 0;
  #draws = 0;
  /** How many more places of a cell that is cut by a wall are looked at; null for one that is not. */
  #asks: number | null = null;

  constructor(volume: Volume, cells: Cells, distance: number, seed: number) {
    const { count } = cells;
    this.#insides = new Insides(volume, cells);
    this.#cells = cells;
    this.#squared = distance * distance;
    this.#stream = streamOf(seed, CHANNEL.insideEven);
    this.#sides = this.#insides.sides.slice();
    this.#wide = count[1] + 4;
    this.#deep = count[2] + 4;
    const padded = (count[0] + 4) * this.#wide * this.#deep;
    this.#points = new Float64Array(3 * padded);
    this.#taken = new Uint8Array(padded);
    this.#around = neighbours(this.#wide, this.#deep);
  }

  #place(i: number, j: number, k: number): number {
    return ((i + 2) * this.#wide + j + 2) * this.#deep + k + 2;
  }

  #rank(i: number, j: number, k: number): number {
    const { count } = this.#cells;
    return (i * count[1] + j) * count[2] + k;
  }

  /** One dart into a cell, if it is empty. */
  throwInto(i: number, j: number, k: number, attempt: number): void {
    const p = this.#place(i, j, k);
    const rank = this.#rank(i, j, k);
    const points = this.#points;
    const taken = this.#taken;
    if (taken[p] === 1 || this.#sides[rank] === OUT) return;
    const { first, size } = this.#cells;
    const key = cellKey(first[0] + i, first[1] + j, first[2] + k);
    const x = (first[0] + i + drawFrom(this.#stream, key, 3 * attempt)) * size[0];
    const y = (first[1] + j + drawFrom(this.#stream, key, 3 * attempt + 1)) * size[1];
    const z = (first[2] + k + drawFrom(this.#stream, key, 3 * attempt + 2)) * size[2];
    const around = this.#around;
    for (let n = 0; n < around.length; n++) {
      if (taken[p + around[n]] === 0) continue;
      const q = 3 * (p + around[n]);
      const dx = points[q] - x;
      const dy = points[q + 1] - y;
      const dz = points[q + 2] - z;
      if (dx * dx + dy * dy + dz * dz < this.#squared) {
        const half = size[0] / 2;
        const ex = Math.abs(points[q] - (first[0] + i) * size[0] - half) + half;
        const ey = Math.abs(points[q + 1] - (first[1] + j) * size[1] - half) + half;
        const ez = Math.abs(points[q + 2] - (first[2] + k) * size[2] - half) + half;
        if (ex * ex + ey * ey + ez * ez < this.#squared) this.#sides[rank] = OUT;
        return;
      }
    }
    if (this.#insides.contains(rank, x, y, z)) this.#put(p, x, y, z);
  }

  #put(p: number, x: number, y: number, z: number): void {
    this.#taken[p] = 1;
    this.#points[3 * p] = x;
    this.#points[3 * p + 1] = y;
    this.#points[3 * p + 2] = z;
  }

  /** Finds a free place in an empty cell, if there is one that is not very small. */
  search(i: number, j: number, k: number): void {
    const p = this.#place(i, j, k);
    const rank = this.#rank(i, j, k);
    const side = this.#sides[rank];
    const points = this.#points;
    const taken = this.#taken;
    if (taken[p] === 1 || side === OUT) return;
    const { first, size } = this.#cells;
    const half = size[0] / 2;
    const x = (first[0] + i) * size[0] + half;
    const y = (first[1] + j) * size[1] + half;
    const z = (first[2] + k) * size[2] + half;
    const near = this.#near;
    const squared = this.#squared;
    const around = this.#around;
    let nears = 0;
    for (let n = 0; n < around.length; n++) {
      if (taken[p + around[n]] === 0) continue;
      const q = 3 * (p + around[n]);
      const dx = Math.abs(points[q] - x) + half;
      const dy = Math.abs(points[q + 1] - y) + half;
      const dz = Math.abs(points[q + 2] - z) + half;
      // One position is near to all of it: there is nothing to be looked for.
      if (dx * dx + dy * dy + dz * dz < squared) return;
      near[3 * nears] = points[q];
      near[3 * nears + 1] = points[q + 1];
      near[3 * nears + 2] = points[q + 2];
      nears++;
    }
    this.#key = cellKey(first[0] + i, first[1] + j, first[2] + k);
    this.#draws = 3 * THROWN;
    this.#asks = side === MAYBE ? ASKS : null;
    this.#searched = rank;
    this.#searchIn(p, x, y, z, half, 0, nears);
  }

  /** As {@link search}, in a cube about a point, of which so many of what lies about the next larger one may be near. */
  #searchIn(p: number, x: number, y: number, z: number, half: number, depth: number, nears: number): boolean {
    const near = this.#near;
    const squared = this.#squared;
    const from = NEARS * depth;
    const own = from + NEARS;
    let count = 0;
    for (let n = from; n < from + 3 * nears; n += 3) {
      const dx = Math.abs(near[n] - x);
      const dy = Math.abs(near[n + 1] - y);
      const dz = Math.abs(near[n + 2] - z);
      // Where the farthest corner is near, all of it is; where the nearest place is far, all of it is.
      if ((dx + half) ** 2 + (dy + half) ** 2 + (dz + half) ** 2 < squared) return false;
      const ex = dx > half ? dx - half : 0;
      const ey = dy > half ? dy - half : 0;
      const ez = dz > half ? dz - half : 0;
      if (ex * ex + ey * ey + ez * ez >= squared) continue;
      const o = own + 3 * count++;
      near[o] = near[n];
      near[o + 1] = near[n + 1];
      near[o + 2] = near[n + 2];
    }
    const px = x + half * (2 * this.#draw() - 1);
    const py = y + half * (2 * this.#draw() - 1);
    const pz = z + half * (2 * this.#draw() - 1);
    if (this.#asks === 0) return false;
    if (this.#free(px, py, pz, own, count) && this.#inside(px, py, pz)) {
      this.#put(p, px, py, pz);
      return true;
    }
    if (depth === DEPTH) return false;
    const begin = Math.floor(8 * this.#draw());
    for (let eighth = 0; eighth < 8; eighth++) {
      const way = eighth ^ begin;
      const step = half / 2;
      const found = this.#searchIn(
        p,
        x + (way & 1 ? step : -step),
        y + (way & 2 ? step : -step),
        z + (way & 4 ? step : -step),
        step,
        depth + 1,
        count,
      );
      if (found) return true;
    }
    return false;
  }

  #inside(x: number, y: number, z: number): boolean {
    if (this.#asks === null) return true;
    this.#asks--;
    return this.#insides.contains(this.#searched, x, y, z);
  }

  #draw(): number {
    return drawFrom(this.#stream, this.#key, this.#draws++);
  }

  #free(x: number, y: number, z: number, from: number, count: number): boolean {
    const near = this.#near;
    for (let n = from; n < from + 3 * count; n += 3) {
      const dx = near[n] - x;
      const dy = near[n + 1] - y;
      const dz = near[n + 2] - z;
      if (dx * dx + dy * dy + dz * dz < this.#squared) return false;
    }
    return true;
  }

  /** Adds a cell's position to others; false where it has none. */
  push(i: number, j: number, k: number, out: number[]): boolean {
    const p = this.#place(i, j, k);
    if (this.#taken[p] === 0) return false;
    out.push(this.#points[3 * p], this.#points[3 * p + 1], this.#points[3 * p + 2]);
    return true;
  }
}

/** Steps to all cells that can hold something nearer than a cell's diagonal, the nearest first: what is in the way is mostly there. */
function neighbours(wide: number, deep: number): Int32Array {
  const found: [far: number, step: number][] = [];
  for (let i = -2; i <= 2; i++) {
    for (let j = -2; j <= 2; j++) {
      for (let k = -2; k <= 2; k++) {
        const gaps = [i, j, k].map((cells) => Math.max(0, Math.abs(cells) - 1));
        if (gaps[0] + gaps[1] + gaps[2] === 3 || (i === 0 && j === 0 && k === 0)) continue;
        found.push([i * i + j * j + k * k, (i * wide + j) * deep + k]);
      }
    }
  }
  return Int32Array.from(found.sort(([a], [b]) => a - b).map(([, step]) => step));
}

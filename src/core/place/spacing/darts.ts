/**
 * *Room for positions among others in space*: cells so small that each has room for one position, none of them nearer to
 * another than a cell's diagonal. All is reckoned in cells, places from their cell's corner on, so that it holds at any size.
 */
import { drawFrom } from "../../math";
import { AROUND, bucketOf, nearness, ON_EDGE, PARTS, rowOf } from "./nearness";

/** The square of the least distance, in cells: of their diagonal. */
export const APART = 3;
/** Numbers of a search's draws begin here: more than there are darts' for a cell. */
const SEARCHED = 64;
/** Numbers of what can lie about a cell. */
const NEARS = 3 * AROUND.length;
const OFFSETS = Float64Array.from(AROUND.flat());

/** How cells are numbered: one step in each axis adds so much, and of the sum so many bits count. */
export interface Numbering {
  cells: number;
  steps: readonly [number, number, number];
  mask: number;
}

/** What of a cell is filled, where that is not all of it. */
export interface Share {
  /** The box in which all of it lies, from the cell's corner on: least and most, 6 numbers. */
  box: Float64Array;
  /** Whether a place of that box belongs to it. */
  holds(x: number, y: number, z: number): boolean;
}

/** So many places of a cell that is filled in part are asked at most whether they belong to it. */
const ASKS = 8;

export class Darts {
  /** Positions of the cells: 3 numbers each. */
  readonly points: Float64Array;
  /** 1 for those of them that are there: small enough to stay close at hand. */
  readonly taken: Uint8Array;
  /** The room that was found last. */
  readonly found = new Float64Array(3);
  /** Where in their cells positions are, roughly. */
  readonly #bucket: Uint16Array;
  /** Steps to the cells of {@link AROUND}. */
  readonly #around: Int32Array;
  readonly #mask: number;
  readonly #stream: number;
  readonly #depth: number;
  /** What lies about the cell that is searched, then what of that about each smaller part; and what is drawn for it. */
  readonly #near: Float64Array;
  #key = 0;
  #draws = 0;
  #share: Share | null = null;
  /** How many more places of the cell are asked whether they belong. */
  #asks = 0;

  /** @param depth in looking for room, 64ths of cells are cut into eighths so often */
  constructor({ cells, steps, mask }: Numbering, stream: number, depth: number) {
    this.#stream = stream;
    this.#depth = depth;
    this.#mask = mask;
    this.points = new Float64Array(3 * cells);
    this.taken = new Uint8Array(cells);
    this.#bucket = new Uint16Array(cells);
    this.#around = Int32Array.from(AROUND, ([i, j, k]) => i * steps[0] + j * steps[1] + k * steps[2]);
    this.#near = new Float64Array(NEARS * (depth + 2));
  }

  put(cell: number, x: number, y: number, z: number): void {
    this.taken[cell] = 1;
    this.#bucket[cell] = bucketOf(x, y, z);
    this.points[3 * cell] = x;
    this.points[3 * cell + 1] = y;
    this.points[3 * cell + 2] = z;
  }

  /** Whether a dart into an empty cell comes upon room, which is then {@link found}. */
  throwInto(cell: number, key: number, attempt: number): boolean {
    const nears = this.#gather(cell);
    const x = drawFrom(this.#stream, key, 3 * attempt);
    const y = drawFrom(this.#stream, key, 3 * attempt + 1);
    const z = drawFrom(this.#stream, key, 3 * attempt + 2);
    return nears >= 0 && this.#isFree(x, y, z, 0, nears);
  }

  /**
   * Whether there is room in an empty cell that is not very small: it is looked for in those of its parts that no other position
   * is near to all of, and {@link found}.
   *
   * @param share what of the cell may be taken, null for all of it
   */
  search(cell: number, key: number, share: Share | null): boolean {
    const nears = this.#gather(cell);
    if (nears < 0) return false;
    this.#key = key;
    this.#draws = SEARCHED;
    this.#share = share;
    this.#asks = ASKS;
    const begin = Math.floor(PARTS * this.#draw());
    const half = 1 / (2 * ON_EDGE);
    for (let nth = 0; nth < PARTS; nth++) {
      const part = nth ^ begin;
      if ((((part < 32 ? this.#low : this.#high) >>> (part & 31)) & 1) === 1) continue;
      const x = half + 2 * half * (part & 3);
      const y = half + 2 * half * ((part >> 2) & 3);
      const z = half + 2 * half * (part >> 4);
      if ((share === null || reaches(share.box, x, y, z, half)) && this.#searchIn(x, y, z, half, 0, nears)) return true;
    }
    return false;
  }

  /** Of the cell's parts those that some position is near to all of: 64 bits. */
  #low = 0;
  #high = 0;

  /** Lists what lies about a cell: how many numbers, or -1 where nothing of it can be free. */
  #gather(cell: number): number {
    const { points, taken } = this;
    const [around, near, table] = [this.#around, this.#near, nearness()];
    let [nears, low, high] = [0, 0, 0];
    for (let n = 0; n < around.length; n++) {
      const other = (cell + around[n]) & this.#mask;
      if (taken[other] === 0) continue;
      const row = rowOf(n, this.#bucket[other]);
      low |= table[row];
      high |= table[row + 1];
      if ((low & high) === -1) return -1;
      near[nears++] = OFFSETS[3 * n] + points[3 * other];
      near[nears++] = OFFSETS[3 * n + 1] + points[3 * other + 1];
      near[nears++] = OFFSETS[3 * n + 2] + points[3 * other + 2];
    }
    this.#low = low;
    this.#high = high;
    return nears;
  }

  /** As {@link search}, in a cube about a point, of which so many numbers of what lies about the next larger one may be near. */
  #searchIn(x: number, y: number, z: number, half: number, depth: number, nears: number): boolean {
    if (this.#asks === 0) return false;
    const from = NEARS * depth;
    const px = this.#drawIn(0, x, half);
    const py = this.#drawIn(1, y, half);
    const pz = this.#drawIn(2, z, half);
    if (this.#isFree(px, py, pz, from, nears) && this.#isWanted(px, py, pz)) return true;
    if (depth === this.#depth) return false;
    const count = this.#narrow(from, nears, x, y, z, half);
    if (count < 0) return false;
    const begin = Math.floor(8 * this.#draw());
    const step = half / 2;
    for (let eighth = 0; eighth < 8; eighth++) {
      const way = eighth ^ begin;
      const [u, v, w] = [way & 1 ? x + step : x - step, way & 2 ? y + step : y - step, way & 4 ? z + step : z - step];
      if (this.#searchIn(u, v, w, step, depth + 1, count)) return true;
    }
    return false;
  }

  /**
   * Of so many numbers of what lies about a cube those of what is near to some of it, written behind them.
   *
   * @returns how many numbers, or -1 where one position is near to all of it
   */
  #narrow(from: number, nears: number, x: number, y: number, z: number, half: number): number {
    const near = this.#near;
    const own = from + NEARS;
    let count = 0;
    for (let n = from; n < from + nears; n += 3) {
      const dx = Math.abs(near[n] - x);
      const dy = Math.abs(near[n + 1] - y);
      const dz = Math.abs(near[n + 2] - z);
      // Where the farthest corner is near, all of it is; where the nearest place is far, all of it is.
      if ((dx + half) ** 2 + (dy + half) ** 2 + (dz + half) ** 2 < APART) return -1;
      const ex = dx > half ? dx - half : 0;
      const ey = dy > half ? dy - half : 0;
      const ez = dz > half ? dz - half : 0;
      if (ex * ex + ey * ey + ez * ez >= APART) continue;
      for (let axis = 0; axis < 3; axis++) near[own + count++] = near[n + axis];
    }
    return count;
  }

  #isFree(x: number, y: number, z: number, from: number, nears: number): boolean {
    const near = this.#near;
    for (let n = from; n < from + nears; n += 3) {
      const dx = near[n] - x;
      const dy = near[n + 1] - y;
      const dz = near[n + 2] - z;
      if (dx * dx + dy * dy + dz * dz < APART) return false;
    }
    this.found[0] = x;
    this.found[1] = y;
    this.found[2] = z;
    return true;
  }

  #isWanted(x: number, y: number, z: number): boolean {
    if (!this.#share) return true;
    this.#asks--;
    return this.#share.holds(x, y, z);
  }

  /** Along an axis a place of a cube, of the part of it that may be filled. */
  #drawIn(axis: number, middle: number, half: number): number {
    if (!this.#share) return middle + half * (2 * this.#draw() - 1);
    const least = Math.max(middle - half, this.#share.box[axis]);
    return least + (Math.min(middle + half, this.#share.box[3 + axis]) - least) * this.#draw();
  }

  #draw(): number {
    return drawFrom(this.#stream, this.#key, this.#draws++);
  }
}

/** Whether a cube reaches into a box. */
const reaches = (box: Float64Array, x: number, y: number, z: number, half: number): boolean =>
  x + half > box[0] &&
  x - half < box[3] &&
  y + half > box[1] &&
  y - half < box[4] &&
  z + half > box[2] &&
  z - half < box[5];

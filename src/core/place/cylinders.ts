/**
 * Upright cylinders with a grid over the ground plan that tells which of them meet: the first, cheap question before anything
 * is looked at more closely. What stands is mostly higher than broad, and its neighbours are beside it: a sphere about it would
 * meet many that it is clear of. Few numbers a cylinder, so that what belongs to a neighbourhood lies close together in memory.
 */
export const CYLINDER = 5;
export const RADIUS = 3;
export const HALF = 4;

/** From one row of cells to the next one's buckets. Neighbouring cells have neighbouring buckets, and so lie together. */
const ROW = 0x9e3779b1 | 0;

/** How far a box reaches from its middle, seen from above, at most: of its half axes the level parts. */
export const levelReach = (ax: number, az: number, bx: number, bz: number, cx: number, cz: number): number =>
  Math.sqrt(
    ax * ax + az * az + bx * bx + bz * bz + cx * cx + cz * cz +
      2 * (Math.abs(ax * bx + az * bz) + Math.abs(ax * cx + az * cz) + Math.abs(bx * cx + bz * cz)),
  ); // prettier-ignore

export class Cylinders {
  /** Middle, radius and half the height of each: 5n. Single precision will do: it is for metres from some origin near by. */
  readonly data: Float32Array;
  /** The cylinders that the last call of {@link gather} found, each once. */
  found = new Int32Array(64);
  readonly #next: Int32Array;
  readonly #head: Int32Array;
  readonly #mask: number;
  /** Cells a metre. */
  #perCell = 1;

  constructor(count: number) {
    const buckets = 2 ** Math.ceil(Math.log2(Math.max(16, count)));
    this.data = new Float32Array(CYLINDER * count);
    this.#next = new Int32Array(count);
    this.#head = new Int32Array(buckets).fill(-1);
    this.#mask = buckets - 1;
  }

  /** Says how broad the broadest cylinder is, before the first one is put in. */
  reach(radius: number): void {
    // What meets a cylinder lies within half a cell of it, so four cells hold all of it.
    this.#perCell = 1 / Math.max(4 * radius, 1e-9);
  }

  /** Puts cylinder `i` into the grid. */
  put(i: number): void {
    const column = Math.floor(this.data[CYLINDER * i] * this.#perCell) | 0;
    const row = Math.floor(this.data[CYLINDER * i + 2] * this.#perCell) | 0;
    const bucket = (column + Math.imul(row, ROW)) & this.#mask;
    this.#next[i] = this.#head[bucket];
    this.#head[bucket] = i;
  }

  /**
   * Writes into {@link found} the cylinders in the grid that meet cylinder `i`, itself not among them; says how many. With a
   * limit, it stops at so many, those put in last first.
   */
  gather(i: number, limit = Infinity): number {
    const { data } = this;
    const next = this.#next;
    const o = CYLINDER * i;
    const x = data[o];
    const y = data[o + 1];
    const z = data[o + 2];
    const r = data[o + RADIUS];
    const h = data[o + HALF];
    const right = Math.floor(x * this.#perCell + 0.5) | 0;
    const below = Math.floor(z * this.#perCell + 0.5) | 0;
    let count = 0;
    // Cells of the two rows may share a bucket, which is gone through once.
    let [seen, seenToo] = [-1, -1];
    for (let row = below - 1; row <= below; row++) {
      const base = Math.imul(row, ROW);
      const left = (right - 1 + base) & this.#mask;
      const beside = (right + base) & this.#mask;
      for (let bucket = left, k = 0; k < 2; bucket = beside, k++) {
        if (bucket === seen || bucket === seenToo) continue;
        for (let j = this.#head[bucket]; j >= 0; j = next[j]) {
          const c = CYLINDER * j;
          const dx = data[c] - x;
          const dz = data[c + 2] - z;
          const far = data[c + RADIUS] + r;
          if (dx * dx + dz * dz >= far * far || j === i) continue;
          if (Math.abs(data[c + 1] - y) > data[c + HALF] + h) continue;
          if (count === this.found.length) {
            const more = new Int32Array(2 * count);
            more.set(this.found);
            this.found = more;
          }
          this.found[count++] = j;
          if (count >= limit) return count;
        }
      }
      [seen, seenToo] = [left, beside];
    }
    return count;
  }
}

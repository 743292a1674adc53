/** The even pattern inside volumes. */
import { cellKey, CHANNEL, drawFrom, streamOf } from "../../math";
import { cellsOf, IN, Insides, OUT, type Cells } from "./cells";
import { APART, Darts, type Share } from "./darts";
import { RING } from "./nearness";
import { cellInTile, evenTile, inOrderOfLots } from "./tile";
import type { Volume } from "../../host";
import type { Growing } from "./samples";

/** What is left free of a cell is looked for in so small parts of it. */
const DEPTH = 0;
/** The seed shifts the pattern by fewer cells than this. */
const SHIFTS = 1 << 15;

/**
 * None nearer to another than the pitch, and hardly room for one more. It is one pattern for all of space, of which the seed
 * chooses the part, and the pitch how large it is: so another pitch draws it out or together, and other walls show more or
 * less of it. Only next to walls, where the pattern counts on what would stand beyond, some are added.
 */
export function evenInside(volume: Volume, pitch: number, seed: number, out: Pick<Growing, "inCell">): void {
  const side = pitch / Math.sqrt(3);
  const cells = cellsOf(volume, [side, side, side]);
  const filling = new Filling(volume, cells, seed);
  filling.show();
  filling.mend();
  filling.write(out);
}

class Filling {
  readonly #cells: Cells;
  readonly #insides: Insides;
  readonly #share: Inner;
  readonly #darts: Darts;
  readonly #stream: number;
  /** Steps from one cell to the next in the first two axes, of {@link #darts}: it has a ring of empty cells about all. */
  readonly #wide: number;
  readonly #deep: number;
  /** 1 for cells in whose reach the pattern has a position that is not inside. */
  readonly #bared: Uint8Array;

  constructor(volume: Volume, cells: Cells, seed: number) {
    const [nx, ny, nz] = cells.count;
    this.#cells = cells;
    this.#insides = new Insides(volume, cells);
    this.#share = new Inner(volume, cells, this.#insides);
    this.#stream = streamOf(seed, CHANNEL.insideEven);
    this.#deep = nz + 2 * RING;
    this.#wide = (ny + 2 * RING) * this.#deep;
    const all = (nx + 2 * RING) * this.#wide;
    this.#darts = new Darts({ cells: all, steps: [this.#wide, this.#deep, 1], mask: -1 }, this.#stream, DEPTH);
    this.#bared = new Uint8Array(nx * ny * nz);
  }

  /** Shows as much of the pattern as lies inside. */
  show(): void {
    const { taken, points } = evenTile();
    const { first, count } = this.#cells;
    const [a, b, c] = first;
    // In the tile, a step aside is a step in any direction.
    const shift = Math.floor(SHIFTS * drawFrom(this.#stream, 0, 0));
    for (let i = -RING; i < count[0] + RING; i++) {
      for (let j = -RING; j < count[1] + RING; j++) {
        for (let k = -RING; k < count[2] + RING; k++) {
          const there = cellInTile(shift + a + i, b + j, c + k);
          if (taken[there] === 0) continue;
          const [x, y, z] = [points[3 * there], points[3 * there + 1], points[3 * there + 2]];
          if (this.#isInside(i, j, k, x, y, z)) this.#darts.put(this.#placeOf(i, j, k), x, y, z);
          else this.#bare(i, j, k, x, y, z);
        }
      }
    }
  }

  /** Whether a place of a cell, which may lie beside the box of cells, is inside. */
  #isInside(i: number, j: number, k: number, x: number, y: number, z: number): boolean {
    const { first, size, count } = this.#cells;
    if (i < 0 || j < 0 || k < 0 || i >= count[0] || j >= count[1] || k >= count[2]) return false;
    const rank = (i * count[1] + j) * count[2] + k;
    const [u, v, w] = [(first[0] + i + x) * size[0], (first[1] + j + y) * size[1], (first[2] + k + z) * size[2]];
    return this.#insides.contains(rank, u, v, w);
  }

  /** Marks the cells that a place of a cell reaches into. */
  #bare(i: number, j: number, k: number, x: number, y: number, z: number): void {
    const [nx, ny, nz] = this.#cells.count;
    const [iEnd, jEnd, kEnd] = [Math.min(nx, i + RING + 1), Math.min(ny, j + RING + 1), Math.min(nz, k + RING + 1)];
    for (let u = Math.max(0, i - RING); u < iEnd; u++) {
      const dx = beyond(x, u - i);
      for (let v = Math.max(0, j - RING); v < jEnd; v++) {
        const dy = beyond(y, v - j);
        if (dx * dx + dy * dy >= APART) continue;
        for (let w = Math.max(0, k - RING); w < kEnd; w++) {
          const dz = beyond(z, w - k);
          if (dx * dx + dy * dy + dz * dz < APART) this.#bared[(u * ny + v) * nz + w] = 1;
        }
      }
    }
  }

  /**
   * Looks for room where the pattern left some to positions that are not inside. Most cells have none: those are ruled out in
   * the order in which they lie in memory, before the others have their turns in the order of thresholds.
   */
  mend(): void {
    const [nx, ny, nz] = this.#cells.count;
    const roomy: number[] = [];
    for (let i = 0, rank = 0; i < nx; i++)
      for (let j = 0; j < ny; j++)
        for (let k = 0; k < nz; k++, rank++)
          if (this.#bared[rank] === 1 && this.#hasRoom(i, j, k, rank)) roomy.push(rank);
    for (const rank of inOrderOfLots(roomy, (rank) => this.#keyOf(...this.#at(rank)), this.#stream)) {
      const at = this.#at(rank);
      if (!this.#hasRoom(...at, rank)) continue;
      const [x, y, z] = this.#darts.found;
      this.#darts.put(this.#placeOf(...at), x, y, z);
    }
  }

  #hasRoom(i: number, j: number, k: number, rank: number): boolean {
    const side = this.#insides.sides[rank];
    const place = this.#placeOf(i, j, k);
    if (side === OUT || this.#darts.taken[place] === 1) return false;
    return this.#darts.search(place, this.#keyOf(i, j, k), side === IN ? null : this.#share.of(i, j, k));
  }

  #at(rank: number): [i: number, j: number, k: number] {
    const [, ny, nz] = this.#cells.count;
    const row = Math.floor(rank / nz);
    return [Math.floor(row / ny), row % ny, rank % nz];
  }

  #placeOf(i: number, j: number, k: number): number {
    return (i + RING) * this.#wide + (j + RING) * this.#deep + k + RING;
  }

  #keyOf(i: number, j: number, k: number): number {
    const { first } = this.#cells;
    return cellKey(first[0] + i, first[1] + j, first[2] + k);
  }

  /** Adds the positions of all cells, in the volume's own coordinates, known by their cells. */
  write(out: Pick<Growing, "inCell">): void {
    const { first, size, count } = this.#cells;
    const { points, taken } = this.#darts;
    for (let i = 0; i < count[0]; i++) {
      for (let j = 0; j < count[1]; j++) {
        let place = this.#placeOf(i, j, 0);
        for (let k = 0; k < count[2]; k++, place++) {
          if (taken[place] === 0) continue;
          const [u, v, w] = [first[0] + i, first[1] + j, first[2] + k];
          const p = 3 * place;
          const [x, y, z] = [u + points[p], v + points[p + 1], w + points[p + 2]];
          out.inCell(x * size[0], y * size[1], z * size[2], u, v, w);
        }
      }
    }
  }
}

/** What of a cell that a wall goes through lies inside; the same object for one cell after the other. */
class Inner implements Share {
  readonly box = new Float64Array(6);
  readonly #volume: Volume;
  readonly #cells: Cells;
  readonly #insides: Insides;
  #i = 0;
  #j = 0;
  #k = 0;

  constructor(volume: Volume, cells: Cells, insides: Insides) {
    this.#volume = volume;
    this.#cells = cells;
    this.#insides = insides;
  }

  of(i: number, j: number, k: number): this {
    const { first, size } = this.#cells;
    const { least, most } = this.#volume;
    this.#i = i;
    this.#j = j;
    this.#k = k;
    for (let axis = 0; axis < 3; axis++) {
      const corner = first[axis] + (axis === 0 ? i : axis === 1 ? j : k);
      this.box[axis] = least[axis] / size[axis] - corner;
      this.box[3 + axis] = most[axis] / size[axis] - corner;
    }
    return this;
  }

  holds(x: number, y: number, z: number): boolean {
    const { first, size, count } = this.#cells;
    return this.#insides.contains(
      (this.#i * count[1] + this.#j) * count[2] + this.#k,
      (first[0] + this.#i + x) * size[0],
      (first[1] + this.#j + y) * size[1],
      (first[2] + this.#k + z) * size[2],
    );
  }
}

/** How far a place lies beyond a cell, along an axis. */
const beyond = (x: number, cell: number): number => (x < cell ? cell - x : x > cell + 1 ? x - cell - 1 : 0);

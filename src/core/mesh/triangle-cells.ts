/**
 * *Cells of triangles*: each is cut into so many a side, as many as its size asks for, and each of these into a lower and an
 * upper half. The cells of a triangle that a rim cut off are those of the whole one.
 */
import { CHANNEL, finish, mix, streamOf } from "../math";
import { isWithin, writeWhole } from "./cut-faces";
import { weightsIn } from "./barycentric";
import type { Arriving } from "./arrivals";
import type { Points } from "./facets";

/** The part of a cell that a place is in: its lower or upper half, or anywhere in it. */
type Part = number;

export class TriangleCells {
  /** The power of two, metres, that cells have at most. */
  readonly size: number;
  /** The cell that was located last: along the first side, and along the other. */
  readonly at = new Int32Array(2);
  /** What was named last. */
  readonly words = new Uint32Array(2);
  readonly #ground: Points;
  readonly #names: Arriving["names"];
  readonly #cut: Arriving["cut"];
  /** Where the whole ones of each triangle begin among those that are cut off, -1 for the others; null without any. */
  readonly #cutAt: Int32Array | null;
  /** The triangle that is cut into cells, by its corners. */
  readonly #whole: Points & { position: Float64Array } = {
    position: new Float64Array(9),
    index: Uint32Array.of(0, 1, 2),
  };
  #name = 0;
  readonly #weights = new Float64Array(3);

  /**
   * @param triangles how many the mesh has
   * @param size how large cells are at most, metres
   */
  constructor(ground: Points, triangles: number, size: number, { names, cut }: Pick<Arriving, "names" | "cut">) {
    this.#ground = ground;
    this.#names = names;
    this.#cut = cut;
    this.size = 2 ** Math.floor(Math.log2(size));
    const cutAt = cut ? new Int32Array(triangles).fill(-1) : null;
    cut?.triangle.forEach((t, i) => {
      if (cutAt![t] < 0) cutAt![t] = i;
    });
    this.#cutAt = cutAt;
  }

  /** Takes a triangle of the mesh for what is cut into cells. */
  take(t: number): void {
    const { position: P, index } = this.#ground;
    const corners = this.#whole.position;
    for (let k = 0; k < 3; k++) {
      const p = 3 * index[3 * t + k];
      corners[3 * k] = P[p];
      corners[3 * k + 1] = P[p + 1];
      corners[3 * k + 2] = P[p + 2];
    }
    this.#name = this.#names ? this.#names[t] : t;
  }

  /** Takes a triangle or, where a rim cut it off, the whole one that a place on it is in; says whether it was cut off. */
  takeAt(t: number, place: Float64Array): boolean {
    const begin = this.#cutAt ? this.#cutAt[t] : -1;
    if (begin < 0) {
      this.take(t);
      return false;
    }
    const cut = this.#cut!;
    for (let c = begin; cut.triangle[c] === t; c++) {
      writeWhole(this.#ground, cut, c, this.#whole.position);
      this.#name = cut.name[c];
      if (isWithin(this.#whole, 0, place[0], place[1], place[2])) break;
    }
    return true;
  }

  /** Finds the cell of a place; gives how many cells a side there are. */
  locate(place: Float64Array, finer = 1): number {
    weightsIn(this.#whole, 0, place[0], place[1], place[2], this.#weights);
    const long = Math.max(this.#apart(0, 3), this.#apart(3, 6), this.#apart(6, 0));
    const cells = finer * 2 ** Math.max(0, Math.ceil(Math.log2(long / this.size)));
    const cell = (weight: number, most: number) => Math.min(most, Math.floor(Math.max(0, weight) * cells));
    this.at[0] = cell(this.#weights[1], cells - 1);
    this.at[1] = cell(this.#weights[2], cells - 1 - this.at[0]);
    return cells;
  }

  /** Writes the middle of a cell's lower or upper half (0 or 1) of so many a side. */
  middle(cells: number, i: number, j: number, half: Part, out: Float64Array): void {
    const s = (i + (1 + half) / 3) / cells;
    const r = (j + (1 + half) / 3) / cells;
    const P = this.#whole.position;
    for (let k = 0; k < 3; k++) out[k] = P[k] + s * (P[3 + k] - P[k]) + r * (P[6 + k] - P[k]);
  }

  /** What the lots of all cells have in common. */
  lots(cells: number): number {
    return this.#common(cells, 1);
  }

  /** Names a part of a cell: two words that no other place has. */
  name(cells: number, i: number, j: number, part: Part): void {
    for (const nth of [0, 1] as const) this.words[nth] = finish(mix(mix(this.#common(cells, nth), i), 4 * j + part));
  }

  #common(cells: number, nth: 0 | 1): number {
    return mix(mix(streamOf(nth, CHANNEL.overEven), this.#name), cells);
  }

  /** How far apart two corners are. */
  #apart(a: number, b: number): number {
    const P = this.#whole.position;
    const x = P[b] - P[a];
    const y = P[b + 1] - P[a + 1];
    const z = P[b + 2] - P[a + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }
}

/** What sampling a field comes to. */
import { writeWords } from "../keys";

/** A field has at most so many positions. */
export const MAX_SAMPLES = 2_000_000;

/** How near positions come to each other, and what else the patterns go by. */
export interface Amount {
  /** Metres: the nearest two, or what a square (or a cube) of that size has on average. */
  pitch: number;
  /** Whether a smaller pitch only adds to them, so that a number can be taken from the front of them. */
  nested: boolean;
}

/** *Positions on a field*, before anything is left out of them. */
export interface Samples {
  count: number;
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  /** Unit normals of the triangles, in the world: 3n. */
  normal: Float32Array;
  /** The field's triangle that each lies on: n. */
  triangle: Uint32Array;
  /** Two words that tell each from all others of the field: 2n. */
  words: Uint32Array;
  /** What turns are counted by: n; null where there is nothing to count, and words do. */
  ordinal: Int32Array | null;
  /** In what order they join as they become more: n; null where all came at once. */
  joinOrder: Float64Array | null;
  /** Whether there were more, had there not been a limit to how many are looked at. */
  capped: boolean;
}

/** Positions as they are found, in the volume's own coordinates. */
export class Growing {
  readonly position: number[] = [];
  /** Two words each. */
  readonly words: number[] = [];
  readonly ordinal: number[] = [];
  readonly joinOrder: number[] = [];
  readonly #words = new Uint32Array(2);

  get count(): number {
    return this.words.length / 2;
  }

  /** Adds a position that a cell of a lattice is known by. */
  inCell(x: number, y: number, z: number, i: number, j: number, k: number): void {
    this.position.push(x, y, z);
    writeWords(this.#words, 0, i, j, k);
    this.words.push(this.#words[0], this.#words[1]);
    this.ordinal.push(i + j + k);
  }
}

export const emptySamples = (count: number): Samples => ({
  count,
  position: new Float64Array(3 * count),
  normal: new Float32Array(3 * count),
  triangle: new Uint32Array(count),
  words: new Uint32Array(2 * count),
  ordinal: null,
  joinOrder: null,
  capped: false,
});

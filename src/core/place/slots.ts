/**
 * *The positions that the rules produced*, before anything stands there: structure of arrays, one entry a slot.
 *
 * A slot's key is its line's number in the upper {@link LINE_NUMBER_BITS} bits and its own number, shifted to be positive,
 * in the rest. It says where the slot is, not which rank it has in a list, so it survives edits elsewhere. The numbers are
 * shared out once and for all:
 *
 *     -2¹⁷ … 3·2¹⁷ - 1          the first row, counted from the line's start
 *     3·2¹⁷ … 3·2¹⁷ + 2¹⁶ - 1   slots at corners, by their knot
 *     … 2¹⁹ - 1                 placements that the artist added by hand
 *     -2¹⁹ … -2¹⁷ - 1           further rows: 2 of 65,536 numbers, 4 of 16,384, 8 of 8,192, 16 of 4,096, 32 of 2,048
 *
 * Where things are spread over fields there are fewer of those and more on each: a field's tag has the upper 6 bits, what a
 * position is known by in its field the other 26. Tag 63 stands for what the artist added by hand.
 */
import { LINE_NUMBER_BITS } from "../line";

const SLOT_BITS = 32 - LINE_NUMBER_BITS;
const BIAS = 2 ** (SLOT_BITS - 1);
const SLOT_MASK = 2 ** SLOT_BITS - 1;

/** The smallest and largest number of a slot on its line. */
export const MIN_SLOT = -BIAS;
export const MAX_SLOT = BIAS - 1;

export const keyOf = (lineNumber: number, slot: number): number => ((lineNumber << SLOT_BITS) | (slot + BIAS)) >>> 0;
export const slotOfKey = (key: number): number => (key & SLOT_MASK) - BIAS;
export const lineNumberOfKey = (key: number): number => key >>> SLOT_BITS;

/** Numbers of the first row. */
export const FIRST_ROW = { min: -(2 ** 17), max: 3 * 2 ** 17 - 1 } as const;
const CORNERS = 2 ** 16;
export const FIRST_CORNER = FIRST_ROW.max + 1;
/** The numbers that placements added by hand take. */
export const ADDED = { min: FIRST_CORNER + CORNERS, max: MAX_SLOT } as const;

/** What a position is known by in its field has so many bits of a key, the field's tag the rest. */
export const LOCAL_BITS = 26;
export const MAX_LOCAL = 2 ** LOCAL_BITS - 1;
/** Tags of fields lie below this one, which placements have that were added by hand, on whichever field. */
export const ADDED_TAG = 63;

export const overKey = (tag: number, local: number): number => ((tag << LOCAL_BITS) | local) >>> 0;
export const tagOfKey = (key: number): number => key >>> LOCAL_BITS;
export const localOfKey = (key: number): number => key & MAX_LOCAL;

/** The slot at a line's corner, by its knot; null for knots beyond those that can be numbered. */
export const cornerSlot = (knot: number): number | null => (knot < CORNERS ? FIRST_CORNER + knot : null);

/** For each group of further rows, how many numbers each of its 2, 4, 8 … rows has. */
const ROW_WIDTHS = [65_536, 16_384, 8_192, 4_096, 2_048];
/** A dressing has at most so many rows. */
export const MAX_ROWS = 2 ** (ROW_WIDTHS.length + 1) - 1;

/** The numbers that slots of a row may have on it. In a key, number `n` of a further row stands as `base - n`. */
export interface RowNumbers {
  min: number;
  max: number;
  base: number;
}

/** The numbers of row `row`, counted from 0. An eighth of them lies before the line's start, for what slides in. */
export function numbersOfRow(row: number): RowNumbers {
  if (row === 0) return { ...FIRST_ROW, base: 0 };
  const group = Math.floor(Math.log2(row + 1)) - 1;
  const width = ROW_WIDTHS[group];
  let before = 0;
  for (let g = 0; g < group; g++) before += 2 ** (g + 1) * ROW_WIDTHS[g];
  before += (row + 1 - 2 ** (group + 1)) * width;
  const min = -width / 8;
  return { min, max: min + width - 1, base: FIRST_ROW.min - 1 - before + min };
}

/** The row and the number on it that a slot's number stands for; row 0 for corners and added placements. */
export function rowOfSlot(slot: number): { row: number; number: number } {
  if (slot >= FIRST_ROW.min) return { row: 0, number: slot };
  let before = FIRST_ROW.min - 1 - slot;
  for (const [group, width] of ROW_WIDTHS.entries()) {
    const rows = 2 ** (group + 1);
    if (before < rows * width) {
      const inGroup = Math.floor(before / width);
      return { row: rows - 1 + inGroup, number: (before % width) - width / 8 };
    }
    before -= rows * width;
  }
  return { row: 0, number: slot };
}

/** Bits of {@link Slots.flags} and of a placement's flags. */
export const FLAG = {
  /** Moved, swapped or removed by hand. */
  pegged: 1,
  /** Left empty. */
  blank: 2,
  /** Its place along the line was chosen by hand. */
  moved: 4,
  /** Some finding names it. */
  finding: 8,
  /** Its prop is turned into its mirror image, left for right. */
  mirrored: 16,
  /** Left out, or pushed on, because it would not have been clear of its neighbours. */
  crowded: 32,
  /** There is no ground under it where there should be. */
  groundless: 64,
} as const;

/** The index of a slot that has no prop to take. */
export const NO_PROP = 0xffff;

/** *Places that are spread over fields*; `line` of their slots counts the dressing's fields. */
export interface Spread {
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  /** Unit normals of the triangles: 3n. */
  normal: Float32Array;
  /** Triangles of the fields: n. */
  triangle: Uint32Array;
  /** Factors for the sizes of props, as where they are smaller towards an edge: n; null where all are one. */
  size: Float32Array | null;
}

export class Slots {
  readonly count: number;
  /** Index of the slot's line among those of the dressing. */
  readonly line: Uint16Array;
  /** The parallel row that it belongs to. */
  readonly row: Uint8Array;
  readonly key: Uint32Array;
  /** Arc length from the line's start, metres. */
  readonly at: Float64Array;
  /** Where its prop begins and ends on the line, 2n arc lengths; null where props need only one point to stand on. */
  readonly span: Float64Array | null;
  /** Index of the slot's prop among those of the dressing, or {@link NO_PROP}. */
  readonly prop: Uint16Array;
  readonly flags: Uint16Array;
  /** Where slots lie that are spread over something instead of along lines. */
  spread: Spread | null = null;
  /** By how much each prop is stretched along the line; null where none is. */
  stretch: Float32Array | null = null;
  /** By how much each prop has been turned about its up by hand, radians; null where none has. */
  turned: Float32Array | null = null;
  /** For each line the number that its slot 0 has in the sequence. */
  turns = new Float64Array(0);
  /** Whether the artist has pegged any of them. */
  pegged = false;
  /** How many more slots the rules ask for than may be made. */
  missing = 0;

  constructor(count: number, spans = false) {
    this.count = count;
    this.line = new Uint16Array(count);
    this.row = new Uint8Array(count);
    this.key = new Uint32Array(count);
    this.at = new Float64Array(count);
    this.span = spans ? new Float64Array(2 * count) : null;
    this.prop = new Uint16Array(count);
    this.flags = new Uint16Array(count);
  }

  /** A copy whose places, props and flags may be changed; what identifies the slots is shared. */
  derive(): Slots {
    const copy = Object.create(Slots.prototype) as Slots;
    return Object.assign(copy, {
      ...this,
      at: this.at.slice(),
      span: this.span?.slice() ?? null,
      prop: this.prop.slice(),
      flags: this.flags.slice(),
    });
  }

  turnByHand(i: number, by: number | undefined): void {
    if (!by) return;
    this.turned ??= new Float32Array(this.count);
    this.turned[i] = by;
  }

  /** Takes over the slots from `from` to before `to` of another, at `start`. */
  take(other: Slots, from: number, to: number, start: number): void {
    this.line.set(other.line.subarray(from, to), start);
    this.row.set(other.row.subarray(from, to), start);
    this.key.set(other.key.subarray(from, to), start);
    this.at.set(other.at.subarray(from, to), start);
    this.prop.set(other.prop.subarray(from, to), start);
    this.flags.set(other.flags.subarray(from, to), start);
    if (other.span) this.span?.set(other.span.subarray(2 * from, 2 * to), 2 * start);
    if (other.stretch) {
      this.stretch ??= new Float32Array(this.count).fill(1);
      this.stretch.set(other.stretch.subarray(from, to), start);
    }
    this.turns = other.turns;
  }

  /** Takes over slot `i` of another as its only one, `by` metres farther along. */
  takeOne(other: Slots, i: number, by: number): this {
    this.line[0] = other.line[i];
    this.row[0] = other.row[i];
    this.key[0] = other.key[i];
    this.at[0] = other.at[i] + by;
    this.prop[0] = other.prop[i];
    if (this.span && other.span) {
      this.span[0] = other.span[2 * i] + by;
      this.span[1] = other.span[2 * i + 1] + by;
    }
    return this;
  }
}

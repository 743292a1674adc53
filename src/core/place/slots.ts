/**
 * *The positions that the rules produced*, before anything stands there: structure of arrays, one entry a slot.
 *
 * A slot's key is its line's number in the upper {@link LINE_NUMBER_BITS} bits and its own number, shifted to be positive,
 * in the rest. It says where the slot is, not which rank it has in a list, so it survives edits elsewhere.
 */
import { LINE_NUMBER_BITS } from "../line";

const SLOT_BITS = 32 - LINE_NUMBER_BITS;
const BIAS = 2 ** (SLOT_BITS - 1);

/** The smallest and largest number of a slot on its line. */
export const MIN_SLOT = -BIAS;
export const MAX_SLOT = BIAS - 1;

export const keyOf = (lineNumber: number, slot: number): number => ((lineNumber << SLOT_BITS) | (slot + BIAS)) >>> 0;
export const slotOfKey = (key: number): number => (key & (2 ** SLOT_BITS - 1)) - BIAS;
export const lineNumberOfKey = (key: number): number => key >>> SLOT_BITS;

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
} as const;

/** The index of a slot that has no prop to take. */
export const NO_PROP = 0xffff;

export class Slots {
  readonly count: number;
  /** Index of the slot's line among those of the dressing. */
  readonly line: Uint16Array;
  readonly key: Uint32Array;
  /** Arc length from the line's start, metres. */
  readonly at: Float64Array;
  /** Index of the slot's prop among those of the dressing, or {@link NO_PROP}. */
  readonly prop: Uint16Array;
  readonly flags: Uint16Array;
  /** How many more slots the rules ask for than may be made. */
  missing = 0;

  constructor(count: number) {
    this.count = count;
    this.line = new Uint16Array(count);
    this.key = new Uint32Array(count);
    this.at = new Float64Array(count);
    this.prop = new Uint16Array(count);
    this.flags = new Uint16Array(count);
  }

  /** A copy whose `at`, `prop` and `flags` may be changed; what identifies the slots is shared. */
  derive(): Slots {
    const copy = Object.create(Slots.prototype) as Slots;
    return Object.assign(copy, {
      count: this.count,
      line: this.line,
      key: this.key,
      at: this.at.slice(),
      prop: this.prop.slice(),
      flags: this.flags.slice(),
      missing: this.missing,
    });
  }
}

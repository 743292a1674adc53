/**
 * *What a placement is known by*: two words of 32 bits, of which the lower says the place and the upper what it lies on. They
 * come from where a slot is and not from which rank it has in a list, so they survive edits elsewhere.
 *
 * Along lines they are exact: the upper word is the row's number in its upper 12 bits and the line's in the rest, the lower
 * one the slot's number, which may be negative:
 *
 *     -2¹⁷ … 3·2¹⁷ - 1    counted from the line's start
 *     2²⁹ …               slots at corners, by their knots' ids
 *     2³⁰ … 2³¹ - 1       placements that the artist added by hand
 *     -2³¹ … -2¹⁷ - 1     what stands behind or on top of the slot of a rack: see {@link inColumn}
 *
 * On a level above the first the row has 64 times the level added to it.
 *
 * On fields the upper word is the field's tag in its upper 12 bits; the rest of both words is a hash of the place (triangle and
 * number, row and column, cell). What is added by hand has {@link ADDED_TAG}, on whichever field, and is numbered; what is sown
 * by hand has it, too, and the number of its stroke, see `sown/`.
 *
 * Files write a key as 16 hexadecimal digits. Arrays of keys are read as words where it matters how fast that is; the lower
 * word comes first in memory, as in all machines that browsers run on.
 */
import { MAX_LINE_NUMBER } from "../line";
import { CHANNEL, finish, mix, streamOf } from "../math";

export type Key = bigint;

/** Both words of each key: 2n, the place first. */
export const wordsOf = (keys: BigUint64Array): Uint32Array =>
  new Uint32Array(keys.buffer as ArrayBuffer, keys.byteOffset, 2 * keys.length);

const WORD = 32n;
export const keyOf = (host: number, place: number): Key => (BigInt(host >>> 0) << WORD) | BigInt(place >>> 0);
export const placeOfKey = (key: Key): number => Number(BigInt.asIntN(32, key));
export const hostOfKey = (key: Key): number => Number(key >> WORD);

const DIGITS = 16;
/** A key as files write it. */
export const hexOf = (key: Key): string => key.toString(DIGITS).padStart(DIGITS, "0");
export const keyOfHex = (digits: string): Key => BigInt(`0x${digits}`);

/**
 * Visits the keys that are among others, in their order. Bits that they have in common tell of most that they are not; the rest
 * are looked for in a sorted list, which is quick whatever keys a file makes up.
 */
export function eachAmong(keys: BigUint64Array, others: BigUint64Array, visit: (i: number) => void): void {
  if (others.length === 0) return;
  const sorted = wordsOf(others.slice().sort());
  const mask = 2 ** Math.ceil(Math.log2(BITS_EACH * others.length)) - 1;
  const likely = new Uint8Array(mask + 1);
  for (let k = 0; k < sorted.length; k += 2) likely[bitsOf(sorted[k], sorted[k + 1]) & mask] = 1;
  const words = wordsOf(keys);
  for (let i = 0; i < keys.length; i++) {
    const place = words[2 * i];
    const host = words[2 * i + 1];
    if (likely[bitsOf(place, host) & mask] === 0) continue;
    let low = 0;
    let high = others.length - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      const above = sorted[2 * middle + 1];
      if (above < host || (above === host && sorted[2 * middle] < place)) low = middle + 1;
      else high = middle;
    }
    if (sorted[2 * low] === place && sorted[2 * low + 1] === host) visit(i);
  }
}

const BITS_EACH = 8;
const bitsOf = (place: number, host: number): number => {
  const mixed = Math.imul(place, 0x9e3779b1) ^ Math.imul(host, 0x85ebca6b);
  return mixed ^ (mixed >>> 15);
};

/** Visits the keys that a map has. */
export function eachOf<T>(
  keys: BigUint64Array,
  among: ReadonlyMap<Key, T>,
  visit: (i: number, key: Key, value: T) => void,
): void {
  const find = (i: number): void => {
    const value = among.get(keys[i]);
    if (value !== undefined) visit(i, keys[i], value);
  };
  eachAmong(keys, BigUint64Array.from(among.keys()), find);
}

/** The indices of the keys that are among others. */
export function indicesOf(keys: BigUint64Array, among: Iterable<Key>): number[] {
  const out: number[] = [];
  eachAmong(keys, BigUint64Array.from(among), (i) => out.push(i));
  return out;
}

/** Numbers of slots that are counted from a line's start. */
export const FIRST_ROW = { min: -(2 ** 17), max: 3 * 2 ** 17 - 1 } as const;
export const FIRST_CORNER = 2 ** 29;
/** The numbers that placements added by hand take. */
export const ADDED = { min: 2 ** 30, max: 2 ** 31 - 1 } as const;

const LINE_BITS = 20;
/** A dressing has at most so many rows. */
export const MAX_ROWS = 2 ** (32 - LINE_BITS) - 1;

/** What slots of a line's row have for their upper word. */
export const lineHost = (lineNumber: number, row = 0): number => ((row << LINE_BITS) | lineNumber) >>> 0;
export const lineKey = (lineNumber: number, slot: number, row = 0): Key => keyOf(lineHost(lineNumber, row), slot);
export const rowOfKey = (key: Key): number => hostOfKey(key) >>> LINE_BITS;
export const lineNumberOfKey = (key: Key): number => hostOfKey(key) & MAX_LINE_NUMBER;

/** The slot at a line's corner, by its knot. */
export const cornerSlot = (knot: number): number => FIRST_CORNER + knot;

/** So many stand behind each other in a rack at most, and so many on each other. */
export const MOST_DEEP = 64;
/** And so many levels it has, while it has no more than so many rows. */
export const MOST_LEVELS = 63;
export const MOST_ROWS_OF_LEVELS = 64;

const COLUMN_BITS = 12;
/** Slots beyond this have no columns. */
const LAST_COLUMN = FIRST_ROW.max - 32;

/** Whether things can stand behind and on a slot. */
export const hasColumn = (slot: number): boolean => slot >= FIRST_ROW.min && slot <= LAST_COLUMN;

/** The place of what stands behind `deep` others and on `high` others at a slot. */
export const inColumn = (slot: number, deep: number, high: number): number =>
  deep === 0 && high === 0
    ? slot
    : (-(2 ** 31) + (slot - FIRST_ROW.min) * 2 ** COLUMN_BITS + deep * MOST_DEEP + high) | 0;

/** What a row's number is on a level. */
export const rowOnLevel = (row: number, level: number): number => row + MOST_ROWS_OF_LEVELS * level;

/** Tags of fields lie below this one, which placements have that were added by hand. */
export const ADDED_TAG = 2 ** (32 - LINE_BITS) - 1;
export const fieldHost = (tag: number, hash: number): number => ((tag << LINE_BITS) | (hash & MAX_LINE_NUMBER)) >>> 0;
export const tagOfKey = (key: Key): number => hostOfKey(key) >>> LINE_BITS;
export const addedKey = (number: number): Key => keyOf(fieldHost(ADDED_TAG, 0), number);

/**
 * What the slots of a row draw by, 32 bits, by their numbers: neighbours' differ by one. As far as version 5 of scenes had
 * keys for them they are those, so nothing along lines is dealt anew.
 */
export function drawsOfRow(lineNumber: number, row: number): (slot: number) => number {
  const beyond = finish(mix(streamOf(2, CHANNEL.key), lineHost(lineNumber, row)));
  if (lineNumber > MAX_OLD_LINE) return (slot) => (beyond + slot) >>> 0;
  const old = row === 0 ? oldFirst : oldFurther(row);
  const line = lineNumber << OLD_SLOT_BITS;
  return (slot) => {
    const known = old(slot);
    return (known === null ? beyond + slot : line | (known + OLD_BIAS)) >>> 0;
  };
}

/** The same for a line, which may have slots draw otherwise than its number says. */
export function drawsOn({ number, salt }: { number: number; salt: number }, row: number): (slot: number) => number {
  const plain = drawsOfRow(number, row);
  return salt === 0 ? plain : (slot) => (plain(slot) + salt) >>> 0;
}

/** Version 5's keys: 12 bits for the line, 20 for the slot. */
const OLD_SLOT_BITS = 20;
const OLD_BIAS = 2 ** (OLD_SLOT_BITS - 1);
const MAX_OLD_LINE = 2 ** (32 - OLD_SLOT_BITS) - 1;
const OLD_CORNERS = 2 ** 16;
const OLD_CORNER = FIRST_ROW.max + 1;
const OLD_ADDED = OLD_CORNER + OLD_CORNERS;
/** For each group of further rows, how many numbers each of its 2, 4, 8 … rows had. */
const OLD_WIDTHS = [65_536, 16_384, 8_192, 4_096, 2_048];

function oldFirst(slot: number): number | null {
  if (slot <= FIRST_ROW.max) return slot;
  if (slot >= ADDED.min) return slot - ADDED.min + OLD_ADDED < OLD_BIAS ? slot - ADDED.min + OLD_ADDED : null;
  return slot - FIRST_CORNER < OLD_CORNERS ? slot - FIRST_CORNER + OLD_CORNER : null;
}

function oldFurther(row: number): (slot: number) => number | null {
  const group = Math.floor(Math.log2(row + 1)) - 1;
  if (group >= OLD_WIDTHS.length) return () => null;
  const width = OLD_WIDTHS[group];
  let before = (row + 1 - 2 ** (group + 1)) * width;
  for (let g = 0; g < group; g++) before += 2 ** (g + 1) * OLD_WIDTHS[g];
  const min = -width / 8;
  const base = FIRST_ROW.min - 1 - before + min;
  return (slot) => {
    const number = slot >= FIRST_CORNER ? min + width - 1 - (slot - FIRST_CORNER) : slot;
    return number < min || number >= min + width ? null : base - number;
  };
}

/**
 * The row and the slot that a number of version 5 stands for; null for what stands for none.
 *
 * @param corners how many corners its line may have: in further rows they had the last numbers
 */
export function slotOfOld(old: number, corners: number): { row: number; slot: number } | null {
  if (!(old >= -OLD_BIAS && old < OLD_BIAS)) return null;
  if (old >= OLD_ADDED) return { row: 0, slot: ADDED.min + old - OLD_ADDED };
  if (old >= OLD_CORNER) return { row: 0, slot: FIRST_CORNER + old - OLD_CORNER };
  if (old >= FIRST_ROW.min) return { row: 0, slot: old };
  let before = FIRST_ROW.min - 1 - old;
  for (const [group, width] of OLD_WIDTHS.entries()) {
    const rows = 2 ** (group + 1);
    if (before < rows * width) {
      const row = rows - 1 + Math.floor(before / width);
      const left = width - 1 - (before % width);
      return { row, slot: left < corners ? FIRST_CORNER + left : (before % width) - width / 8 };
    }
    before -= rows * width;
  }
  return null;
}

const FIELD_STREAMS = [streamOf(3, CHANNEL.key), streamOf(4, CHANNEL.key)] as const;

/** Writes the words of a place that up to three numbers tell: hashes, the field's tag not in them yet. */
export function writeWords(out: Uint32Array, o: number, a: number, b: number, c: number): void {
  for (let k = 0; k < 2; k++) out[o + k] = finish(mix(mix(mix(FIELD_STREAMS[k], a), b), c));
}

const FOLD = streamOf(5, CHANNEL.key);
/** Added placements draw by what version 5 knew them by. */
const OLD_ADDED_TAG = 63 << 26;

/** What a slot on a field draws by: both words of its key, folded into one. */
export const drawOnField = (place: number, host: number): number =>
  host === fieldHost(ADDED_TAG, 0) ? (OLD_ADDED_TAG | place) >>> 0 : finish(mix(mix(FOLD, place), host));

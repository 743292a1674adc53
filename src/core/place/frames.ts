/** Where slots lie in the world, and which way the line runs there: still without any prop. */
import { aimInto } from "./stance/aim";
import { bankInto } from "./stance/bank";
import type { GuideLine } from "../line";
import type { Hold } from "./stance/stance";
import type { Slots } from "./slots";
import type { Three } from "./variation/variation";

/** Slots whose frames are worked out at a time: what belongs to them fits the processor's nearest caches. */
const CHUNK = 1024;

/** Metres along the line, across it and up. */
export type Offset = readonly [along: number, across: number, up: number];

/** *The slots' feet*: where props meet the line, moved by offset, row and what each slot drew; and the line's frames there. */
export interface Frames {
  /** World position that the feet count from, metres. */
  origin: [number, number, number];
  /** Metres from the origin: 3n. */
  feet: Float32Array;
  /** The line's own frames, quaternions: 4n. */
  rotation: Float32Array;
  /** Those of what points elsewhere than forward; the same array where nothing does. */
  facing: Float32Array;
}

/** What says how feet are moved from their slots: offset, each row's distance to the left (metres), draws. */
export interface Moves {
  offset: Offset;
  rows: Float64Array;
  shift: Three;
}

/** What the chunks are worked out in. */
const scratch = {
  at: new Float64Array(CHUNK),
  span: new Float64Array(2 * CHUNK),
  position: new Float64Array(3 * CHUNK),
  rotation: new Float64Array(4 * CHUNK),
};

/**
 * The feet and frames of all slots.
 *
 * @param first the slot that the draws are looked up from, for slots that were taken out by themselves
 */
export function framesAt(
  lines: readonly GuideLine[],
  slots: Slots,
  hold: Pick<Hold, "up" | "aim" | "bank" | "forwardFirst">,
  moves: Moves,
  first = 0,
): Frames {
  const n = slots.count;
  const frames: Frames = {
    origin: [0, 0, 0],
    feet: new Float32Array(3 * n),
    rotation: new Float32Array(4 * n),
    facing: new Float32Array(0),
  };
  frames.facing = hold.aim ? new Float32Array(4 * n) : frames.rotation;
  const { position, rotation } = scratch;
  for (let from = 0; from < n;) {
    const line = lines[slots.line[from]];
    const most = Math.min(n, from + CHUNK);
    let to = from + 1;
    while (to < most && slots.line[to] === slots.line[from]) to++;
    const count = to - from;
    alongTheLine(slots, moves, from, count, first);
    if (slots.span) line.spanFrames(hold.up, scratch.at, scratch.span, count, position, rotation);
    else line.frames(hold.up, scratch.at, count, position, rotation);
    if (hold.bank && !slots.halted?.[slots.line[from]]) bankInto(rotation, line.curve, hold.bank, scratch.at, count);
    if (from === 0) frames.origin = [Math.round(position[0]), Math.round(position[1]), Math.round(position[2])];
    beside(frames, slots, moves, from, count, first);
    if (hold.aim) aimInto(frames.facing, from, hold.aim, hold.forwardFirst, position, rotation, count);
    from = to;
  }
  return frames;
}

/** The arc lengths of a chunk, moved along. */
function alongTheLine(slots: Slots, { offset, shift }: Moves, from: number, count: number, first: number): void {
  const { at, span } = scratch;
  const { at: ownAt, span: ownSpan } = slots;
  const draws = shift[0];
  const all = offset[0];
  for (let k = 0, i = from; k < count; k++, i++) {
    const by = draws ? all + draws[first + i] : all;
    at[k] = ownAt[i] + by;
    if (!ownSpan) continue;
    span[2 * k] = ownSpan[2 * i] + by;
    span[2 * k + 1] = ownSpan[2 * i + 1] + by;
  }
}

/** Moves the positions of a chunk across and up, in their own frames, and takes both over. */
function beside(
  { feet, rotation: turned, origin }: Frames,
  { row }: Slots,
  { offset, rows, shift }: Moves,
  from: number,
  count: number,
  first: number,
): void {
  const { position, rotation } = scratch;
  const [, acrossDraws, upDraws] = shift;
  const [ox, oy, oz] = origin;
  const [, offsetAcross, offsetUp] = offset;
  for (let k = 0, p = 0, q = 0; k < count; k++, p += 3, q += 4) {
    const i = first + from + k;
    const inRow = offsetAcross + rows[row[from + k]];
    const across = acrossDraws ? inRow + acrossDraws[i] : inRow;
    const up = upDraws ? offsetUp + upDraws[i] : offsetUp;
    const x = rotation[q];
    const y = rotation[q + 1];
    const z = rotation[q + 2];
    const w = rotation[q + 3];
    position[p] += across * (1 - 2 * (y * y + z * z)) + up * 2 * (x * y - w * z);
    position[p + 1] += across * 2 * (x * y + w * z) + up * (1 - 2 * (x * x + z * z));
    position[p + 2] += across * 2 * (x * z - w * y) + up * 2 * (y * z + w * x);
    const f = 3 * from + p;
    feet[f] = position[p] - ox;
    feet[f + 1] = position[p + 1] - oy;
    feet[f + 2] = position[p + 2] - oz;
    const g = 4 * from + q;
    turned[g] = x;
    turned[g + 1] = y;
    turned[g + 2] = z;
    turned[g + 3] = w;
  }
}

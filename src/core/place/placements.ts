import type { BroughtUp } from "./pegs";
import type { Stacked } from "./slots";
import type { Poses } from "./variation/poses";
import { buffersOfShapes, type Shapes } from "../mesh";

/**
 * *The placements of one dressing*: what the seven steps come to. Structure of arrays, ready to be handed between threads.
 * Blank slots are among them, marked by their flag, so that the strip can show where they are; they stand for no prop.
 */
export interface Placements {
  /** How many slots, blank ones among them. */
  count: number;
  /** How many of them are blank. */
  blanks: number;
  /** World position that all positions count from, metres. */
  origin: [number, number, number];
  /** Metres from the origin: 3n. */
  position: Float32Array;
  /** Unit quaternions x y z w: 4n. */
  rotation: Float32Array;
  /** Factors: 3n. */
  scale: Float32Array;
  /** Index into `props`: n. */
  prop: Uint16Array;
  /** Stable identities, see `keys.ts`: n. */
  key: BigUint64Array;
  /** Index into `lines`, or into `fields` where things are spread: n. */
  line: Uint16Array;
  /** Which of the parallel rows each belongs to: n. */
  row: Uint16Array;
  /** Metres from the line's start, or NaN where there is no line: n. */
  at: Float32Array;
  /** Bits of FLAG: n. */
  flags: Uint16Array;
  /** How far each prop reaches along its line, behind and before `at`, metres: 2n. */
  reach: Float32Array;
  /** Ids that `prop` and `line` index; no lines where things are spread. */
  props: string[];
  lines: string[];
  /** Ids of the surfaces and areas that things are spread over, instead of lines. */
  fields: string[];
  /** Lengths of the lines, metres, and which are closed. */
  lineLengths: Float64Array;
  lineClosed: boolean[];
  /** By how much farther each is from one next to it than its sheet says, metres: n; null where no sheet is torn under it. */
  torn: Float32Array | null;
  /** Index into `tints`: n. */
  tint: Uint8Array;
  /** Colours `#rrggbb` that props are tinted with; white alone where there is no tint. */
  tints: string[];
  /** Which of its prop's stills each stands in, and what these are; null where all stand as at rest: n. */
  posed: { pose: Uint16Array; poses: Poses } | null;
  /** Where each stands in its rack; null where nothing is stacked. */
  stacked: Stacked | null;
  /** Of a rack's columns, into how many nothing goes. */
  tight: number;
  /** Those that are bent or clipped; null where none is. */
  shapes: Shapes | null;
  /** Pegs whose slot is no longer there, by their keys. */
  orphans: string[];
  /** Pegs of version 5 with the keys that they have now, and those that found no slot; null where there were none. */
  brought: BroughtUp | null;
  /** Slots that the rules ask for beyond the greatest number a line can have. */
  missing: number;
}

/** The buffers of placements, for handing them to another thread without copying. */
export const buffersOf = (p: Placements): ArrayBuffer[] => [
  ...[p.position, p.rotation, p.scale, p.prop, p.key, p.line, p.row, p.at, p.flags, p.reach, p.tint, p.lineLengths].map(
    (array) => array.buffer as ArrayBuffer,
  ),
  ...(p.stacked ? Object.values(p.stacked).map(({ buffer }) => buffer as ArrayBuffer) : []),
  ...(p.shapes ? buffersOfShapes(p.shapes) : []),
  ...(p.posed ? [p.posed.pose, ...Object.values(p.posed.poses)].map(({ buffer }) => buffer as ArrayBuffer) : []),
  ...(p.torn ? [p.torn.buffer as ArrayBuffer] : []),
];

/** A copy of whose buffers none is shared: what is remembered stays here when the copy is handed to another thread. */
export function copyOf<T>(value: T): T {
  if (ArrayBuffer.isView(value)) return (value as unknown as Float32Array).slice() as T;
  if (Array.isArray(value) || typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, copyOf<unknown>(part)])) as T;
}

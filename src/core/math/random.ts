/**
 * Keyed randomness: every draw is a stateless hash of what it is for, so nothing depends on the order of evaluation.
 *
 *     unit(seed, CHANNEL, key, 0)   // the same number for ever, in browser, worker and Node
 *
 * The hash is MurmurHash3_x86_32 (A. Appleby, public domain) over the four words: each of their bits changes every bit
 * of the result with a chance of about one half.
 */

/** One block of MurmurHash3: takes the word `k` into the state `h`. */
export function mix(h: number, k: number): number {
  k = Math.imul(k, 0xcc9e2d51);
  k = (k << 15) | (k >>> 17);
  h ^= Math.imul(k, 0x1b873593);
  h = (h << 13) | (h >>> 19);
  return (Math.imul(h, 5) + 0xe6546b64) | 0;
}

/** What all draws of one seed and channel have in common, worked out once for {@link drawFrom}. */
export const streamOf = (seed: number, channel: number): number => mix(mix(0, seed), channel);

/** What brings 32 bits to [0, 1): exact, being a power of two. */
export const PER_DRAW = 2 ** -32;

export function finish(h: number): number {
  h ^= 16;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** A 32-bit hash of four integers, as an unsigned integer in [0, 2³²). */
export function hash(seed: number, channel: number, key: number, index: number): number {
  return finish(mix(mix(streamOf(seed, channel), key), index));
}

/** A number in [0, 1) with 32 random bits, for the same four integers always the same. */
export function unit(seed: number, channel: number, key: number, index: number): number {
  return hash(seed, channel, key, index) / 4294967296;
}

/** As {@link unit}, for a loop over many keys of one {@link streamOf} seed and channel. */
export function drawFrom(stream: number, key: number, index: number): number {
  return finish(mix(mix(stream, key), index)) * PER_DRAW;
}

/**
 * `drawFrom(stream, key, 0)`, written out for loops over hundreds of thousands of keys: what a module exports is looked up
 * anew at each use and checked, which took longer than the hash itself.
 */
function firstDraw(stream: number, key: number): number {
  let k = Math.imul(key, 0xcc9e2d51);
  k = (k << 15) | (k >>> 17);
  let h = stream ^ Math.imul(k, 0x1b873593);
  h = (h << 13) | (h >>> 19);
  h = (Math.imul(h, 5) + 0xe6546b64) | 0;
  h = (h << 13) | (h >>> 19);
  h = ((Math.imul(h, 5) + 0xe6546b64) | 0) ^ 16;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) * 2 ** -32;
}

/** Writes a draw from `low` to before `low + span` for each key, `stride` numbers apart from `offset` on. */
export function drawEach(
  out: Float32Array,
  offset: number,
  stride: number,
  keys: Int32Array,
  stream: number,
  low: number,
  span: number,
): void {
  const n = keys.length;
  for (let i = 0, o = offset; i < n; i++, o += stride) out[o] = low + span * firstDraw(stream, keys[i]);
}

/** Writes 1 for each key whose draw lies below `chance`, 0 for all others. */
export function chanceOfEach(out: Uint8Array, keys: Int32Array, stream: number, chance: number): void {
  const n = keys.length;
  for (let i = 0; i < n; i++) out[i] = firstDraw(stream, keys[i]) < chance ? 1 : 0;
}

/** Keys for {@link drawFrom} as signed integers, which are the same bits and quicker to reckon with. */
export const signedKeys = (keys: Uint32Array): Int32Array =>
  new Int32Array(keys.buffer as ArrayBuffer, keys.byteOffset, keys.length);

/** A key for a cell of a lattice in space: different for all cells near each other (M. Teschner and others, VMV 2003). */
export const cellKey = (i: number, j: number, k: number): number =>
  (Math.imul(i, 73856093) ^ Math.imul(j, 19349663) ^ Math.imul(k, 83492791)) | 0;

/** A 32-bit hash of a text: FNV-1a (Fowler, Noll, Vo) over its UTF-16 units, finished by one round of {@link hash}. */
export function hashText(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return hash(h, text.length, 0, 0);
}

/**
 * The channels of all draws. A channel belongs to one parameter of one step and never changes its number: switching one
 * variation on must leave the others as they were.
 */
export const CHANNEL = {
  variant: 0x0111,
  use: 0x0112,
  what: 0x0201,
  mix: 0x0202,
  variationAlong: 0x0601,
  variationAcross: 0x0602,
  variationUp: 0x0603,
  variationTurnAlong: 0x0611,
  variationTurnAcross: 0x0612,
  variationTurnUp: 0x0613,
  variationSize: 0x0621,
  variationWidth: 0x0622,
  variationHeight: 0x0623,
  variationDepth: 0x0624,
  variationMirror: 0x0631,
  variationTint: 0x0641,
  variationClipStart: 0x0651,
  variationClipSpeed: 0x0652,
  wanderAcross: 0x0651,
  wanderUp: 0x0652,
  bumps: 0x0101,
  insideCount: 0x0311,
  insidePlace: 0x0312,
  insideEven: 0x0313,
  overCount: 0x0301,
  overFirst: 0x0302,
  overSecond: 0x0303,
  overEven: 0x0304,
  overArrive: 0x0308,
  insideArrive: 0x0314,
  key: 0x0001,
  sow: 0x0321,
  clusterCount: 0x0305,
  clusterFar: 0x0306,
  clusterWay: 0x0307,
  stanceRandom: 0x0401,
  gapChance: 0x0701,
  gapRun: 0x0702,
  gapRunLength: 0x0703,
  gapLimit: 0x0704,
  gapShade: 0x0705,
  rackDeep: 0x0111,
  rackHigh: 0x0112,
  rackBack: 0x0711,
  rackTop: 0x0712,
  rackTaken: 0x0713,
} as const;

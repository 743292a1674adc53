/**
 * *Places in a text*: three float32 numbers each, the lowest byte first, in base64. Twelve bytes are sixteen characters, so that
 * places are put behind others by putting their texts together.
 */

/** Characters of one place. */
export const PLACE = 16;
const BYTES = 12;
/** What characters are made of at once: arguments of one call have a limit. */
const AT_ONCE = 8192;

/** @param points 3n; a place that is there no more is NaN */
export function packed(points: ArrayLike<number>): string {
  const bytes = new Uint8Array(Float32Array.from(points).buffer);
  let text = "";
  for (let i = 0; i < bytes.length; i += AT_ONCE) text += String.fromCharCode(...bytes.subarray(i, i + AT_ONCE));
  return btoa(text);
}

/** The places of a text that is one of {@link packed}: 3n. */
export function unpacked(text: string): Float32Array {
  const binary = atob(text);
  const bytes = new Uint8Array(binary.length - (binary.length % BYTES));
  for (let i = 0; i < bytes.length; i++) bytes[i] = binary.charCodeAt(i);
  return new Float32Array(bytes.buffer);
}

/** Whether there is a place: within reach of anything that a scene has, which excludes NaN. */
export const isThere = (x: number, y: number, z: number): boolean =>
  Math.abs(x) + Math.abs(y) + Math.abs(z) <= FARTHEST;
/** Metres. */
const FARTHEST = 1e9;

/** Visits the places that are there. */
export function eachThere(text: string, visit: (index: number, x: number, y: number, z: number) => void): void {
  const points = unpacked(text);
  for (let p = 0, i = 0; p < points.length; p += 3, i++)
    if (isThere(points[p], points[p + 1], points[p + 2])) visit(i, points[p], points[p + 1], points[p + 2]);
}

export function countThere(text: string): number {
  let count = 0;
  eachThere(text, () => void count++);
  return count;
}

/** The text without some of its places, by their indices; those of the others stay. Empty where none is left. */
export function without(text: string, indices: Iterable<number>): string {
  const points = unpacked(text);
  for (const i of indices) points.fill(NaN, 3 * i, 3 * i + 3);
  let end = points.length;
  while (end > 0 && !isThere(points[end - 3], points[end - 2], points[end - 1])) end -= 3;
  return packed(points.subarray(0, end));
}

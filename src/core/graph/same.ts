/** Whether two results are the same, and how much memory one holds. */

/** Larger typed arrays count as the same only by identity. */
const MOST_BYTES = 64 * 1024;
/** So many values are compared before two results count as different. */
const MOST_VALUES = 16 * 1024;

type Keyed = Record<string, unknown>;

/** By identity, or where it is plain data by content: object literals, arrays, maps, sets and typed arrays below 64 kB. */
export function same(a: unknown, b: unknown): boolean {
  return new Comparison().same(a, b);
}

class Comparison {
  #left = MOST_VALUES;

  same(a: unknown, b: unknown): boolean {
    if (Object.is(a, b)) return true;
    if (typeof a !== "object" || typeof b !== "object" || a === null || b === null || this.#left-- <= 0) return false;
    // By what they are called, since what came from another thread has other prototypes.
    const kind = kindOf(a);
    if (kind !== kindOf(b)) return false;
    if (Array.isArray(a)) return this.#sameItems(a, b as unknown[]);
    if (ArrayBuffer.isView(a)) return sameBytes(a, b as ArrayBufferView);
    if (kind === "[object Map]" || kind === "[object Set]") {
      return this.#sameItems([...(a as Set<unknown>)], [...(b as Set<unknown>)]);
    }
    if (!isPlain(a) || !isPlain(b)) return false;
    const keys = Object.keys(a);
    return keys.length === Object.keys(b).length && keys.every((key) => key in b && this.same(a[key], b[key]));
  }

  #sameItems(a: readonly unknown[], b: readonly unknown[]): boolean {
    return a.length === b.length && a.every((item, i) => this.same(item, b[i]));
  }
}

const kindOf = (value: object): string => Object.prototype.toString.call(value);

function sameBytes(a: ArrayBufferView, b: ArrayBufferView): boolean {
  if (a.byteLength !== b.byteLength || a.byteLength > MOST_BYTES) return false;
  const [left, right] = [a, b].map((view) => new Uint8Array(view.buffer, view.byteOffset, view.byteLength));
  for (let i = 0; i < left.length; i++) if (left[i] !== right[i]) return false;
  return true;
}

/** Whether a value is an object literal, also one that came from another thread. */
function isPlain(value: object): value is Keyed {
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === null || Object.getPrototypeOf(prototype) === null;
}

/** How deep typed arrays are looked for. */
const DEPTH = 3;

/** About how many bytes of typed arrays a result holds, each once, down to a few levels; what instances keep private is not seen. */
export function bytesOf(value: unknown, depth = DEPTH, counted = new Set<object>()): number {
  if (typeof value !== "object" || value === null) return 0;
  if (ArrayBuffer.isView(value)) return counted.has(value) ? 0 : (counted.add(value), value.byteLength);
  if (depth === 0) return 0;
  let sum = 0;
  const items = Array.isArray(value) ? (value as unknown[]) : Object.values(value);
  // Of long lists only plain values are expected.
  if (items.length > 256)
    return typeof items[0] === "object" ? items.length * bytesOf(items[0], depth - 1, counted) : 0;
  for (const item of items) sum += bytesOf(item, depth - 1, counted);
  return sum;
}

/** The straight ways between pairs of places on a curve: where a stiff prop lies that has both its ends on it. */
import type { Curve } from "./curve";

/** Pairs worked out at a time. */
const CHUNK = 512;
const ends = new Float64Array(6 * CHUNK);
const one = new Float64Array(6);

/** {@link Curve.chords} of any curve, by looking at both ends. */
export function writeChords(
  curve: Pick<Curve, "sample" | "sampleAt">,
  spans: Float64Array,
  n: number,
  middle: Float64Array,
  direction: Float64Array,
): void {
  for (let from = 0; from < n; from += CHUNK) {
    const count = Math.min(CHUNK, n - from);
    curve.sample(spans.subarray(2 * from), 2 * count, ends, null);
    for (let i = 0, e = 0, p = 3 * from; i < count; i++, e += 6, p += 3) {
      const x = ends[e + 3] - ends[e];
      const y = ends[e + 4] - ends[e + 1];
      const z = ends[e + 5] - ends[e + 2];
      const squared = x * x + y * y + z * z;
      middle[p] = 0.5 * (ends[e] + ends[e + 3]);
      middle[p + 1] = 0.5 * (ends[e + 1] + ends[e + 4]);
      middle[p + 2] = 0.5 * (ends[e + 2] + ends[e + 5]);
      if (squared > 0) {
        const inverse = 1 / Math.sqrt(squared);
        direction[p] = x * inverse;
        direction[p + 1] = y * inverse;
        direction[p + 2] = z * inverse;
      } else {
        curve.sampleAt(spans[2 * (from + i)], one);
        direction.set(one.subarray(3), p);
      }
    }
  }
}

/** {@link Curve.chordLengths} of any curve, by looking at both ends. */
export function writeChordLengths(
  curve: Pick<Curve, "sample">,
  spans: Float64Array,
  n: number,
  out: Float64Array,
): void {
  for (let from = 0; from < n; from += CHUNK) {
    const count = Math.min(CHUNK, n - from);
    curve.sample(spans.subarray(2 * from), 2 * count, ends, null);
    for (let i = 0, e = 0; i < count; i++, e += 6) {
      const x = ends[e + 3] - ends[e];
      const y = ends[e + 4] - ends[e + 1];
      const z = ends[e + 5] - ends[e + 2];
      out[from + i] = Math.sqrt(x * x + y * y + z * z);
    }
  }
}

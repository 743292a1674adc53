/** Several curves as one, each beginning where the one before it ended by arc length, wherever that lies in space. */
import { writeChordLengths } from "./chords";
import type { Track } from "./curve";

export function chained(curves: readonly Track[]): Track {
  const starts = [0];
  for (const curve of curves) starts.push(starts[starts.length - 1] + curve.length);
  const indexAt = (at: number): number => {
    let i = curves.length - 1;
    while (i > 0 && at < starts[i]) i--;
    return i;
  };
  return {
    length: starts[curves.length],
    closed: false,
    knotAt: Float64Array.from(curves.flatMap((curve, i) => Array.from(curve.knotAt, (at) => starts[i] + at))),
    sample(at, n, position, tangent) {
      const one = new Float64Array(6);
      for (let k = 0; k < n; k++) {
        this.sampleAt(at[k], one);
        position.set(one.subarray(0, 3), 3 * k);
        tangent?.set(one.subarray(3), 3 * k);
      }
    },
    sampleAt(at, out) {
      const i = indexAt(at);
      curves[i].sampleAt(at - starts[i], out);
    },
    chordLengths(spans, n, out) {
      writeChordLengths(this, spans, n, out);
    },
  };
}

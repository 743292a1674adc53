/**
 * Sine and cosine of many angles at once, by Cody and Waite's reduction to an eighth of a turn and polynomials there (W. J. Cody,
 * W. Waite, *Software Manual for the Elementary Functions*, 1980): to 1e-10 for angles below a million, in a fraction of the time.
 */

const PER_QUARTER = 2 / Math.PI;
/** A quarter of a turn in two parts, of which the first has no more digits than can be multiplied exactly. */
const [HIGH, LOW] = [1.5707963109016418, 1.5893254773528196e-8];
const [S3, S5, S7, S9] = [-1 / 6, 1 / 120, -1 / 5040, 1 / 362880];
const S11 = -1 / 39916800;
const [C2, C4, C6, C8, C10] = [-1 / 2, 1 / 24, -1 / 720, 1 / 40320, -1 / 3628800];
const C12 = 1 / 479001600;

/** Writes the sines and cosines of the first `n` angles one behind the other: 2n. */
export function writeSines(angles: Float64Array, n: number, out: Float64Array): void {
  for (let i = 0; i < n; i++) write(angles[i], out, 2 * i);
}

/** The sine and, behind it, the cosine. */
function write(angle: number, out: Float64Array, o: number): void {
  const quarters = Math.floor(angle * PER_QUARTER + 0.5);
  const x = angle - quarters * HIGH - quarters * LOW;
  const xx = x * x;
  const s = x * (1 + xx * (S3 + xx * (S5 + xx * (S7 + xx * (S9 + xx * S11)))));
  const c = 1 + xx * (C2 + xx * (C4 + xx * (C6 + xx * (C8 + xx * (C10 + xx * C12)))));
  const turned = quarters & 3;
  const p = turned & 1 ? c : s;
  const q = turned & 1 ? -s : c;
  out[o] = turned & 2 ? -p : p;
  out[o + 1] = turned & 2 ? -q : q;
}

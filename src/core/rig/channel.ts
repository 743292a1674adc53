/** The value of a channel at a moment, by glTF's interpolations (appendix C of its specification). */
import type { Numbers } from "../math";
import type { Channel } from "./rig";

/**
 * Writes the value of a channel; before its first keyframe and after its last it has theirs.
 *
 * @param t seconds of the clip
 * @param out width numbers, from `at` on
 */
export function writeChannel(channel: Channel, t: number, out: Numbers, at: number): void {
  const { times, values, width, interpolation, moves } = channel;
  const cubic = interpolation === "CUBICSPLINE";
  const last = times.length - 1;
  const k = keyframeBefore(times, t);
  const value = (keyframe: number) => (cubic ? (3 * keyframe + 1) * width : keyframe * width);
  if (k < 0 || k >= last || interpolation === "STEP") {
    const from = value(Math.max(0, k));
    for (let c = 0; c < width; c++) out[at + c] = values[from + c];
    return;
  }
  const span = times[k + 1] - times[k];
  const share = span > 0 ? (t - times[k]) / span : 1;
  const [from, to] = [value(k), value(k + 1)];
  if (cubic) {
    const [s2, s3] = [share * share, share * share * share];
    const [p, m, q, n] = [2 * s3 - 3 * s2 + 1, span * (s3 - 2 * s2 + share), 3 * s2 - 2 * s3, span * (s3 - s2)];
    for (let c = 0; c < width; c++)
      out[at + c] =
        p * values[from + c] + m * values[from + width + c] + q * values[to + c] + n * values[to - width + c];
    if (moves === "rotation") normalize(out, at);
  } else if (moves === "rotation") slerp(values, from, to, share, out, at);
  else for (let c = 0; c < width; c++) out[at + c] = values[from + c] + share * (values[to + c] - values[from + c]);
}

/** The last keyframe that is not after `t`; -1 where all are. */
function keyframeBefore(times: Float64Array, t: number): number {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle] <= t) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** Quaternions closer together than this, by cosine, are mixed straight. */
const CLOSE = 1 - 1e-10;

/** K. Shoemake, *Animating Rotation with Quaternion Curves*, SIGGRAPH 1985, the shorter way round. */
function slerp(values: Float64Array, from: number, to: number, share: number, out: Numbers, at: number): void {
  let cosine = 0;
  for (let c = 0; c < 4; c++) cosine += values[from + c] * values[to + c];
  const side = cosine < 0 ? -1 : 1;
  cosine *= side;
  let [a, b] = [1 - share, share];
  if (cosine < CLOSE) {
    const angle = Math.acos(cosine);
    [a, b] = [Math.sin(a * angle) / Math.sin(angle), Math.sin(b * angle) / Math.sin(angle)];
  }
  for (let c = 0; c < 4; c++) out[at + c] = a * values[from + c] + side * b * values[to + c];
  normalize(out, at);
}

function normalize(q: Numbers, at: number): void {
  const length = Math.sqrt(q[at] ** 2 + q[at + 1] ** 2 + q[at + 2] ** 2 + q[at + 3] ** 2);
  if (!(length > 0)) {
    for (let c = 0; c < 4; c++) q[at + c] = c === 3 ? 1 : 0;
    return;
  }
  for (let c = 0; c < 4; c++) q[at + c] /= length;
}

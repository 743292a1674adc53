/** The value of a course at a moment. */
import type { Course, CourseValue, Keyframe } from "./schema";

/** How values go over into each other: by their numbers, as colours, as turns (unit quaternions), or not at all. */
export type Mixing = "numbers" | "colour" | "turn" | "hold";

/** The value at `t`, seconds. */
export function valueAt({ keyframes, before, after }: Course, t: number, mixing: Mixing): CourseValue {
  const [first, last] = [keyframes[0], keyframes[keyframes.length - 1]];
  const length = last.at - first.at;
  const beyond = t < first.at ? before : t > last.at ? after : null;
  if (beyond === "hold" || (beyond !== null && length === 0)) return (t < first.at ? first : last).value;
  if (beyond === "goOn") return goingOn(keyframes, t, mixing);
  return within(keyframes, beyond === null ? t : folded(t - first.at, length, beyond) + first.at, mixing, {
    before,
    after,
  });
}

/** A moment beyond the keyframes as one between them, both counted from the first one. */
function folded(t: number, length: number, how: "repeat" | "toAndFro"): number {
  if (how === "repeat") return t - length * Math.floor(t / length);
  const there = t - 2 * length * Math.floor(t / (2 * length));
  return there <= length ? there : 2 * length - there;
}

export type Ends = Pick<Course, "before" | "after">;

function within(keyframes: readonly Keyframe[], t: number, mixing: Mixing, ends: Ends): CourseValue {
  const i = lastUpTo(keyframes, t);
  const [from, to] = [keyframes[i], keyframes[i + 1]];
  if (!to || mixing === "hold" || from.go === "hold") return from.value;
  const share = (t - from.at) / (to.at - from.at);
  if (mixing === "turn") {
    const eased = from.go === "straight" ? share : bezier(0, from.leave?.[1] ?? 0, to.arrive?.[1] ?? 1, 1, parameter(from, to, share)); // prettier-ignore
    return slerp(from.value as Numbers, to.value as Numbers, eased);
  }
  const mixed = numbersOf(from.value).map((_, k) => {
    const stretch = stretchOf(keyframes, i, k, ends);
    return stretch.value(stretch.parameter(share));
  });
  return likeValue(mixed, from.value);
}

/** *The way of one number from a keyframe to the next*, by a parameter of its own from 0 to 1. */
interface Stretch {
  /** Where so large a share of its time has passed. */
  parameter(share: number): number;
  value(s: number): number;
  /** How fast the share of time passes. */
  speed(s: number): number;
}

/** Of the k-th number, from the i-th keyframe on, which does not hold. */
export function stretchOf(keyframes: readonly Keyframe[], i: number, k: number, ends: Ends): Stretch {
  const [from, to] = [keyframes[i], keyframes[i + 1]];
  const [a, b] = [numbersOf(from.value)[k], numbersOf(to.value)[k]];
  if (from.go === "straight" || a === b)
    return { parameter: (share) => share, value: (s) => a + s * (b - a), speed: () => 1 };
  const duration = to.at - from.at;
  const [leave, arrive] = [from.leave?.[0] ?? THIRD, to.arrive?.[0] ?? 1 - THIRD];
  const p = from.leave ? a + from.leave[1] * (b - a) : a + leave * duration * slope(keyframes, i, k, ends);
  const q = to.arrive ? a + to.arrive[1] * (b - a) : b - (1 - arrive) * duration * slope(keyframes, i + 1, k, ends);
  return {
    parameter: (share) => parameter(from, to, share),
    value: (s) => bezier(a, p, q, b, s),
    speed: (s) => 3 * ((1 - s) ** 2 * leave + 2 * (1 - s) * s * (arrive - leave) + s * s * (1 - arrive)),
  };
}

/** Beyond its ends, straight on at the speed that it has there. */
function goingOn(keyframes: readonly Keyframe[], t: number, mixing: Mixing): CourseValue {
  const n = keyframes.length;
  const [i, j] = t < keyframes[0].at ? [0, 1] : [n - 1, n - 2];
  const [end, next] = [keyframes[i], keyframes[j]];
  if (mixing !== "numbers" || keyframes[Math.min(i, j)].go === "hold") return end.value;
  const [a, b] = [numbersOf(end.value), numbersOf(next.value)];
  const speed = (k: number) => (b[k] - a[k]) / (next.at - end.at);
  return likeValue(
    a.map((x, k) => x + speed(k) * (t - end.at)),
    end.value,
  );
}

/** The keyframe that is the last one at or before a moment. */
function lastUpTo(keyframes: readonly Keyframe[], t: number): number {
  let [low, high] = [0, keyframes.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (keyframes[middle].at <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

const THIRD = 1 / 3;

/**
 * How fast the k-th number passes a keyframe, such that no stretch goes beyond its two values: the weighted harmonic mean of
 * the stretches' own speeds (F. N. Fritsch, J. Butland, *A Method for Constructing Local Monotone Piecewise Cubic
 * Interpolants*, SIAM J. Sci. Stat. Comput. 5(2), 1984). It rests at the ends, but where it comes again or goes on.
 */
function slope(keyframes: readonly Keyframe[], i: number, k: number, { before, after }: Ends): number {
  const last = keyframes.length - 1;
  const speed = (j: number) => {
    const [a, b] = [keyframes[j], keyframes[j + 1]];
    return { over: b.at - a.at, d: (numbersOf(b.value)[k] - numbersOf(a.value)[k]) / (b.at - a.at) };
  };
  const end = i === 0 ? before : i === last ? after : null;
  if (end === "goOn") return speed(i === 0 ? 0 : last - 1).d;
  const again = end === "repeat" && numbersOf(keyframes[0].value)[k] === numbersOf(keyframes[last].value)[k];
  if (end !== null && !again) return 0;
  const [one, other] = end === null ? [speed(i - 1), speed(i)] : [speed(last - 1), speed(0)];
  if (!(one.d * other.d > 0)) return 0;
  const [v, w] = [one.over + 2 * other.over, 2 * one.over + other.over];
  return (v + w) / (v / one.d + w / other.d);
}

/** Where on the curve of a stretch so large a share of its time has passed. */
function parameter(from: Keyframe, to: Keyframe, share: number): number {
  if (!from.leave && !to.arrive) return share;
  const [p, q] = [from.leave?.[0] ?? THIRD, to.arrive?.[0] ?? 1 - THIRD];
  let [low, high] = [0, 1];
  // Time never turns back, so halving finds it; so often it is exact.
  for (let k = 0; k < 52; k++) {
    const middle = 0.5 * (low + high);
    if (bezier(0, p, q, 1, middle) < share) low = middle;
    else high = middle;
  }
  return 0.5 * (low + high);
}

/** A cubic Bézier curve at `s`, in one dimension. */
function bezier(a: number, p: number, q: number, b: number, s: number): number {
  const r = 1 - s;
  return r * r * r * a + 3 * r * r * s * p + 3 * r * s * s * q + s * s * s * b;
}

type Numbers = readonly number[];

/** The shorter way round from one turn to another (K. Shoemake, *Animating Rotation with Quaternion Curves*, SIGGRAPH 1985). */
function slerp(a: Numbers, b: Numbers, share: number): Numbers {
  const dot = a.reduce((sum, x, k) => sum + x * b[k], 0);
  const angle = Math.acos(Math.min(1, Math.abs(dot)));
  const sine = Math.sin(angle);
  const [v, w] =
    sine > 1e-9 ? [Math.sin((1 - share) * angle) / sine, Math.sin(share * angle) / sine] : [1 - share, share];
  const mixed = a.map((x, k) => v * x + (dot < 0 ? -w : w) * b[k]);
  const length = Math.hypot(...mixed);
  return length > 0 ? mixed.map((x) => x / length) : a;
}

/** The numbers that a value consists of: of a colour red, green and blue. */
function numbersOf(value: CourseValue): Numbers {
  if (typeof value === "number") return [value];
  if (typeof value === "string") return [1, 3, 5].map((i) => parseInt(value.slice(i, i + 2), 16));
  return value as Numbers;
}

function likeValue(numbers: Numbers, value: CourseValue): CourseValue {
  if (typeof value === "number") return numbers[0];
  if (typeof value !== "string") return numbers;
  const digits = (x: number) => Math.round(Math.min(255, Math.max(0, x))).toString(16).padStart(2, "0"); // prettier-ignore
  return `#${numbers.map(digits).join("")}`;
}

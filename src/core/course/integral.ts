/** *What a course adds up to*: how far something has gone whose speed it is. */
import { stretchOf, type Ends } from "./value";
import type { Course } from "./schema";

/**
 * The integral of a course of numbers from 0 to `t`, seconds: exact, so that what goes at a speed that changes never jumps.
 *
 * @param of what of the value is added up: the value itself, or of one that only holds any function of it
 */
export function integralOf(course: Course, t: number, of = (value: number): number => value): number {
  return upTo(course, t, of) - upTo(course, 0, of);
}

/** From the first keyframe to `t`. */
function upTo(course: Course, t: number, of: (value: number) => number): number {
  const { keyframes, before, after } = course;
  const [first, last] = [keyframes[0], keyframes[keyframes.length - 1]];
  const length = last.at - first.at;
  if (t >= first.at && t <= last.at) return between(course, t, of);
  const [end, how] = t < first.at ? [first, before] : [last, after];
  const sofar = t < first.at ? 0 : between(course, last.at, of);
  const beyond = t - end.at;
  if (how === "hold" || length === 0) return sofar + of(end.value as number) * beyond;
  if (how === "goOn")
    return sofar + (of(end.value as number) + 0.5 * beyond * speedAtEnd(course, t < first.at)) * beyond;
  const whole = between(course, last.at, of);
  const rounds = Math.floor((t - first.at) / length);
  const rest = t - first.at - rounds * length;
  const back = how === "toAndFro" && rounds % 2 !== 0;
  return rounds * whole + (back ? whole - between(course, last.at - rest, of) : between(course, first.at + rest, of));
}

/** How fast a value goes on beyond its first or its last keyframe. */
function speedAtEnd({ keyframes }: Course, isFirst: boolean): number {
  const [a, b] = isFirst ? keyframes : keyframes.slice(-2);
  return a.go === "hold" ? 0 : ((b.value as number) - (a.value as number)) / (b.at - a.at);
}

/** Three points and their weights by which polynomials of degree 5 are added up exactly (Gauss, Legendre). */
const GAUSS = [-Math.sqrt(0.6), 0, Math.sqrt(0.6)];
const WEIGHTS = [5 / 18, 8 / 18, 5 / 18];

/** From the first keyframe to a moment between it and the last. */
function between({ keyframes, before, after }: Course, t: number, of: (value: number) => number): number {
  const ends: Ends = { before, after };
  let sum = 0;
  for (let i = 0; i + 1 < keyframes.length && keyframes[i].at < t; i++) {
    const [from, to] = [keyframes[i], keyframes[i + 1]];
    const share = Math.min(1, (t - from.at) / (to.at - from.at));
    if (from.go === "hold") {
      sum += of(from.value as number) * share * (to.at - from.at);
      continue;
    }
    // Time and value are cubics of the stretch's own parameter, so their product's derivative is of degree 5.
    const stretch = stretchOf(keyframes, i, 0, ends);
    const end = stretch.parameter(share);
    for (let k = 0; k < 3; k++) {
      const s = 0.5 * end * (1 + GAUSS[k]);
      sum += WEIGHTS[k] * end * stretch.value(s) * stretch.speed(s) * (to.at - from.at);
    }
  }
  return sum;
}

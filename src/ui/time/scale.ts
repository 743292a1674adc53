/** The time bar's measures: moments to pixels and back, and a course as a line over them. */
import type { Course } from "@/core/course";
import { niceStep } from "../kit";

/** Room at both ends of the ruler, pixels. */
const MARGIN = 24;

export interface TimeScale {
  length: number;
  width: number;
}

export const xOf = (moment: number, { length, width }: TimeScale): number =>
  MARGIN + (moment / length) * Math.max(1, width - 2 * MARGIN);

export const momentAtX = (x: number, { length, width }: TimeScale): number =>
  ((x - MARGIN) / Math.max(1, width - 2 * MARGIN)) * length;

/** The moments that the ruler names, and between them those that it marks. */
export function ticksOf({ length, width }: TimeScale): { named: number[]; marked: number[]; step: number } {
  const step = niceStep((70 * length) / Math.max(1, width - 2 * MARGIN));
  const each = (by: number) => Array.from({ length: Math.floor(length / by + 1e-6) + 1 }, (_, i) => i * by);
  return { named: each(step), marked: each(step / 2), step };
}

/** The numbers whose courses can be drawn as lines: those of a value, or none of a switch, a choice, a colour. */
const numbersOf = (value: unknown): readonly number[] =>
  typeof value === "number" ? [value] : Array.isArray(value) ? (value as number[]) : [];

const SAMPLES = 240;

/** *A course as it is drawn*: for each of its numbers points over the time of the scene, and where its keyframes lie. */
export interface Drawn {
  /** SVG path data, one a number. */
  paths: string[];
  /** How high up a keyframe's value lies, 0 at the least and 1 at the most of all. */
  heightOf: (value: unknown) => number;
}

/**
 * @param valueAt the value at a moment
 * @param y where a height lies, pixels
 */
export function drawnCourse(
  { keyframes }: Course,
  scale: TimeScale,
  valueAt: (moment: number) => unknown,
  y: (height: number) => number,
): Drawn {
  const { length } = scale;
  const even = Array.from({ length: SAMPLES + 1 }, (_, i) => (i * length) / SAMPLES);
  // What stays until its next keyframe jumps there.
  const own = keyframes.flatMap(({ at }) => [at - 1e-6, at]).filter((at) => at >= 0 && at <= length);
  const samples = [...even, ...own]
    .sort((a, b) => a - b)
    .map((moment) => ({ x: xOf(moment, scale), numbers: numbersOf(valueAt(moment)) }));
  let [least, most] = [Infinity, -Infinity];
  for (const { numbers } of samples) for (const n of numbers) [least, most] = [Math.min(least, n), Math.max(most, n)];
  const height = (n: number) => (most > least ? (n - least) / (most - least) : 0.5);
  const paths = (samples[0]?.numbers ?? []).map((_, k) =>
    samples
      .map(({ x, numbers }, i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y(height(numbers[k] ?? least)).toFixed(1)}`)
      .join(""),
  );
  return { paths, heightOf: (value) => (numbersOf(value).length > 0 ? height(numbersOf(value)[0]) : 0.5) };
}

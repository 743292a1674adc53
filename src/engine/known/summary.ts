/** What placements and findings come to in a few numbers: enough to notice when any of theirs is another. */
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { gunzipSync, gzipSync } from "node:zlib";
import type { DressingResult } from "../engine";
import type { Placements, Sight } from "@/core/place";

/** A number, and how large what it sums up is: it may be off by that times {@link SHARE}. */
type Sum = readonly [sum: number, size: number];
/** Sums by the names of what they sum up. */
export type Summary = Record<string, number>;

const SHARE = 1e-6;
/** Each number counts by its place, so that what is exchanged shows; what is no number shows by how many there are. */
const weight = (i: number) => 0.5 + ((i * 0.618034) % 1);
const NO_NUMBER = 3.7;

function sumOf(array: ArrayLike<number>): Sum {
  let [sum, size] = [0, 1];
  for (let i = 0; i < array.length; i++) {
    const term = weight(i) * (Number.isFinite(array[i]) ? array[i] : NO_NUMBER);
    sum += term;
    size += Math.abs(term);
  }
  return [sum, size];
}

/** Turns, whichever of its two signs a quaternion has: sums of x² + 2xy + 3xz + 5xw + …, where exchanging any two shows. */
function turnsOf({ count, rotation: q }: Placements): Sum {
  const turns = new Float64Array(count);
  const factors = [1, 2, 3, 5, 7, 11, 13, 17, 19, 23];
  for (let i = 0; i < count; i++) {
    let n = 0;
    for (let a = 0; a < 4; a++) for (let b = a; b < 4; b++) turns[i] += factors[n++] * q[4 * i + a] * q[4 * i + b];
  }
  return sumOf(turns);
}

const placesOf = ({ count, position, origin }: Placements): Sum =>
  sumOf(Float64Array.from({ length: 3 * count }, (_, k) => origin[k % 3] + position[k]));

const numbers = (value: unknown): value is Float64Array =>
  ArrayBuffer.isView(value) && !(value instanceof BigUint64Array);

/** All arrays of numbers in a value, by the way to them. */
function* arraysIn(value: unknown, path: string): Generator<[string, ArrayLike<number>]> {
  if (numbers(value)) yield [path, value];
  else if (typeof value === "object" && value !== null && !ArrayBuffer.isView(value)) {
    for (const [name, part] of Object.entries(value)) yield* arraysIn(part, path ? `${path}.${name}` : name);
  }
}

type Summed = DressingResult & { sight?: Sight | null };

function sumsOf({ placements, findings, sight = null }: Summed): Record<string, Sum> {
  const sums: Record<string, Sum> = {
    count: [placements.count, 0],
    blanks: [placements.blanks, 0],
    missing: [placements.missing, 0],
    orphans: [placements.orphans.length, 0],
    position: placesOf(placements),
    rotation: turnsOf(placements),
    key: sumOf(Array.from(placements.key, (key) => Number(key % 65_521n))),
  };
  for (const [path, array] of arraysIn({ ...placements, ...sight }, "")) sums[path] ??= sumOf(array);
  for (const { check, line = "", count, worst = 0 } of findings) sums[`${check} ${line}`] = sumOf([count, worst]);
  return sums;
}

export const summaryOf = (result: Summed): Summary =>
  Object.fromEntries(Object.entries(sumsOf(result)).map(([name, [sum]]) => [name, Number(sum.toPrecision(9))]));

/** What is no longer as it was, by name: before and now. */
export function changed(result: Summed, before: Summary): string[] {
  const now = sumsOf(result);
  return [...new Set([...Object.keys(now), ...Object.keys(before)])].flatMap((name) => {
    const [sum, size] = now[name] ?? [NaN, 0];
    return Math.abs(sum - before[name]) <= SHARE * size ? [] : [`${name}: ${before[name]} → ${sum}`];
  });
}

/** What a test is asked for besides comparing: to write what is known anew, or to add to it. */
export const TASK = process.env.KNOWN;

/** Lines of JSON, packed; none where there is no such file. */
export const readKnown = <T>(file: string): T[] =>
  existsSync(file)
    ? gunzipSync(readFileSync(file))
        .toString()
        .split("\n")
        .filter(Boolean)
        .map((line) => JSON.parse(line) as T)
    : [];

export const writeKnown = (file: string, all: readonly unknown[]): void =>
  writeFileSync(file, gzipSync(all.map((one) => `${JSON.stringify(one)}\n`).join(""), { level: 9 }));

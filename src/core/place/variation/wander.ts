/**
 * Wander: a slow wave along each line or over a surface, between -1 and 1. Values drawn at even places are joined by curves that are level at
 * each of them (value noise with a quintic ease, after K. Perlin, *Improving Noise*, SIGGRAPH 2002), so it never overshoots.
 */
import { cellKey, drawFrom } from "../../math";
import type { Curve } from "../../line";

/** On a closed line whole waves go round, at least so many. */
const LEAST_ROUND = 3;

/** How many places of `over` metres there are on a closed line; 0 on an open one, where they simply go on. */
export const wavesRound = ({ closed, length }: Pick<Curve, "closed" | "length">, over: number): number =>
  closed ? Math.max(LEAST_ROUND, Math.round(length / over)) : 0;

/**
 * The wave at `x` places from the line's start.
 *
 * @param round as {@link wavesRound} gives it
 */
export function wander(stream: number, line: number, x: number, round: number): number {
  const cell = Math.floor(x);
  const t = x - cell;
  const index = (i: number): number => (round === 0 ? i : ((i % round) + round) % round);
  const a = 2 * drawFrom(stream, line, index(cell)) - 1;
  const b = 2 * drawFrom(stream, line, index(cell + 1)) - 1;
  return a + (b - a) * ease(t);
}

const ease = (t: number): number => t * t * t * (t * (6 * t - 15) + 10);

/** The wave at a point of space, counted in places. */
export function wanderAt(stream: number, x: number, y: number, z: number): number {
  const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [u, v, w] = [ease(x - i), ease(y - j), ease(z - k)];
  let sum = 0;
  for (let corner = 0; corner < 8; corner++) {
    const [a, b, c] = [corner & 1, (corner >> 1) & 1, corner >> 2];
    const share = (a ? u : 1 - u) * (b ? v : 1 - v) * (c ? w : 1 - w);
    sum += share * (2 * drawFrom(stream, cellKey(i + a, j + b, k + c), 0) - 1);
  }
  return sum;
}

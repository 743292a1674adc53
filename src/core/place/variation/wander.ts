/**
 * Wander: a slow wave along each line, between -1 and 1. Values drawn at even places are joined by curves that are level at
 * each of them (value noise with a quintic ease, after K. Perlin, *Improving Noise*, SIGGRAPH 2002), so it never overshoots.
 */
import { drawFrom } from "../../math";
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
  return a + (b - a) * t * t * t * (t * (6 * t - 15) + 10);
}

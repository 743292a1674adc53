/** What a scene may come to by its numbers alone, before anything is made of it. */
import { trianglesOf, type Made } from "../made";
import type { Line } from "../line";

/** What of a scene has a budget. */
interface Asked {
  surfaces: readonly { made: Made | null }[];
  lines: readonly Line[];
}

/** Triangles of all made surfaces. */
export const MOST_MADE = 8_000_000;
/** Points that all lines are reckoned from. */
export const MOST_POINTS = 4_000_000;
/** A coil is reckoned from so many points a turn, another shape from so many in all. */
const PER_TURN = 16;

/** What of a scene is more than a machine can make, in a sentence; null where nothing is. */
export function overBudget({ surfaces, lines }: Asked): string | null {
  let triangles = 0;
  for (const { made } of surfaces) triangles += made ? trianglesOf(made) : 0;
  if (triangles > MOST_MADE)
    return `made surfaces would come to ${inWords(triangles)} triangles, and may come to ${inWords(MOST_MADE)}`;
  let points = 0;
  for (const line of lines)
    points += line.kind === "coil" ? Math.ceil(PER_TURN * line.turns) : Math.max(PER_TURN, line.knots.length);
  if (points > MOST_POINTS)
    return `lines would come to ${inWords(points)} points, and may come to ${inWords(MOST_POINTS)}`;
  return null;
}

const inWords = (count: number): string => count.toLocaleString("en");

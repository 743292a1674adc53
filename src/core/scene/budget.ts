/** What a scene may come to by its numbers alone, before anything is made of it. */
import { smoothedTriangles, trianglesOf, type Made } from "../made";
import type { Line } from "../line";

/** What of a scene has a budget. */
interface Asked {
  surfaces: readonly { id: string; made: Made | null; triangles: number }[];
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
  const triangles = madeTriangles(surfaces);
  if (triangles > MOST_MADE)
    return `made surfaces would come to ${inWords(triangles)} triangles, and may come to ${inWords(MOST_MADE)}`;
  let points = 0;
  for (const line of lines)
    points += line.kind === "coil" ? Math.ceil(PER_TURN * line.turns) : Math.max(PER_TURN, line.knots.length);
  if (points > MOST_POINTS)
    return `lines would come to ${inWords(points)} points, and may come to ${inWords(MOST_POINTS)}`;
  return null;
}

/** What all made surfaces come to; a smoothed copy by what it is of, and nothing where it is one of itself in the end. */
function madeTriangles(surfaces: Asked["surfaces"]): number {
  const all = new Map(surfaces.map((surface) => [surface.id, surface]));
  const known = new Map<string, number>();
  const of = (id: string): number => {
    // Copies of copies, from the last one up, without a call for each.
    const chain: { id: string; rounds: number }[] = [];
    let at = all.get(id);
    for (; at?.made?.kind === "smoothed" && !known.has(at.id); at = all.get(at.made.of ?? "")) {
      known.set(at.id, 0);
      chain.push({ id: at.id, rounds: at.made.rounds });
    }
    let count = at ? (known.get(at.id) ?? (at.made ? trianglesOf(at.made) : at.triangles)) : 0;
    for (const copy of chain.reverse()) known.set(copy.id, (count = smoothedTriangles(count, copy.rounds)));
    return count;
  };
  return surfaces.reduce((sum, { id, made }) => sum + (made ? of(id) : 0), 0);
}

const inWords = (count: number): string => count.toLocaleString("en");

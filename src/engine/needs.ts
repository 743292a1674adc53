/**
 * What dressings need of each other, and so in which order they are placed. Where they hang on each other in a circle, only
 * those count that stand earlier on the rail, for whatever they are needed.
 */
import { kindOf, type Dressing } from "@/core/place";

/** The dressings that one names, by what for. */
export interface Wishes {
  /** Whose props its own are dropped onto. */
  under: readonly string[];
  /** Whose props its own give way to. */
  clear: readonly string[];
  /** Whose props it keeps a distance to. */
  distance: readonly string[];
}

export function wishesOf({ id, where, fit, gaps }: Dressing): Wishes {
  const others = (ids: readonly string[]) => [...new Set(ids)].filter((other) => other !== id);
  return {
    under: fit.drop === "off" ? [] : others(fit.ontoProps),
    clear: fit.clear === "off" ? [] : others(fit.clearOf),
    distance: kindOf(where).ordered ? [] : others(gaps.distances.map(({ to }) => to)),
  };
}

/** What a dressing's place among the others comes to. */
export interface Standing {
  /** Those that count for it. */
  counted: readonly string[];
  /** Those that it names and that do not count, because they hang on it in turn. */
  uncounted: readonly string[];
  /** All that hang on each other together with it, in the order of the rail; none where there is no circle. */
  circle: readonly string[];
}

export interface Order {
  /** All dressings, each after those that count for it. */
  sequence: readonly string[];
  standing: ReadonlyMap<string, Standing>;
}

/** @param rail the ids of all dressings in the artist's order */
export function orderOf(rail: readonly string[], wishes: (id: string) => Wishes): Order {
  const place = new Map(rail.map((id, i) => [id, i]));
  const all = rail.map(wishes);
  const needs = all.map(({ under, clear, distance }, i) => {
    // Of two that give way to each other it is the later one that does, and that is no circle.
    const before = clear.filter((id) => (place.get(id) ?? i) < i || !all[place.get(id) ?? i].clear.includes(rail[i]));
    return [...new Set([...under, ...before, ...distance])].flatMap((id) => place.get(id) ?? []);
  });
  const circleOf = circlesIn(needs);
  const standing = new Map(
    rail.map((id, i): [string, Standing] => {
      const counts = (j: number) => circleOf[i] !== circleOf[j] || j < i;
      const members = needs[i].every(counts) ? [] : rail.flatMap((_, j) => (circleOf[j] === circleOf[i] ? j : []));
      const names = (indices: readonly number[]) => indices.map((j) => rail[j]);
      return [
        id,
        {
          counted: names(needs[i].filter(counts)),
          uncounted: names(needs[i].filter((j) => !counts(j))),
          circle: names(members),
        },
      ];
    }),
  );
  return { sequence: sequenceOf(rail, standing), standing };
}

/**
 * For each node the circle that it is part of, by a number that its members share (R. Tarjan, *Depth-First Search and
 * Linear Graph Algorithms*, SIAM J. Comput. 1(2), 1972), without recursion, so that chains may be of any length.
 */
function circlesIn(needs: readonly (readonly number[])[]): Int32Array {
  const n = needs.length;
  const number = new Int32Array(n).fill(-1);
  const low = new Int32Array(n);
  const circle = new Int32Array(n).fill(-1);
  const next = new Int32Array(n);
  const open: number[] = [];
  let counter = 0;
  for (let start = 0; start < n; start++) {
    if (number[start] >= 0) continue;
    const path = [start];
    while (path.length > 0) {
      const i = path[path.length - 1];
      if (number[i] < 0) {
        number[i] = low[i] = counter++;
        open.push(i);
      }
      if (next[i] < needs[i].length) {
        const j = needs[i][next[i]++];
        if (number[j] < 0) path.push(j);
        else if (circle[j] < 0) low[i] = Math.min(low[i], number[j]);
        continue;
      }
      path.pop();
      if (path.length > 0) low[path[path.length - 1]] = Math.min(low[path[path.length - 1]], low[i]);
      if (low[i] !== number[i]) continue;
      for (let member = -1; member !== i;) circle[(member = open.pop()!)] = i;
    }
  }
  return circle;
}

/** In the order of the rail, but each after those that count for it. */
function sequenceOf(rail: readonly string[], standing: ReadonlyMap<string, Standing>): string[] {
  const sequence = new Set<string>();
  const begun = new Set<string>();
  for (const start of rail) {
    const path = [start];
    while (path.length > 0) {
      const id = path[path.length - 1];
      const missing = begun.has(id) ? [] : standing.get(id)!.counted.filter((other) => !sequence.has(other));
      begun.add(id);
      if (missing.length > 0) path.push(...missing);
      else sequence.add(path.pop()!);
    }
  }
  return [...sequence];
}

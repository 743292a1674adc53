/** *Which snap points of a dressing's placements belong together*: each and the next, its nearest, all in reach, a net. */
import { MOST_PAIRS, shortName, type Between, type Pair } from "../line";
import { vectorAt, type Vec3 } from "../math";
import { PointGrid } from "../mesh";
import { hexOf } from "./keys";
import { FLAG, NO_PROP } from "./slots";
import type { Placements } from "./placements";

/** Of more placements than this the first look for partners; the others are counted. */
const MOST_LOOKING = 50_000;

/** Snap points of placements: where they are, by what they are known, and which follows which. */
interface Snaps {
  /** At which a pair begins and at which it ends, metres: 3n each. */
  from: Float64Array;
  to: Float64Array;
  /** What the placements are known by: n. */
  key: readonly string[];
  /** The index of the one that comes next in its row, -1 for none: n. */
  next: Int32Array;
}

/** The snap points of placement `i` at which a pair begins and ends; null where it has none such. */
export type SnapsAt = (i: number) => readonly [from: Vec3, to: Vec3] | null;

/** Pairs of placements, by their snap points; and how many placements are more than can be looked at. */
export function pairsOfSnaps(
  rule: Pick<Between, "partner" | "within">,
  placements: Placements,
  snapsAt: SnapsAt,
): { pairs: Pair[]; left: number } {
  const found: { i: number; ends: readonly [Vec3, Vec3] }[] = [];
  let left = 0;
  const { count, prop, flags } = placements;
  for (let i = 0; i < count; i++) {
    if (prop[i] === NO_PROP || flags[i] & FLAG.blank) continue;
    const ends = snapsAt(i);
    if (!ends) continue;
    if (found.length < MOST_LOOKING) found.push({ i, ends });
    else left++;
  }
  const next = nextInRow(placements, found.map(({ i }) => i)); // prettier-ignore
  const snaps: Snaps = {
    from: Float64Array.from(found.flatMap(({ ends: [from] }) => from)),
    to: Float64Array.from(found.flatMap(({ ends: [, to] }) => to)),
    key: found.map(({ i }) => hexOf(placements.key[i])),
    next,
  };
  return { pairs: paired(rule, snaps), left };
}

/** For each of some placements which of them comes next in its row; the first comes after the last of a closed line. */
function nextInRow({ line, row, at, lines, lineClosed }: Placements, members: readonly number[]): Int32Array {
  const rows = new Map<number, number[]>();
  members.forEach((i, n) => {
    const name = line[i] * 2 ** 16 + row[i];
    const list = rows.get(name);
    if (list) list.push(n);
    else rows.set(name, [n]);
  });
  const next = new Int32Array(members.length).fill(-1);
  for (const list of rows.values()) {
    // What was added or moved by hand stands behind the others in the list, and among them on the line.
    if (lines.length > 0) list.sort((a, b) => at[members[a]] - at[members[b]] || a - b);
    list.forEach((n, k) => k + 1 < list.length && (next[n] = list[k + 1]));
    const closed = lines.length > 0 && lineClosed[line[members[list[0]]]];
    if (closed && list.length > 2) next[list[list.length - 1]] = list[0];
  }
  return next;
}

/** So many neighbours are looked at as partners in a net. */
const NEAR = 24;

function paired({ partner, within }: Pick<Between, "partner" | "within">, { from, to, key, next }: Snaps): Pair[] {
  const out = new Map<string, Pair>();
  const join = (i: number, j: number): void => {
    const name = shortName(`${key[i]} ${key[j]}`);
    if (out.size < MOST_PAIRS) out.set(name, { name, from: vectorAt(from, i), to: vectorAt(to, j) });
  };
  /** From the one of two whose key comes first, whichever was asked: so a pair is one, and does not turn round. */
  const joined = (i: number, j: number): void => (key[i] < key[j] ? join(i, j) : join(j, i));
  if (partner === "next") {
    next.forEach((j, i) => j >= 0 && join(i, j));
    return [...out.values()];
  }
  const most = { nearest: 1, net: NEAR, within: Infinity }[partner];
  neighbours(from, within, most, (i, others) => {
    if (partner === "within") others.forEach((j) => joined(i, j));
    else if (partner === "nearest") others.slice(0, 1).forEach((j) => joined(i, j));
    else {
      const few = others.slice(0, NEAR);
      for (const j of few) if (isClear(from, i, j, few)) joined(i, j);
    }
    return out.size < MOST_PAIRS;
  });
  return [...out.values()];
}

/**
 * Tells of each point the others within reach, the nearest first, until it is told to stop. Where so many are enough, it is only
 * looked as far as it takes to find them.
 */
function neighbours(
  P: Float64Array,
  reach: number,
  enough: number,
  tell: (i: number, others: readonly number[]) => boolean,
): void {
  const n = P.length / 3;
  const grid = new PointGrid(n);
  for (let i = 0; i < n; i++) grid.push(P[3 * i], P[3 * i + 1], P[3 * i + 2]);
  let radius = enough < Infinity ? Math.min(reach, extentOf(P) / n || reach) : reach;
  let waiting = Array.from({ length: n }, (_, i) => i);
  while (waiting.length > 0) {
    grid.resize(radius);
    const still: number[] = [];
    for (const i of waiting) {
      const found = grid.gather(P[3 * i], P[3 * i + 1], P[3 * i + 2], radius);
      const near: [far: number, j: number][] = [];
      for (let k = 0; k < found; k++) {
        const j = grid.near[k];
        const far = farApart(P, i, j);
        if (j !== i && far <= radius ** 2) near.push([far, j]);
      }
      if (near.length < enough && radius < reach) still.push(i);
      else if (
        !tell(
          i,
          near.sort((a, b) => a[0] - b[0] || a[1] - b[1]).map(([, j]) => j),
        )
      )
        return;
    }
    waiting = still;
    radius = Math.min(reach, 2 * radius);
  }
}

/** The longest side of the box round all points. */
function extentOf(P: Float64Array): number {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let p = 0; p < P.length; p++) {
    if (P[p] < low[p % 3]) low[p % 3] = P[p];
    if (P[p] > high[p % 3]) high[p % 3] = P[p];
  }
  return P.length > 0 ? Math.max(...high.map((x, k) => x - low[k])) : 0;
}

/** How far two points are from each other, squared. */
const farApart = (P: Float64Array, i: number, j: number): number =>
  (P[3 * i] - P[3 * j]) ** 2 + (P[3 * i + 1] - P[3 * j + 1]) ** 2 + (P[3 * i + 2] - P[3 * j + 2]) ** 2;

/** What rounding may take from the ball between two that lie on a lattice. */
const SLACK = 1e-5;

/**
 * Whether no third point lies in the ball whose diameter is the way between two, or on it: what joins such pairs is the Gabriel
 * graph (K. R. Gabriel, R. R. Sokal, *A New Statistical Approach to Geographic Variation Analysis*, Systematic Zoology 18(3), 1969).
 */
function isClear(P: Float64Array, i: number, j: number, others: readonly number[]): boolean {
  const whole = farApart(P, i, j) * (1 + SLACK);
  return others.every((k) => k === j || farApart(P, i, k) + farApart(P, j, k) > whole);
}

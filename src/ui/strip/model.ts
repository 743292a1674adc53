/** What the strip shows: a row for each line and for each of its parallel rows, its placements in order of arc length; and the spread of the gaps between them. */
import { FLAG, NO_PROP, type Placements } from "@/core/place";

export interface StripRow {
  line: string;
  /** Which of the line's parallel rows it is, and how many there are. */
  row: number;
  rows: number;
  length: number;
  closed: boolean;
  /** Indices of the row's slots, blank ones too, in order of arc length. */
  order: Int32Array;
}

export function rowsOf(p: Placements): StripRow[] {
  const rows = new Uint32Array(p.lines.length).fill(1);
  for (let i = 0; i < p.count; i++) rows[p.line[i]] = Math.max(rows[p.line[i]], p.row[i] + 1);
  const before = new Uint32Array(rows.length + 1);
  for (let k = 0; k < rows.length; k++) before[k + 1] = before[k] + rows[k];
  // Slots sorted by their rows, which are counted on the way.
  const ends = new Uint32Array(before[rows.length] + 1);
  for (let i = 0; i < p.count; i++) ends[before[p.line[i]] + p.row[i] + 1]++;
  for (let k = 1; k < ends.length; k++) ends[k] += ends[k - 1];
  const next = ends.slice();
  const order = new Int32Array(p.count);
  for (let i = 0; i < p.count; i++) order[next[before[p.line[i]] + p.row[i]]++] = i;
  return p.lines.flatMap((line, index) =>
    Array.from({ length: rows[index] }, (_, row) => ({
      line,
      row,
      rows: rows[index],
      length: p.lineLengths[index],
      closed: p.lineClosed[index],
      order: order.subarray(ends[before[index] + row], ends[before[index] + row + 1]).sort((a, b) => p.at[a] - p.at[b]),
    })),
  );
}

export interface GapSpread {
  least: number;
  median: number;
  most: number;
  /** How many gaps fall into each of equal parts about the median. */
  bins: { gap: number; count: number }[];
}

const BINS = 15;

/** The distances along the lines from each standing prop to the next. Null where there are fewer than two. */
export function spreadOf(p: Placements, rows: readonly StripRow[]): GapSpread | null {
  const found = new Float64Array(p.count);
  let n = 0;
  for (const { order } of rows) {
    let last = -1;
    for (const i of order) {
      if (p.flags[i] & FLAG.blank || p.prop[i] === NO_PROP) continue;
      // Behind and on each other they stand at one place.
      if (p.stacked && (p.stacked.deep[i] > 0 || p.stacked.high[i] > 0 || p.stacked.level[i] > 0)) continue;
      if (last >= 0) found[n++] = p.at[i] - p.at[last];
      last = i;
    }
  }
  if (n === 0) return null;
  const gaps = found.subarray(0, n).sort();
  const [least, most] = [gaps[0], gaps[gaps.length - 1]];
  const median = gaps[gaps.length >> 1];
  // Gaps that hardly differ stand together in the middle instead of being pulled apart to fill the chart.
  const half = Math.max(median - least, most - median, 0.1 * median, 1e-9);
  const step = (2 * half) / BINS;
  const bins = Array.from({ length: BINS }, (_, k) => ({ gap: median - half + (k + 0.5) * step, count: 0 }));
  for (const gap of gaps) bins[Math.min(BINS - 1, Math.max(0, Math.floor((gap - median + half) / step)))].count++;
  return { least, most, median, bins };
}

/** How the strip is looked at: pixels a metre, and the arc length at its left edge. */
export interface StripView {
  scale: number;
  from: number;
}

/** Free room left and right of the longest line when all of it is in sight, pixels. */
export const MARGIN = 28;

/** @param most so many pixels a metre and no more, where what is shown is also high */
export function fitted(longest: number, width: number, most = Infinity): StripView {
  const scale = Math.max(1e-6, Math.min(most, (width - 2 * MARGIN) / Math.max(longest, 1e-6)));
  return { scale, from: -MARGIN / scale };
}

/** How many pixels a metre racks may have to go into a height, all rows together. */
export const scaleOfRacks = (tall: readonly number[], height: number): number =>
  Math.max(1, height - RULER - tall.length * ROOM_ABOUT) /
  Math.max(
    1e-6,
    tall.reduce((sum, one) => sum + one, 0),
  );

/** What a rack's row needs beside it, pixels. */
const ROOM_ABOUT = 62;

export const RULER = 24;

export interface RowBox {
  top: number;
  height: number;
}

/** No row among several is lower or, as long as there is not room for all, higher than so many pixels. */
const [LOWEST, HIGHEST] = [44, 132];
/** What a row needs beside its props: the cord, its name and the bars below, pixels. */
const BESIDE = 27;

/**
 * Rows share the height by what their props need; where that is more than there is, one scrolls.
 *
 * @param tall how high the props of each row are, pixels
 * @param racks whether these are racks, which are shown as high as they are
 */
export function rowBoxes(tall: readonly number[], height: number, racks = false): RowBox[] {
  const room = height - RULER;
  const need = (one: number) => (racks ? one + ROOM_ABOUT : Math.min(HIGHEST, one + BESIDE));
  const needs = tall.map((one) => Math.max(LOWEST, need(one)));
  const all = needs.reduce((sum, need) => sum + need, 0);
  const more = tall.length > 0 ? Math.max(0, room - all) / tall.length : 0;
  let top = RULER;
  return needs.map((need) => {
    const box = { top, height: tall.length === 1 ? Math.max(room, racks ? need : 0) : need + more };
    top += box.height;
    return box;
  });
}

/** The height of the tallest prop that each row shows, metres; of a rack, of all of it. */
export function tallestOf(
  p: Placements,
  rows: readonly StripRow[],
  heights: readonly number[],
  fromAbove = false,
): number[] {
  return rows.map(({ order }) => {
    let most = 0;
    if (p.stacked) {
      const [low, high] = fromAbove ? [p.stacked.front, p.stacked.rear] : [p.stacked.bottom, p.stacked.top];
      let [least, top] = [Infinity, -Infinity];
      for (const i of order) [least, top] = [Math.min(least, low[i]), Math.max(top, high[i])];
      return Math.max(0, top - least);
    }
    for (const i of order) {
      const prop = p.prop[i];
      if (prop !== NO_PROP) most = Math.max(most, (heights[prop] ?? 0) * p.scale[3 * i + 1]);
    }
    return most;
  });
}

/** The slot whose drawn width holds arc length `at` in this row, nearest by its middle; -1 where there is none. */
export function slotAt(p: Placements, row: StripRow, at: number, slack: number): number {
  let best = -1;
  let least = Infinity;
  for (const i of row.order) {
    const [from, to] = [p.at[i] - p.reach[2 * i] - slack, p.at[i] + p.reach[2 * i + 1] + slack];
    const distance = Math.abs(at - (from + to) / 2);
    if (at >= from && at <= to && distance < least) {
      least = distance;
      best = i;
    }
  }
  return best;
}

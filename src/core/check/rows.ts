/** The placements of a dressing row by row, in the order in which they follow each other along their line. */
import { sizeOf, type PropBounds } from "../mesh";
import { FLAG, NO_PROP, type Dressing, type Placements } from "../place";

export const isStanding = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

/** The largest of the three scales of placement `i`. */
export const largestScale = ({ scale }: Placements, i: number): number =>
  Math.max(scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]);

/** What placement `i` of a prop measures at most, metres. */
export const largest = (p: Placements, i: number, bounds: PropBounds): number =>
  Math.max(...sizeOf(bounds)) * largestScale(p, i);

/** One row of one line: indices of its placements in order of arc length. What is spread has no rows. */
export interface Row {
  line: number;
  order: Uint32Array;
}

/** The rows of all lines, blank slots among them, with those of each line together. */
export function rowsOf(p: Placements): Row[] {
  if (p.lines.length === 0) return [];
  // Of a rack's columns it is the front that follows each other.
  const isInRow = (i: number) => !p.stacked || (p.stacked.deep[i] === 0 && p.stacked.high[i] === 0 && p.stacked.level[i] === 0); // prettier-ignore
  // A line's rows have numbers from 0 on.
  let most = 1;
  for (let i = 0; i < p.count; i++) if (p.row[i] >= most) most = p.row[i] + 1;
  const counts = new Uint32Array(most * p.lines.length);
  let inRows = 0;
  for (let i = 0; i < p.count; i++) {
    if (!isInRow(i)) continue;
    counts[most * p.line[i] + p.row[i]]++;
    inRows++;
  }
  const next = new Uint32Array(counts.length);
  for (let name = 1; name < counts.length; name++) next[name] = next[name - 1] + counts[name - 1];
  const all = new Uint32Array(inRows);
  for (let i = 0; i < p.count; i++) if (isInRow(i)) all[next[most * p.line[i] + p.row[i]]++] = i;
  const rows: Row[] = [];
  for (let name = 0; name < counts.length; name++) {
    if (counts[name] === 0) continue;
    const order = all.subarray(next[name] - counts[name], next[name]);
    if (!isRising(order, p.at)) order.sort((a, b) => p.at[a] - p.at[b]);
    rows.push({ line: Math.floor(name / most), order });
  }
  return rows;
}

/** The same rows with what stands alone. */
export const standingRows = (p: Placements, rows: readonly Row[]): Row[] =>
  rows.map(({ line, order }) => ({ line, order: standingOf(p, order) })).filter(({ order }) => order.length > 0);

function standingOf(p: Placements, order: Uint32Array): Uint32Array {
  const standing = new Uint32Array(order.length);
  let n = 0;
  for (let k = 0; k < order.length; k++) if (isStanding(p, order[k])) standing[n++] = order[k];
  return standing.subarray(0, n);
}

function isRising(order: Uint32Array, at: Float32Array): boolean {
  for (let k = 1; k < order.length; k++) if (at[order[k - 1]] > at[order[k]]) return false;
  return true;
}

/** The same, gathered by line: a list of rows for each of the placements' lines. */
export function byLine(p: Placements, rows: readonly Row[]): Row[][] {
  const lines: Row[][] = p.lines.map(() => []);
  for (const row of rows) lines[row.line].push(row);
  return lines;
}

/** Whether offsets or chance move a dressing's props along or across. */
export const isMovedAside = ({ fit, variation }: Dressing): boolean => {
  const { positionOn, along, across, wanderOn, wanderAcross } = variation;
  const drawn = positionOn && [...along, ...across].some((by) => by !== 0);
  return fit.along !== 0 || fit.across !== 0 || drawn || (wanderOn && wanderAcross > 0);
};

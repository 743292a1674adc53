/** The placements of a dressing row by row, in the order in which they follow each other along their line. */
import { FLAG, NO_PROP, type Dressing, type Placements } from "../place";

export const isStanding = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

/** One row of one line: indices of its placements in order of arc length. What is spread has no rows. */
export interface Row {
  line: number;
  order: Uint32Array;
}

/** Rows of one line are told apart by so many. */
const ROWS = 64;

/** The rows of all lines, with those of each line together. @param withBlanks whether blank slots count too */
export function rowsOf(p: Placements, withBlanks = false): Row[] {
  if (p.lines.length === 0) return [];
  const counts = new Uint32Array(ROWS * p.lines.length);
  const counted = (i: number) => withBlanks || isStanding(p, i);
  for (let i = 0; i < p.count; i++) if (counted(i)) counts[ROWS * p.line[i] + p.row[i]]++;
  const rows: Row[] = [];
  const rowOf = new Int32Array(counts.length).fill(-1);
  for (let name = 0; name < counts.length; name++) {
    if (counts[name] === 0) continue;
    rowOf[name] = rows.length;
    rows.push({ line: Math.floor(name / ROWS), order: new Uint32Array(counts[name]) });
  }
  const filled = new Uint32Array(rows.length);
  for (let i = 0; i < p.count; i++) {
    if (!counted(i)) continue;
    const row = rowOf[ROWS * p.line[i] + p.row[i]];
    rows[row].order[filled[row]++] = i;
  }
  for (const { order } of rows) if (!isRising(order, p.at)) order.sort((a, b) => p.at[a] - p.at[b]);
  return rows;
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

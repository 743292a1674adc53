/** The placements of a dressing row by row, in the order in which they follow each other along their line. */
import { FLAG, NO_PROP, type Dressing, type Placements } from "../place";

export const isStanding = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

/** One row of one line: indices of its placements in order of arc length, blank ones too where asked for. What is spread has no rows. */
export interface Row {
  line: number;
  order: number[];
}

export function rowsOf(p: Placements, withBlanks = false): Row[] {
  if (p.lines.length === 0) return [];
  const rows = new Map<number, Row>();
  for (let i = 0; i < p.count; i++) {
    if (!withBlanks && !isStanding(p, i)) continue;
    const name = 64 * p.line[i] + p.row[i];
    let row = rows.get(name);
    if (!row) rows.set(name, (row = { line: p.line[i], order: [] }));
    row.order.push(i);
  }
  for (const { order } of rows.values()) {
    const sorted = order.every((i, k) => k === 0 || p.at[order[k - 1]] <= p.at[i]);
    if (!sorted) order.sort((a, b) => p.at[a] - p.at[b]);
  }
  return [...rows.values()];
}

/** The same, gathered by line: a list of rows for each of the placements' lines. */
export function rowsByLine(p: Placements, withBlanks = false): Row[][] {
  const lines: Row[][] = p.lines.map(() => []);
  for (const row of rowsOf(p, withBlanks)) lines[row.line].push(row);
  return lines;
}

/** Whether offsets or chance move a dressing's props along or across. */
export const isMovedAside = ({ fit, variation }: Dressing): boolean => {
  const { positionOn, along, across, wanderOn, wanderAcross } = variation;
  const drawn = positionOn && [...along, ...across].some((by) => by !== 0);
  return fit.along !== 0 || fit.across !== 0 || drawn || (wanderOn && wanderAcross > 0);
};

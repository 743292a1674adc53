/** Parallel rows: each slot repeated beside the line. Rows are as far apart as they say wherever the line bends. */
import { choose } from "../spacing/spacing";
import { drawsOn, FIRST_CORNER, lineHost } from "../keys";
import { Slots } from "../slots";
import type { GuideLine } from "../../line";
import type { PropChoice } from "../what/what";
import type { Fit } from "./schema";

/** How far each row lies to the left of the line, metres. */
export function rowOffsets({ rows, rowDistance, rowSide }: Fit): Float64Array {
  const middle = rowSide === "both" ? (rows - 1) / 2 : 0;
  const sign = rowSide === "right" ? -1 : 1;
  return Float64Array.from({ length: rows }, (_, row) => sign * (row - middle) * rowDistance);
}

/**
 * The slots of all rows, those of one line together, row after row.
 *
 * @param chosen whether the slots already have the props that their places were made for; else each row chooses its own
 */
export function inRows(
  slots: Slots,
  { rows, stagger }: Pick<Fit, "rows" | "stagger">,
  lines: readonly GuideLine[],
  choice: PropChoice,
  chosen: boolean,
): Slots {
  if (rows === 1) return slots;
  const out = new Slots(rows * slots.count, slots.span !== null);
  out.missing = slots.missing * rows;
  let end = 0;
  for (let from = 0; from < slots.count;) {
    let to = from + 1;
    while (to < slots.count && slots.line[to] === slots.line[from]) to++;
    const line = lines[slots.line[from]];
    for (let row = 0; row < rows; row++) {
      const start = end;
      const written = repeatRow(slots, out, from, to, start, row, line, stagger && row % 2 === 1);
      end = written.end;
      if (row === 0 || chosen || written.ordinary === start) continue;
      const number = out.words[2 * start] | 0;
      choose(out, start, written.ordinary, number + slots.turns[slots.line[from]], line, choice);
      choice.resolveMixes(out.prop, out.draw, start, end);
    }
    from = to;
  }
  return end === out.count ? out : shortened(out, end);
}

/** Where the ordinary slots of a line end and those at its corners begin. */
function lastOrdinary(slots: Slots, from: number, to: number): number {
  const { words } = slots;
  let end = to;
  while (end > from && (words[2 * end - 2] | 0) >= FIRST_CORNER) end--;
  return end;
}

/** Writes one line's slots once more as row `row`, from `start` on; says where the ordinary ones and where all end. */
function repeatRow(
  slots: Slots,
  out: Slots,
  from: number,
  to: number,
  start: number,
  row: number,
  line: GuideLine,
  staggered: boolean,
): { ordinary: number; end: number } {
  const corners = lastOrdinary(slots, from, to);
  // Between the last slot of an open line and its end there is no half way.
  const last = staggered && !line.curve.closed && corners > from ? corners - 1 : corners;
  const ordinary = start + last - from;
  const end = ordinary + to - corners;
  out.take(slots, from, last, start);
  out.take(slots, corners, to, ordinary);
  if (row > 0) {
    out.row.fill(row, start, end);
    const { words, draw } = out;
    const host = lineHost(line.number, row);
    const drawOf = drawsOn(line, row);
    for (let o = start; o < end; o++) {
      words[2 * o + 1] = host;
      draw[o] = drawOf(words[2 * o] | 0);
    }
  }
  if (staggered) stagger(slots, out, from, start, ordinary, corners, line);
  return { ordinary, end };
}

/** Moves the slots of a row on by half the way to the next one. */
function stagger(
  slots: Slots,
  out: Slots,
  first: number,
  start: number,
  end: number,
  corners: number,
  { curve }: GuideLine,
): void {
  for (let o = start; o < end; o++) {
    const i = first + o - start;
    const next = i + 1 < corners ? slots.at[i + 1] : slots.at[first] + curve.length;
    const shift = (next - slots.at[i]) / 2;
    const at = slots.at[i] + shift;
    out.at[o] = curve.closed && at >= curve.length ? at - curve.length : at;
    if (out.span) {
      out.span[2 * o] += shift;
      out.span[2 * o + 1] += shift;
    }
  }
}

function shortened(slots: Slots, count: number): Slots {
  const out = new Slots(count, slots.span !== null);
  out.take(slots, 0, count, 0);
  out.missing = slots.missing;
  return out;
}

/**
 * Step 3, Spacing: the slots along each line. A slot's number counts from the line's start, also below zero after a slide,
 * and makes its key; its place may change while its number and so its prop, turns and pegs stay.
 */
import { keyOf, Slots } from "../slots";
import { byCount } from "./count";
import { byDistance } from "./distance";
import { byDivision } from "./divide";
import { atKnots } from "./knots";
import { byList } from "./list";
import { NO_ROW, SLACK, type Row, type Way } from "./row";
import type { Curve, GuideLine } from "../../line";
import type { PropChoice } from "../what/what";
import type { Spacing } from "./schema";

/** The table of ways. */
const WAYS: Readonly<Record<Spacing["by"], Way>> = {
  distance: byDistance,
  count: byCount,
  divide: byDivision,
  knots: atKnots,
  list: byList,
};

/** A dressing has at most so many slots; what the rules ask for beyond them is counted, and found by a check. */
const MAX_SLOTS = 4_000_000;

/** Where the slots of one line lie, by arc length. */
export function rowOn(line: Curve, params: Spacing): Row {
  const insets = params.fromStart + params.fromEnd;
  if (!(line.length > 0) || insets > line.length * (1 + SLACK)) return NO_ROW;
  const usable = {
    from: params.fromStart,
    length: Math.max(0, line.length - insets),
    round: line.closed && insets === 0,
  };
  return WAYS[params.by](line, usable, params);
}

/** The slots of all lines, with the prop that each takes. */
export function spacing(lines: readonly GuideLine[], choice: PropChoice, params: Spacing): Slots {
  let total = 0;
  const rows = lines.map(({ curve }) => {
    const row = rowOn(curve, params);
    const count = Math.min(row.count, MAX_SLOTS - total);
    total += count;
    return { ...row, count };
  });
  const slots = new Slots(total);
  let start = 0;
  rows.forEach((row, index) => {
    fillLine(slots, start, row, index, lines[index]);
    choice.fill(slots.prop, slots.key, start, start + row.count, row.from);
    slots.missing += Math.max(0, row.wanted - row.count);
    start += row.count;
  });
  return slots;
}

function fillLine(slots: Slots, start: number, row: Row, index: number, line: GuideLine): void {
  const { line: lineOf, key, at } = slots;
  const { first, step, from, count, places } = row;
  const { length, closed } = line.curve;
  const firstKey = keyOf(line.number, from);
  for (let i = 0; i < count; i++) {
    let s = places ? places[i] : first + (from + i) * step;
    if (closed) s -= Math.floor(s / length) * length;
    else if (s < 0) s = 0;
    else if (s > length) s = length;
    lineOf[start + i] = index;
    key[start + i] = firstKey + i;
    at[start + i] = s;
  }
}

/**
 * Step 3, Spacing: the slots along each line. A slot's number counts from the line's start, also below zero after a slide,
 * and makes its key; its place may change while its number and so its prop, turns and pegs stay.
 */
import { chained, type Corner, type GuideLine, type Track } from "../../line";
import { cornerSlot, drawsOn, lineHost, lineKey } from "../keys";
import { NO_PROP, Slots } from "../slots";
import { byCount } from "./count";
import { byDensity } from "./density";
import { byDistance } from "./distance";
import { byDivision } from "./divide";
import { oneEach } from "./each";
import { endToEnd } from "./end-to-end";
import { atKnots } from "./knots";
import { byList } from "./list";
import {
  joinedRow,
  NO_ROW,
  placeIn,
  SLACK,
  type Reaches,
  type Row,
  type Supply,
  type Usable,
  type SpacingRule,
} from "./row";
import { supplyFor } from "./supply";
import { travelled } from "./travel";
import type { PropChoice } from "../what/what";
import type { What } from "../what/schema";
import { isEndToEnd, type Spacing } from "./schema";

/** The table of ways. */
const WAYS: Readonly<Record<Spacing["by"], SpacingRule>> = {
  distance: byDistance,
  count: byCount,
  end: endToEnd,
  each: oneEach,
  divide: byDivision,
  knots: atKnots,
  list: byList,
  density: byDensity,
};

/** A dressing has at most so many slots; what the rules ask for beyond them is counted, and found by a check. */
export const MAX_SLOTS = 4_000_000;

/** A corner's slot spans so many metres of line, so that its frame halves the angle. */
const CORNER_SPAN = 1e-6;

/** What the other steps say that bears on where slots lie. */
export interface Needs {
  choice: PropChoice;
  reaches: Reaches;
  cornerAngle: What["cornerAngle"];
  clip: boolean;
  bent: boolean;
}

/** Where the slots of one line lie, by arc length. */
export function rowOn(
  line: Track,
  params: Spacing,
  supply: Supply = NOTHING,
  needs: Partial<Pick<Needs, "reaches" | "clip" | "bent">> = {},
  corners: readonly Corner[] = [],
  trim = 0,
): Row {
  const { clip = false, bent = false, reaches = new Float64Array(0) } = needs;
  const [behind, before] = params.inside && !isEndToEnd(params) ? longestOf(reaches) : [0, 0];
  const [fromStart, fromEnd] = [params.fromStart + behind, params.fromEnd + before];
  const insets = fromStart + fromEnd;
  if (!(line.length > 0) || insets > line.length * (1 + SLACK)) return NO_ROW;
  const whole: Usable = {
    from: fromStart,
    length: Math.max(0, line.length - insets),
    round: line.closed && params.fromStart + params.fromEnd === 0,
  };
  if (whole.round) [whole.from, whole.length] = [0, line.length];
  const way = WAYS[params.by];
  const parts = params.anew ? partsOf(whole, corners, trim) : [whole];
  const rows = parts.map((usable, i) => {
    // The first and the last slot of the line, not of each part.
    const first = i === 0 ? supply.first : null;
    const last = i === parts.length - 1 ? supply.last : null;
    const own = { ...supply, first, last };
    return travelled(way, { line, usable, supply: own, clip: clip && i === parts.length - 1, bent }, params);
  });
  return rows.length === 1 ? rows[0] : joinedRow(rows);
}

const NOTHING: Supply = {
  fill: (out) => void out.fill(0),
  byPlace: false,
  first: null,
  last: null,
  lengths: Float64Array.of(1),
  behind: Float64Array.of(0.5),
  blank: 1,
};

const longestOf = (reaches: Reaches): [behind: number, before: number] => {
  let [behind, before] = [0, 0];
  for (let i = 0; i < reaches.length; i += 2) {
    behind = Math.max(behind, reaches[i]);
    before = Math.max(before, reaches[i + 1]);
  }
  return [behind, before];
};

/** The stretches between corners, each shorter by `trim` at a corner. */
function partsOf(whole: Usable, corners: readonly Corner[], trim: number): Usable[] {
  const end = whole.from + whole.length;
  const cuts = corners.map(({ at }) => at).filter((at) => at > whole.from && at < end);
  const atStart = corners.some(({ at }) => at === whole.from);
  const atEnd = corners.some(({ at }) => at === end) || (whole.round && atStart);
  // Round a closed line the stretch through its start goes on from the last corner to the first.
  if (whole.round && !atStart) {
    if (cuts.length === 0) return [whole];
    const through: Usable = {
      from: cuts[cuts.length - 1] + trim,
      length: whole.length - cuts[cuts.length - 1] + cuts[0] - 2 * trim,
      round: false,
    };
    return [...between(cuts, () => trim), through].filter(({ length }) => length > 0);
  }
  const bounds = [whole.from, ...cuts, end];
  return between(bounds, (i) => ((i === 0 && !atStart) || (i === bounds.length - 1 && !atEnd) ? 0 : trim));
}

const between = (bounds: readonly number[], trim: (i: number) => number): Usable[] =>
  bounds
    .slice(1)
    .map((end, i) => ({
      from: bounds[i] + trim(i),
      length: end - bounds[i] - trim(i) - trim(i + 1),
      round: false,
    }))
    .filter(({ length }) => length > 0);

/** What is to be written for one line: its row, and the corners that have a slot of their own. */
interface LineRow {
  row: Row;
  corners: readonly Corner[];
  /** The number that slot 0 has in the sequence. */
  turn: number;
}

/** The slots of all lines, with the prop that each takes. */
export function spacing(lines: readonly GuideLine[], params: Spacing, needs: Needs): Slots {
  const rows = params.together && lines.length > 1 && !isEndToEnd(params) ? asOne(lines, params, needs) : [];
  let turn = 0;
  if (rows.length === 0) {
    for (const line of lines) {
      const one = oneByOne(line, params, needs, turn);
      rows.push(one);
      if (params.together) turn += one.row.count;
    }
  }
  return written(lines, rows, needs.choice);
}

/** How much of the line a corner's own prop takes to either side. */
const trimOf = ({ choice, reaches }: Needs): number => {
  const { corner } = choice;
  return corner === null || corner >= choice.props.length ? 0 : Math.max(reaches[2 * corner], reaches[2 * corner + 1]);
};

const cornersFor = (line: GuideLine, params: Spacing, { choice, cornerAngle }: Needs): readonly Corner[] =>
  params.anew || choice.corner !== null ? line.corners(cornerAngle) : [];

function oneByOne(line: GuideLine, params: Spacing, needs: Needs, turn: number): LineRow {
  const { choice, reaches } = needs;
  const corners = cornersFor(line, params, needs);
  const supply = isEndToEnd(params) ? supplyFor(line, choice, reaches, turn) : NOTHING;
  const trim = trimOf(needs);
  return { row: rowOn(line.curve, params, supply, needs, corners, trim), corners, turn };
}

/** A row in the order of its places, without those that are beyond its line. */
function ascending(row: Row): Row {
  const { places, count } = row;
  if (!places || places.every((at, i) => i === 0 || at >= places[i - 1])) return row;
  const sorted = places
    .subarray(0, count)
    .filter((at) => at === at)
    .sort();
  return { ...row, places: sorted, count: sorted.length };
}

/** One row along all lines, cut at their ends. */
function asOne(lines: readonly GuideLine[], params: Spacing, needs: Needs): LineRow[] {
  const row = ascending(rowOn(chained(lines.map((line) => line.curve)), params, NOTHING, needs));
  const rows: LineRow[] = [];
  let start = 0;
  let done = 0;
  lines.forEach((line, index) => {
    const end = start + line.curve.length;
    let upTo = done;
    const last = index === lines.length - 1;
    while (upTo < row.count && (last || placeIn(row, upTo) <= end * (1 + 1e-12))) upTo++;
    const count = upTo - done;
    const first = done;
    const offset = start;
    const places = Float64Array.from({ length: count }, (_, i) => placeIn(row, first + i) - offset);
    const wanted = last ? count + row.wanted - row.count : count;
    const own: Row = { ...NO_ROW, count, places, stretch: row.stretch, wanted, halted: row.halted };
    rows.push({ row: own, corners: cornersFor(line, params, needs), turn: row.from + first });
    done = upTo;
    start = end;
  });
  return rows;
}

function written(lines: readonly GuideLine[], rows: readonly LineRow[], choice: PropChoice): Slots {
  let total = 0;
  const bounded = rows.map(({ row, corners, turn }) => {
    const count = Math.min(row.count, MAX_SLOTS - total);
    const own = choice.corner === null ? [] : corners;
    total += count + own.length;
    return { row: { ...row, count }, corners: own, turn };
  });
  const spans = bounded.some(({ row, corners }) => row.spans !== null || corners.length > 0);
  const slots = new Slots(total, spans);
  slots.turns = Float64Array.from(bounded, ({ turn }) => turn);
  if (bounded.some(({ row }) => row.stretch !== 1)) slots.stretch = new Float32Array(total).fill(1);
  let start = 0;
  bounded.forEach(({ row, corners, turn }, index) => {
    const line = lines[index];
    const end = start + row.count;
    writeRow(slots, start, row, index, line);
    if (row.props) slots.prop.set(row.props.subarray(0, row.count), start);
    else choose(slots, start, end, row.from + turn, line, choice);
    if (typeof row.stretch === "number") slots.stretch?.fill(row.stretch, start, end);
    else slots.stretch?.set(row.stretch.subarray(0, row.count), start);
    if (row.halted) (slots.halted ??= new Uint8Array(lines.length))[index] = 1;
    leaveOut(slots, start, end);
    corners.forEach((corner, i) => writeCorner(slots, end + i, corner, index, line, choice));
    choice.resolveMixes(slots.prop, slots.draw, start, end + corners.length);
    slots.missing += Math.max(0, row.wanted - row.count);
    start = end + corners.length;
  });
  return slots;
}

/** Slots that are beyond their line at the moment have no prop, and lie at its start until they come in again. */
function leaveOut(slots: Slots, start: number, end: number): void {
  const { at, prop } = slots;
  for (let i = start; i < end; i++) {
    if (at[i] === at[i]) continue;
    at[i] = 0;
    prop[i] = NO_PROP;
    (slots.beyond ??= new Uint8Array(slots.count))[i] = 1;
  }
}

function writeRow(slots: Slots, start: number, row: Row, index: number, line: GuideLine): void {
  const { from, count, spans } = row;
  const end = start + count;
  slots.line.fill(index, start, end);
  const { words, draw } = slots;
  const host = lineHost(line.number);
  const drawOf = drawsOn(line, 0);
  for (let i = 0, o = start; i < count; i++, o++) {
    words[2 * o] = from + i;
    words[2 * o + 1] = host;
    draw[o] = drawOf(from + i);
  }
  writePlaces(slots.at.subarray(start, end), row, line.curve);
  if (!slots.span) return;
  if (spans) slots.span.set(spans.subarray(0, 2 * count), 2 * start);
  else slots.span.fill(NaN, 2 * start, 2 * end);
}

/** Arc lengths of a row's slots; round a closed line they wrap, on an open one they are held between its ends. */
function writePlaces(
  at: Float64Array,
  { places, first, step, from, count, spans }: Row,
  line: GuideLine["curve"],
): void {
  if (places) at.set(places.subarray(0, count));
  else for (let i = 0; i < count; i++) at[i] = first + (from + i) * step;
  const { length } = line;
  if (line.closed) for (let i = 0; i < count; i++) at[i] -= Math.floor(at[i] / length) * length;
  else if (!spans) for (let i = 0; i < count; i++) at[i] = Math.min(length, Math.max(0, at[i]));
}

/** The props of slots whose places do not depend on them. */
export function choose(
  slots: Slots,
  start: number,
  end: number,
  number: number,
  line: GuideLine,
  choice: PropChoice,
): void {
  const { prop, draw, at } = slots;
  choice.fill(prop, draw, start, end, number);
  if (choice.tagged.size > 0 && line.tagged) {
    for (let i = start; i < end; i++) {
      const tagged = choice.tagged.get(line.tagAt(at[i]) ?? "");
      if (tagged !== undefined) prop[i] = tagged;
    }
  }
  const { beyond } = slots;
  if (choice.first !== null || choice.last !== null) {
    const [first, last] = endsOf(slots, start, end);
    if (choice.first !== null && first >= 0) prop[first] = choice.first;
    if (choice.last !== null && last >= 0) prop[last] = choice.last;
  }
  for (let i = start; beyond && i < end; i++) if (beyond[i] === 1) prop[i] = NO_PROP;
}

/** Which slots are the first and the last on the line now, however far they have travelled; -1 where none is on it. */
function endsOf({ at, beyond }: Slots, start: number, end: number): [first: number, last: number] {
  let [first, last] = [-1, -1];
  for (let i = start; i < end; i++) {
    if (at[i] !== at[i] || beyond?.[i] === 1) continue;
    if (first < 0 || at[i] < at[first]) first = i;
    if (last < 0 || at[i] >= at[last]) last = i;
  }
  return [first, last];
}

function writeCorner(
  slots: Slots,
  i: number,
  { knot, at }: Corner,
  index: number,
  line: GuideLine,
  choice: PropChoice,
): void {
  slots.line[i] = index;
  slots.key[i] = lineKey(line.number, cornerSlot(knot));
  slots.draw[i] = drawsOn(line, 0)(cornerSlot(knot));
  slots.at[i] = at;
  slots.prop[i] = choice.corner!;
  slots.span?.set([at - CORNER_SPAN, at + CORNER_SPAN], 2 * i);
}

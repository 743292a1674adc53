/** *The slots of one line*, before they are written down: how many, how they are numbered, where they lie. */
import { FIRST_ROW } from "../keys";
import type { Track } from "../../line";
import type { Spacing } from "./schema";

/** `count` slots numbered on from `from`: at `places` where there are some, else at `first + number · step` metres. */
export interface Row {
  from: number;
  count: number;
  first: number;
  step: number;
  places: Float64Array | null;
  /** Where each slot's prop begins and ends, 2 · count arc lengths, if its ends are to lie on the line. */
  spans: Float64Array | null;
  /** The prop of each slot, where that was asked for to find its place. */
  props: Uint16Array | null;
  /** By how much the props are stretched along the line: all alike, or each for itself. */
  stretch: number | Float32Array;
  /** How many the line would hold if there were no bound on the numbers of slots. */
  wanted: number;
  /** Whether what travels has come to the end of the line and stays there. */
  halted: boolean;
}

/** A part of a line to be filled; `round` where that is all of a closed line, which then has no ends. */
export interface Usable {
  from: number;
  length: number;
  round: boolean;
}

/** How far props reach along the line from where they meet it, behind and before it, metres: two numbers a prop. */
export type Reaches = Float64Array;

/** The props that the slots of one line would take, and how much of it each needs. */
export interface Supply {
  /** Writes the props of `n` slots from `number` on, the first beginning at `at` metres; NO_PROP for a blank. */
  fill(out: Uint16Array, n: number, number: number, at: number): void;
  /** Whether the place has a say in that: then they have to be asked for one by one. */
  byPlace: boolean;
  /** The props that the first and the last slot take whatever their number, or null. */
  first: number | null;
  last: number | null;
  /** How long each prop is along the line, metres; positive. */
  lengths: Float64Array;
  /** How much of that lies behind the point where it meets the line. */
  behind: Float64Array;
  /** How long a blank is that has no prop before it. */
  blank: number;
}

/** What a way of spacing is given besides its parameters. */
export interface RowInput {
  line: Track;
  usable: Usable;
  supply: Supply;
  /** Whether a last prop that sticks out past an open end is taken too, to be clipped there. */
  clip: boolean;
  /** Whether props follow the line's curve, so that each takes as much of it as it is long, instead of a chord. */
  bent: boolean;
}

/** A way of spacing. `usable` is of length zero or more. */
export type SpacingRule = (ground: RowInput, params: Spacing) => Row;

/** Distances are compared with this share of a step, so that rounding never costs the last slot. */
export const SLACK = 1e-6;

export const NO_ROW: Row = {
  from: 0,
  count: 0,
  first: 0,
  step: 1,
  places: null,
  spans: null,
  props: null,
  stretch: 1,
  wanted: 0,
  halted: false,
};

/** Slots at `first + number · step` for the numbers from `from` to `to`. */
export function evenRow(first: number, step: number, from: number, to: number): Row {
  const low = Math.max(FIRST_ROW.min, from);
  const high = Math.min(FIRST_ROW.max, to);
  return { ...NO_ROW, from: low, count: Math.max(0, high - low + 1), first, step, wanted: Math.max(0, to - from + 1) };
}

/** `count` slots a step apart that begin after `lead`, slid along: on a line with ends new ones come in behind those that leave. */
export function slidRow(usable: Usable, step: number, count: number, lead: number, slide: number): Row {
  const first = usable.from + lead + slide;
  if (usable.round || slide === 0) return evenRow(first, step, 0, count - 1);
  const from = Math.ceil((usable.from - first) / step - SLACK);
  const to = Math.floor((usable.from + usable.length - first) / step + SLACK);
  return evenRow(first, step, from, to);
}

/** Slots at given places, rising, each numbered by its rank; those that lie outside after the slide are left out. */
export function placedRow(usable: Usable, places: ArrayLike<number>, slide: number): Row {
  const slid = Float64Array.from(places, (at) => at + slide);
  const slack = SLACK * Math.max(usable.length, 1e-3);
  const inside = (at: number) =>
    usable.round || (at >= usable.from - slack && at <= usable.from + usable.length + slack);
  let from = 0;
  let to = slid.length - 1;
  while (from <= to && !inside(slid[from])) from++;
  while (to >= from && !inside(slid[to])) to--;
  const wanted = to - from + 1;
  const count = Math.max(0, Math.min(wanted, FIRST_ROW.max - from + 1));
  return { ...NO_ROW, from, count, places: slid.subarray(from, from + count), wanted };
}

/** Rows of several parts of a line as one, numbered on from the first to the last. */
export function joinedRow(rows: readonly Row[]): Row {
  const live = rows.filter((row) => row.count > 0);
  const wanted = rows.reduce((sum, row) => sum + row.wanted, 0);
  const whole = live.reduce((sum, row) => sum + row.count, 0);
  const count = Math.min(whole, FIRST_ROW.max + 1);
  const places = new Float64Array(whole);
  const spans = live.some((row) => row.spans) ? new Float64Array(2 * whole) : null;
  const props = live.some((row) => row.props) ? new Uint16Array(whole) : null;
  let start = 0;
  for (const row of live) {
    for (let i = 0; i < row.count; i++) places[start + i] = placeIn(row, i);
    if (row.spans) spans?.set(row.spans, 2 * start);
    if (row.props) props?.set(row.props, start);
    start += row.count;
  }
  return {
    ...NO_ROW,
    count,
    places,
    spans,
    props,
    stretch: stretchesOf(live, whole),
    wanted,
    halted: live.length > 0 && live.every(({ halted }) => halted),
  };
}

function stretchesOf(rows: readonly Row[], count: number): number | Float32Array {
  if (rows.every(({ stretch }) => stretch === 1)) return 1;
  const all = new Float32Array(count);
  let start = 0;
  for (const row of rows) {
    if (typeof row.stretch === "number") all.fill(row.stretch, start, start + row.count);
    else all.set(row.stretch.subarray(0, row.count), start);
    start += row.count;
  }
  return all;
}

/** The arc length of the `i`th slot of a row. */
export const placeIn = ({ places, first, step, from }: Row, i: number): number =>
  places ? places[i] : first + (from + i) * step;

/** *The slots of one line*, before they are written down: how many, how they are numbered, where they lie. */
import { MAX_SLOT, MIN_SLOT } from "../slots";
import type { Curve } from "../../line";
import type { Spacing } from "./schema";

/** `count` slots numbered on from `from`: at `places` where there are some, else at `first + number · step` metres. */
export interface Row {
  from: number;
  count: number;
  first: number;
  step: number;
  places: Float64Array | null;
  /** How many the line would hold if there were no bound on the numbers of slots. */
  wanted: number;
}

/** The part of a line between its insets; `round` where that is all of a closed line, which then has no ends. */
export interface Usable {
  from: number;
  length: number;
  round: boolean;
}

/** A way of spacing. `usable` is of length zero or more. */
export type Way = (line: Curve, usable: Usable, params: Spacing) => Row;

/** Distances are compared with this share of a step, so that rounding never costs the last slot. */
export const SLACK = 1e-6;

export const NO_ROW: Row = { from: 0, count: 0, first: 0, step: 1, places: null, wanted: 0 };

/** Slots at `first + number · step` for the numbers from `from` to `to`. */
export function evenRow(first: number, step: number, from: number, to: number): Row {
  const low = Math.max(MIN_SLOT, from);
  const high = Math.min(MAX_SLOT, to);
  return {
    from: low,
    count: Math.max(0, high - low + 1),
    first,
    step,
    places: null,
    wanted: Math.max(0, to - from + 1),
  };
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
  const count = to - from + 1;
  return { ...NO_ROW, from, count, places: slid.subarray(from, to + 1), wanted: count };
}

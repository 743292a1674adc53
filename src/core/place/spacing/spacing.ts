/**
 * Step 3, Spacing: the slots along each line. A slot's number counts from the line's start, also below zero after a slide,
 * and makes its key; its place may change while its number and so its prop, turns and pegs stay.
 */
import { keyOf, Slots, MAX_SLOT, MIN_SLOT } from "../slots";
import type { GuideLine } from "../../line";
import type { PropChoice } from "../what/what";
import type { Spacing } from "./schema";

/** Slots at `first + i · step` metres for i from `from` to `to`; none where `to` < `from`. */
export interface Lattice {
  first: number;
  step: number;
  from: number;
  to: number;
  /** How many the line would hold if there were no bound on the number of slots. */
  wanted: number;
}

/** Distances are compared with this share of a step, so that rounding never costs the last slot. */
const SLACK = 1e-6;

/** A dressing has at most so many slots; what the rules ask for beyond them is counted, and found by a check. */
const MAX_SLOTS = 4_000_000;

const NONE: Lattice = { first: 0, step: 1, from: 0, to: -1, wanted: 0 };

/** Where the slots of one line lie, by arc length. */
export function latticeOn(line: { length: number; closed: boolean }, params: Spacing): Lattice {
  const { length } = line;
  const free = params.fromStart + params.fromEnd;
  if (!(length > 0) || free > length * (1 + SLACK)) return NONE;
  const usable = Math.max(0, length - free);
  const round = line.closed && free === 0;
  const { step, count, lead } =
    params.by === "count" ? evenly(usable, round, params.count) : apart(usable, round, params);

  const first = params.fromStart + lead + params.slide;
  if (round) return bounded({ first, step, from: 0, to: count - 1, wanted: count });
  if (params.slide === 0) return bounded({ first, step, from: 0, to: count - 1, wanted: count });
  const from = Math.ceil((params.fromStart - first) / step - SLACK);
  const to = Math.floor((params.fromStart + usable - first) / step + SLACK);
  return bounded({ first, step, from, to, wanted: to - from + 1 });
}

interface Division {
  step: number;
  count: number;
  /** What stays free before the first slot. */
  lead: number;
}

/** `count` slots from end to end, or all round. A single one on an open line stands in the middle. */
function evenly(usable: number, round: boolean, count: number): Division {
  if (round) return { step: usable / count, count, lead: 0 };
  if (count === 1) return { step: usable || 1, count, lead: usable / 2 };
  return { step: usable / (count - 1) || 1e-9, count, lead: 0 };
}

function apart(usable: number, round: boolean, params: Spacing): Division {
  const steps = Math.floor(usable / params.distance + SLACK);
  const count = Math.max(1, round ? steps : steps + 1);
  const shared = params.remainder === "shared" && steps > 0;
  const step = shared ? usable / steps : params.distance;
  const left = Math.max(0, usable - (round ? count : count - 1) * step);
  const centred = params.remainder === "centred" || (params.remainder === "shared" && steps === 0);
  return { step, count, lead: centred ? left / 2 : 0 };
}

function bounded(lattice: Lattice): Lattice {
  return { ...lattice, from: Math.max(MIN_SLOT, lattice.from), to: Math.min(MAX_SLOT, lattice.to) };
}

/** The slots of all lines, with the prop that each takes. */
export function spacing(lines: readonly GuideLine[], choice: PropChoice, params: Spacing): Slots {
  let total = 0;
  const lattices = lines.map((line) => {
    const lattice = latticeOn(line.curve, params);
    const to = Math.min(lattice.to, lattice.from + MAX_SLOTS - total - 1);
    total += Math.max(0, to - lattice.from + 1);
    return { ...lattice, to };
  });
  const slots = new Slots(total);
  let start = 0;
  lattices.forEach((lattice, index) => {
    const count = Math.max(0, lattice.to - lattice.from + 1);
    fillLine(slots, start, count, lattice, index, lines[index]);
    choice.fill(slots.prop, slots.key, start, start + count, lattice.from);
    slots.missing += Math.max(0, lattice.wanted - count);
    start += count;
  });
  return slots;
}

function fillLine(slots: Slots, start: number, count: number, lattice: Lattice, index: number, line: GuideLine): void {
  const { line: lineOf, key, at } = slots;
  const { first, step, from } = lattice;
  const { length, closed } = line.curve;
  const firstKey = keyOf(line.number, from);
  for (let i = 0; i < count; i++) {
    let s = first + (from + i) * step;
    if (closed) s -= Math.floor(s / length) * length;
    else if (s < 0) s = 0;
    else if (s > length) s = length;
    lineOf[start + i] = index;
    key[start + i] = firstKey + i;
    at[start + i] = s;
  }
}

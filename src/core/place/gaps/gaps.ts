/** Step 7, Gaps: which slots stay blank. */
import { chanceOfEach, CHANNEL, drawFrom, signedKeys, streamOf } from "../../math";
import { FLAG, NO_PROP, type Slots } from "../slots";
import { NearLine } from "./near-line";
import type { GuideLine } from "../../line";
import type { Frames } from "../frames";
import type { Anchored } from "../hosts";
import { known, type Sources } from "../sources";
import { step, type Ask } from "../../graph";
import { pick } from "../../schema";
import { BLANKING, TAKING, type Blanking, type Gaps } from "./schema";
import { takenFlags } from "./taken";
import type { Dressing } from "../schema";

const gapsStep = step("gaps", gaps);
const takenStep = step("taken", takenFlags);

/** The flags of all slots, with the blank ones marked. */
export function gapFlags(
  ask: Pick<Ask, "step">,
  { gaps: params, variation: { seed } }: Dressing,
  from: Sources,
  { slots, lines }: Pick<Anchored, "slots" | "lines">,
  frames: Frames,
): Uint16Array {
  // What is spread keeps off by its distances.
  const avoided = slots.spread ? [] : [...known(from.rest.linesIn(params.avoid), (id) => from.rest.guide(id)).values()];
  const drawn = params.chance > 0 || params.runsOn || params.atMost > 0 ? seed : 0;
  const keepsOff = avoided.length > 0 ? frames : null;
  const flags = ask.step(gapsStep, slots, pick(params, BLANKING), drawn, lines, avoided, keepsOff);
  return slots.rack ? ask.step(takenStep, flags, slots, pick(params, TAKING), params.taken > 0 ? seed : 0) : flags;
}

/**
 * The flags of all slots, with the blank ones marked. Pegged slots keep what the artist chose.
 *
 * @param avoided the lines to keep off
 * @param frames the slots' feet, which keep off; null where there is nothing to keep off
 */
function gaps(
  slots: Slots,
  params: Blanking,
  seed: number,
  lines: readonly GuideLine[],
  avoided: readonly GuideLine[],
  frames: Frames | null,
): Uint16Array {
  const flags = slots.flags.slice();
  const { prop } = slots;
  for (let i = 0; i < flags.length; i++) if (prop[i] === NO_PROP) flags[i] |= FLAG.blank;
  const free = (i: number) => !(flags[i] & (FLAG.blank | FLAG.pegged));

  holdOpen(slots, params.stretches, lines, flags);
  for (const line of frames ? avoided : []) keepOff(line, params.avoidBy, frames!, flags, free);
  const byChance = blanksByChance(slots, params, seed);
  if (byChance) {
    const saved = params.atLeast > 0 ? savedFrom(byChance, slots, flags, params.atLeast, seed) : null;
    for (let i = 0; i < flags.length; i++) {
      if (byChance[i] && !(flags[i] & (FLAG.blank | FLAG.pegged)) && !saved?.has(i)) flags[i] |= FLAG.blank;
    }
  }
  if (params.atMost > 0) leaveOnly(params.atMost, slots, flags, seed);
  return flags;
}

/** A line that is kept off is cut into pieces of at most this share of how far, and at most so many. */
const PIECE = 0.25;
const MAX_PIECES = 200_000;

/** Leaves out what would stand nearer to a line than `by` metres. */
function keepOff(
  { curve }: GuideLine,
  by: number,
  { origin, feet }: Frames,
  flags: Uint16Array,
  free: (i: number) => boolean,
): void {
  if (!(curve.length > 0) || by === 0) return;
  const pieces = Math.min(MAX_PIECES, Math.max(1, Math.ceil(curve.length / Math.max(PIECE * by, 1e-3))));
  const near = new NearLine(curve, pieces, by);
  for (let i = 0; i < flags.length; i++) {
    if (!free(i)) continue;
    const [x, y, z] = [feet[3 * i], feet[3 * i + 1], feet[3 * i + 2]];
    if (near.distance(origin[0] + x, origin[1] + y, origin[2] + z) < by) flags[i] |= FLAG.blank;
  }
}

function holdOpen(slots: Slots, stretches: Gaps["stretches"], lines: readonly GuideLine[], flags: Uint16Array): void {
  for (const { line: id, from, to } of stretches) {
    const index = lines.findIndex((line) => line.id === id);
    if (index < 0) continue;
    const { closed, length } = lines[index].curve;
    // What stands at an end to within rounding stands in it.
    const slack = 1e-9 * length;
    const inside = (at: number) => at >= from - slack && at <= to + slack;
    const within = (at: number) => inside(at) || (closed && (inside(at - length) || inside(at + length)));
    for (let i = 0; i < flags.length; i++) {
      if (slots.line[i] === index && !(flags[i] & FLAG.pegged) && within(slots.at[i])) flags[i] |= FLAG.blank;
    }
  }
}

/** 1 for each slot that chance leaves blank, by itself or in a run; null where nothing is left to chance. */
function blanksByChance(slots: Slots, params: Blanking, seed: number): Uint8Array | null {
  const { chance, runEvery, runLength } = params;
  // Only along a line does one slot follow another.
  const runsOn = params.runsOn && !slots.spread;
  if (chance === 0 && !runsOn) return null;
  const { draw, count } = slots;
  const blank = new Uint8Array(count);
  if (chance > 0) chanceOfEach(blank, signedKeys(draw), streamOf(seed, CHANNEL.gapChance), chance);
  if (!runsOn) return blank;
  const runs = streamOf(seed, CHANNEL.gapRun);
  const lengths = streamOf(seed, CHANNEL.gapRunLength);
  const [short, long] = [Math.round(runLength[0]), Math.round(runLength[1])];
  for (let i = 0; i < count; i++) {
    if (drawFrom(runs, draw[i], 0) * runEvery >= 1) continue;
    const length = short + Math.floor((long - short + 1) * drawFrom(lengths, draw[i], 0));
    for (let k = i; k < Math.min(count, i + length) && sameRow(slots, i, k); k++) blank[k] = 1;
  }
  return blank;
}

const sameRow = ({ line, row }: Slots, i: number, k: number): boolean => line[i] === line[k] && row[i] === row[k];

/** Of the slots that chance would leave blank, those that must stand for there to be enough. */
function savedFrom(byChance: Uint8Array, slots: Slots, flags: Uint16Array, atLeast: number, seed: number): Set<number> {
  let standing = 0;
  const lost: number[] = [];
  for (let i = 0; i < slots.count; i++) {
    if (flags[i] & FLAG.blank) continue;
    if (byChance[i] && !(flags[i] & FLAG.pegged)) lost.push(i);
    else standing++;
  }
  return new Set(byLot(lost, slots, seed).slice(0, Math.max(0, atLeast - standing)));
}

function leaveOnly(atMost: number, slots: Slots, flags: Uint16Array, seed: number): void {
  let pegged = 0;
  const standing: number[] = [];
  for (let i = 0; i < slots.count; i++) {
    if (flags[i] & FLAG.blank) continue;
    if (flags[i] & FLAG.pegged) pegged++;
    else standing.push(i);
  }
  for (const i of byLot(standing, slots, seed).slice(Math.max(0, atMost - pegged))) flags[i] |= FLAG.blank;
}

/** Slots in an order that each one's own lot gives, so that a limit takes or leaves them one by one. */
function byLot(indices: readonly number[], { draw }: Slots, seed: number): number[] {
  const stream = streamOf(seed, CHANNEL.gapLimit);
  return indices
    .map((i): [number, number] => [drawFrom(stream, draw[i], 0), i])
    .sort(([a], [b]) => a - b)
    .map(([, i]) => i);
}

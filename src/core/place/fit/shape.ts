/** Bends props along their line, their length kept, and clips them at its open ends. */
import { FLAG, NO_PROP, type Slots } from "../slots";
import type { Shapes } from "../../mesh";
import { EVERYTHING, FINE, Forms, matrixInto, NOTHING } from "./forms";
import { Profiles } from "./profile";
import type { GuideLine } from "../../line";
import type { Placed, Parts } from "../compose";
import type { Moves } from "../frames";
import type { Fit } from "./schema";

/** What sticks out past an end by no more than this share of itself is let be. */
const SLACK = 1e-5;

/**
 * The shapes of all placements that are bent or clipped, or null where none is. What lies past an end altogether is marked
 * as blank in `flags`.
 *
 * @param slots with the places that their props have in the end
 */
export function shapesOf(
  { bend, clip }: Pick<Fit, "bend" | "clip">,
  lines: readonly GuideLine[],
  slots: Slots,
  { hold }: Pick<Parts, "hold">,
  moves: Moves,
  placed: Placed,
  flags: Uint16Array,
): Shapes | null {
  if (!bend && !clip) return null;
  const gathered = new Forms(slots.count);
  const profiles = new Map<number, Profiles>();
  for (let i = 0; i < slots.count; i++) {
    const prop = slots.prop[i];
    if (prop === NO_PROP || flags[i] & FLAG.blank) continue;
    const line = lines[slots.line[i]];
    const along = slots.at[i] + moves.offset[0] + (moves.shift[0] ? moves.shift[0][i] : 0);
    const [behind, before] = [placed.reach[2 * i], placed.reach[2 * i + 1]];
    const { closed, length } = line.curve;
    const slack = SLACK * (behind + before);
    const cuts = clip && !closed && length > 0 && (along - behind < -slack || along + before > length + slack);
    if (cuts && (along + before <= slack || along - behind >= length - slack)) {
      flags[i] |= FLAG.blank;
      continue;
    }
    // What spans a corner stays stiff.
    const span = slots.span && !Number.isNaN(slots.span[2 * i]) ? slots.span.subarray(2 * i, 2 * i + 2) : null;
    const bends = bend && !span;
    if (!bends && !cuts) continue;
    let own = profiles.get(slots.line[i]);
    if (!own) profiles.set(slots.line[i], (own = new Profiles(line, hold.up)));
    const across = moves.offset[1] + moves.rows[slots.row[i]] + (moves.shift[1] ? moves.shift[1][i] : 0);
    const up = moves.offset[2] + (moves.shift[2] ? moves.shift[2][i] : 0);
    const way = own.at(along, across, up, behind, before, span);
    const samples = bends ? own.samples(way, FINE * (behind + before)) : NOTHING;
    if (samples.length === 0 && !cuts) continue;
    const matrix = matrixInto(way, placed, i, (flags[i] & FLAG.mirrored) !== 0);
    const planes = cuts ? own.planes(way, samples.length > 0) : EVERYTHING;
    gathered.add(
      i,
      { prop, matrix, planes, samples, piece: NOTHING, crease: 0 },
      way,
      placed.origin,
      FINE * (behind + before),
    );
  }
  return gathered.finish(0);
}

/**
 * *Pegs of version 5 brought up.* There slots over surfaces and in volumes were numbered by what was found there, so where one
 * was is known only from how things were spread then. That is kept in this folder, as it was, for this alone; nothing else may
 * use it, and nothing in it is to be made better.
 *
 * A turn, a swap or a removal goes to the nearest slot of today within half the distance; a peg with a point keeps that, on such
 * a slot or as one that is added. What has none near it is left, and told.
 */
import { PointGrid } from "../../mesh";
import { omit } from "../../schema";
import { addedKey, hexOf } from "../keys";
import { nextAdded, type BroughtUp, type OldPeg, type Peg, type Pegs } from "../pegs";
import { oldFieldsOf, overKey } from "./old";
import { oldSlots, type OldSlot } from "./over";
import type { Field } from "../../host";
import type { DensityMask } from "../gaps/density-mask";
import type { Slots } from "../slots";
import type { Spacing } from "../spacing/schema";
import type { PropChoice } from "../what/what";
import type { Where } from "../where/schema";

/** What a dressing says that bears on where its slots were. */
export interface Saying {
  where: Where;
  spacing: Spacing;
  seed: number;
  pegs: Pegs;
  oldPegs: readonly OldPeg[];
}

/** @param now the slots that the rules give today, without pegs */
export function broughtUp(
  { where, spacing, seed, pegs, oldPegs }: Saying,
  fields: readonly Field[],
  masks: readonly DensityMask[],
  choice: PropChoice,
  now: Slots,
): BroughtUp {
  const old = oldFieldsOf(where, fields);
  const tagOf = new Map(old.map(({ id, tag }) => [id, tag]));
  const keyOf = ({ line, slot }: OldPeg): number | null => (tagOf.has(line) ? overKey(tagOf.get(line)!, slot) : null);
  const pegged = new Set(oldPegs.flatMap((peg) => keyOf(peg) ?? []));
  const slots = oldSlots(old, spacing, { choice, masks, seed, pegged });
  const nearest = nearestFree(now);
  const next: Record<string, Peg> = { ...pegs };
  const left: BroughtUp["left"] = [];
  for (const peg of oldPegs) {
    const key = keyOf(peg);
    const was = key === null ? undefined : slots.get(key);
    const on = peg.line;
    const says = omit(omit(peg, "slot"), "line");
    const found = was ? nearest(was) : -1;
    if (found >= 0) next[hexOf(now.key[found])] = { on, ...says };
    // What it lies on may only not be known yet.
    else if (key !== null && says.point !== undefined)
      next[hexOf(addedKey(nextAdded(next, () => true)))] = { ...asAdded(says, was, choice), on };
    else left.push({ peg, place: was?.position ?? null });
  }
  return { pegs: next, left };
}

/** A peg that stands by itself has the prop that its slot had. */
function asAdded(says: Omit<Peg, "on">, was: OldSlot | undefined, { props }: PropChoice): Omit<Peg, "on"> {
  const prop = says.prop ?? (was ? props[was.prop] : props[0]);
  return { ...says, added: true, ...(prop !== undefined && { prop }) };
}

/** Gives the slot nearest to where an old one was, within half the distance, each to one alone; -1 where there is none. */
function nearestFree(now: Slots): (was: OldSlot) => number {
  const { position } = now.spread!;
  const taken = new Uint8Array(now.count);
  const grid = new PointGrid(now.count);
  let size = 0;
  for (let i = 0; i < now.count; i++) grid.push(position[3 * i], position[3 * i + 1], position[3 * i + 2]);
  return ({ position: [x, y, z], pitch }) => {
    if (size !== pitch) grid.resize((size = pitch));
    const near = grid.gather(x, y, z, pitch / 2);
    let [best, least] = [-1, Infinity];
    for (let k = 0; k < near; k++) {
      const i = grid.near[k];
      const far = Math.hypot(position[3 * i] - x, position[3 * i + 1] - y, position[3 * i + 2] - z);
      if (taken[i] === 0 && far < least) [best, least] = [i, far];
    }
    if (best >= 0) taken[best] = 1;
    return best;
  };
}

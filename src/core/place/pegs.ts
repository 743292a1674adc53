/** Pegs: what the artist fixed by hand. Rules leave it alone, whatever they would have done with the slot. */
import { z } from "zod";
import { idSchema } from "../scene/param";
import { FLAG, keyOf, MAX_SLOT, MIN_SLOT, type Slots } from "./slots";
import type { GuideLine } from "../line";

export const pegSchema = z.object({
  /** The slot: its line and its number on it. */
  line: idSchema,
  slot: z.number().int().min(MIN_SLOT).max(MAX_SLOT),
  /** Moved here: metres along the line. */
  at: z.number().min(0).optional(),
  /** Swapped for this prop. */
  prop: idSchema.optional(),
  /** Taken away. */
  removed: z.boolean().optional(),
});

export type Peg = z.infer<typeof pegSchema>;

/** The slots with the pegs in force: moved ones at their place, swapped ones with their prop, removed ones blank. */
export function pegged(
  slots: Slots,
  pegs: readonly Peg[],
  lines: readonly GuideLine[],
  props: readonly string[],
): Slots {
  if (pegs.length === 0) return slots;
  const numberOf = new Map(lines.map((line) => [line.id, line.number]));
  const byKey = new Map<number, Peg>();
  for (const peg of pegs) {
    const number = numberOf.get(peg.line);
    if (number !== undefined) byKey.set(keyOf(number, peg.slot), peg);
  }
  const result = slots.derive();
  for (let i = 0; i < result.count && byKey.size > 0; i++) {
    const peg = byKey.get(result.key[i]);
    if (!peg) continue;
    result.flags[i] |= FLAG.pegged;
    if (peg.at !== undefined) {
      result.at[i] = Math.min(peg.at, lines[result.line[i]].curve.length);
      result.flags[i] |= FLAG.moved;
    }
    const prop = peg.prop === undefined ? -1 : props.indexOf(peg.prop);
    if (prop >= 0) result.prop[i] = prop;
    if (peg.removed) result.flags[i] |= FLAG.blank;
  }
  return result;
}

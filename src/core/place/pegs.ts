/** Pegs: what the artist fixed by hand. Rules leave it alone, whatever they would have done with the slot. */
import { z } from "zod";
import { idSchema, vec3Schema } from "../schema";
import { FLAG, keyOf, MAX_LOCAL, MIN_SLOT, NO_PROP, Slots } from "./slots";
import { arcLengthWithin, type GuideLine } from "../line";
import type { PropChoice } from "./what/what";

export const pegSchema = z.object({
  /** The slot: its line, or the surface or area that it is spread over, and its number there. */
  line: idSchema,
  slot: z.number().int().min(MIN_SLOT).max(MAX_LOCAL),
  /** Moved here: metres along the line. */
  at: z.number().min(0).optional(),
  /** Moved here on its surface: a point in the surface's own coordinates, metres. */
  point: vec3Schema.optional(),
  /** Turned by so much about its own up, radians, besides all else that turns it. */
  turn: z.number().optional(),
  /** Swapped for this prop or mix. */
  prop: idSchema.optional(),
  /** Taken away. */
  removed: z.boolean().optional(),
  /** Put there by hand: a slot of its own, besides those of the rules. */
  added: z.boolean().optional(),
});

export type Peg = z.infer<typeof pegSchema>;

/** The slots with the pegs in force, and which pegs found no slot: indices into the pegs. */
export interface Pegged {
  slots: Slots;
  orphans: number[];
}

/** Moved slots at their place, swapped ones with their prop, removed ones blank, added ones behind all others. */
export function pegged(
  slots: Slots,
  pegs: readonly Peg[],
  lines: readonly GuideLine[],
  choice: Pick<PropChoice, "pick">,
): Pegged {
  if (pegs.length === 0) return { slots, orphans: [] };
  const indexOf = new Map(lines.map((line, i) => [line.id, i]));
  const byKey = new Map<number, number>();
  const orphans: number[] = [];
  const added: number[] = [];
  pegs.forEach((peg, i) => {
    const index = indexOf.get(peg.line);
    if (index === undefined) orphans.push(i);
    else if (peg.added) added.push(i);
    else byKey.set(keyOf(lines[index].number, peg.slot), i);
  });
  const result =
    added.length > 0
      ? withAdded(
          slots,
          added.map((i) => pegs[i]),
          lines,
          indexOf,
          choice,
        )
      : slots.derive();
  result.pegged = true;
  for (let i = 0; i < slots.count && byKey.size > 0; i++) {
    const index = byKey.get(result.key[i]);
    if (index === undefined) continue;
    byKey.delete(result.key[i]);
    const peg = pegs[index];
    result.flags[i] |= FLAG.pegged;
    if (peg.at !== undefined) {
      const { curve } = lines[result.line[i]];
      const at = Math.min(peg.at, curve.length);
      moveSpan(result, i, at - result.at[i]);
      result.at[i] = at;
      result.flags[i] |= FLAG.moved;
    }
    const prop = peg.prop === undefined ? NO_PROP : choice.pick(peg.prop, result.key[i]);
    if (prop !== NO_PROP) result.prop[i] = prop;
    if (peg.removed) result.flags[i] |= FLAG.blank;
    result.turnByHand(i, peg.turn);
  }
  orphans.push(...byKey.values());
  return { slots: result, orphans: orphans.sort((a, b) => a - b) };
}

function moveSpan({ span }: Slots, i: number, by: number): void {
  if (!span) return;
  span[2 * i] += by;
  span[2 * i + 1] += by;
}

function withAdded(
  slots: Slots,
  pegs: readonly Peg[],
  lines: readonly GuideLine[],
  indexOf: ReadonlyMap<string, number>,
  choice: Pick<PropChoice, "pick">,
): Slots {
  const out = new Slots(slots.count + pegs.length, slots.span !== null);
  out.take(slots, 0, slots.count, 0);
  out.missing = slots.missing;
  pegs.forEach((peg, k) => {
    const i = slots.count + k;
    const index = indexOf.get(peg.line)!;
    out.line[i] = index;
    out.key[i] = keyOf(lines[index].number, peg.slot);
    out.at[i] = arcLengthWithin(lines[index].curve, peg.at ?? 0);
    out.prop[i] = peg.prop === undefined ? NO_PROP : choice.pick(peg.prop, out.key[i]);
    out.flags[i] = FLAG.pegged | FLAG.moved | (peg.removed ? FLAG.blank : 0);
    out.span?.fill(NaN, 2 * i, 2 * i + 2);
    out.turnByHand(i, peg.turn);
  });
  return out;
}

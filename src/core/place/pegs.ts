/** Pegs: what the artist fixed by hand. Rules leave it alone, whatever they would have done with the slot. */
import { z } from "zod";
import { hostIdSchema, idSchema, vec3Schema, within, FARTHEST } from "../schema";
import { tieSchema } from "../tie";
import { ADDED, eachOf, keyOfHex, lineNumberOfKey, placeOfKey, drawsOn, type Key } from "./keys";
import { FLAG, NO_PROP, Slots } from "./slots";
import { arcLengthWithin, type GuideLine } from "../line";
import type { Vec3 } from "../math";
import type { PropChoice } from "./what/what";

const stretched = within(1_000_000).positive();

const saying = {
  /** Moved here: metres along the line. */
  at: within(2 * FARTHEST)
    .min(0)
    .optional(),
  /** Moved here on its surface: a point in the surface's own coordinates, metres. */
  point: vec3Schema.optional(),
  /** A patch: moved here in its flat layout, to the right and ahead of its handle, metres. */
  flat: z.tuple([within(FARTHEST), within(FARTHEST)]).optional(),
  /** Turned by so much about its own up, radians, besides all else that turns it. */
  turn: within(1_000_000).optional(),
  /** Swapped for this prop or mix. */
  prop: idSchema.optional(),
  /** Taken away. */
  removed: z.boolean().optional(),
  /** Pinned: how far off its surface, metres. */
  lift: within(FARTHEST).optional(),
  /** Pinned, or spread: how many times as large as its prop. */
  size: within(1_000_000).positive().optional(),
  /** How many times as wide, high and deep by hand, besides all else that sizes it. */
  stretch: z.tuple([stretched, stretched, stretched]).optional(),
  /** Pinned: the texture coordinates there, for finding the place again on another mesh; instead of a point, where they were typed. */
  uv: z.tuple([within(FARTHEST), within(FARTHEST)]).optional(),
  /** Loose: what holds it, with which it goes along as one piece. Pinned: what its place goes along with, as near to it as its surface is. */
  held: tieSchema.optional(),
  /**
   * Loose: it hangs by one of its prop's snap points on a place whose up is the direction that this points against, turned
   * about it by so much more, radians; with what holds it, that place goes along.
   */
  hangs: z
    .object({
      by: z.string().trim().min(1).max(120),
      at: vec3Schema,
      turned: z.tuple([within(2), within(2), within(2), within(2)]).readonly(),
      turn: within(1_000_000).default(0),
      free: z.boolean().default(true),
    })
    .optional(),
  /** Put there by hand: a slot of its own, besides those of the rules. */
  added: z.boolean().optional(),
};

export const pegSchema = z.object({
  /** The line, or the surface or area, that its slot lies on. */
  on: hostIdSchema,
  ...saying,
});

export type Peg = z.infer<typeof pegSchema>;

const MOST = 1_000_000;

/** Pegs by the keys of their slots, 16 hexadecimal digits. */
export const pegsSchema = z
  .record(z.string().regex(/^[0-9a-f]{16}$/, "a key is 16 hexadecimal digits"), pegSchema)
  .refine((pegs) => Object.keys(pegs).length <= MOST, { error: `at most ${MOST} pegs` });

export type Pegs = Readonly<Record<string, Peg>>;

/** A peg of version 5 over surfaces or in a volume, whose slot is numbered as it was then; see `version-5/`. */
export const oldPegSchema = z.object({
  line: idSchema,
  slot: z
    .number()
    .int()
    .min(0)
    .max(2 ** 26 - 1),
  ...saying,
});
export type OldPeg = z.infer<typeof oldPegSchema>;

/** *Pegs of version 5 brought up*, see `version-5/`. */
export interface BroughtUp {
  /** Those that were there already, and those that have their keys now. */
  pegs: Pegs;
  /** Those that found none, and where in the world their slots were, where that is known. */
  left: { peg: OldPeg; place: Vec3 | null }[];
}

/** The slots with the pegs in force, and the keys of pegs that found no slot, as they write them. */
export interface Pegged {
  slots: Slots;
  orphans: string[];
}

/** Pegs by what they are for: slots of the rules, which are then looked for, or slots of their own. */
export function sorted(pegs: Pegs, isThere: (peg: Peg) => boolean) {
  const wanted = new Map<Key, Peg>();
  const added: [Key, Peg][] = [];
  const orphans: string[] = [];
  for (const [hex, peg] of Object.entries(pegs)) {
    if (!isThere(peg)) orphans.push(hex);
    // What was added to a flat layout is one of its places already.
    else if (peg.added && !peg.flat) added.push([keyOfHex(hex), peg]);
    else wanted.set(keyOfHex(hex), peg);
  }
  return { wanted, added, orphans };
}

/** Moved slots at their place, swapped ones with their prop, removed ones blank, added ones behind all others. */
export function pegged(
  slots: Slots,
  pegs: Pegs,
  lines: readonly GuideLine[],
  choice: Pick<PropChoice, "pick">,
): Pegged {
  if (Object.keys(pegs).length === 0) return { slots, orphans: [] };
  const indexOf = new Map(lines.map((line, i) => [line.id, i]));
  const { wanted, added, orphans } = sorted(pegs, ({ on }) => indexOf.has(on));
  const result = added.length > 0 ? withAdded(slots, added, lines, indexOf, choice) : slots.derive();
  result.pegged = true;
  // Where it is worked out for several variants, there is one of a key in each.
  const found = new Set<Key>();
  eachOf(slots.key, wanted, (i, key, peg) => {
    found.add(key);
    result.flags[i] |= FLAG.pegged;
    if (peg.at !== undefined) {
      const { curve } = lines[result.line[i]];
      const at = Math.min(peg.at, curve.length);
      moveSpan(result, i, at - result.at[i]);
      result.at[i] = at;
      result.flags[i] |= FLAG.moved;
    }
    const prop = peg.prop === undefined ? NO_PROP : choice.pick(peg.prop, result.draw[i]);
    if (prop !== NO_PROP) result.prop[i] = prop;
    if (peg.removed) result.flags[i] |= FLAG.blank;
    result.turnByHand(i, peg.turn);
    result.stretchByHand(i, peg.stretch);
  });
  return {
    slots: result,
    orphans: [
      ...orphans,
      ...hexesOf(
        [...wanted.keys()].filter((key) => !found.has(key)),
        pegs,
      ),
    ],
  };
}

/** The keys as pegs write them, in the order of the pegs. */
export function hexesOf(keys: Iterable<Key>, pegs: Pegs): string[] {
  const left = new Set(keys);
  return left.size === 0 ? [] : Object.keys(pegs).filter((hex) => left.has(keyOfHex(hex)));
}

function moveSpan({ span }: Slots, i: number, by: number): void {
  if (!span) return;
  span[2 * i] += by;
  span[2 * i + 1] += by;
}

function withAdded(
  slots: Slots,
  pegs: readonly [Key, Peg][],
  lines: readonly GuideLine[],
  indexOf: ReadonlyMap<string, number>,
  choice: Pick<PropChoice, "pick">,
): Slots {
  const out = new Slots(slots.count + pegs.length, slots.span !== null);
  out.take(slots, 0, slots.count, 0);
  out.missing = slots.missing;
  pegs.forEach(([key, peg], k) => {
    const i = slots.count + k;
    const index = indexOf.get(peg.on)!;
    out.line[i] = index;
    out.key[i] = key;
    out.draw[i] = drawsOn({ number: lineNumberOfKey(key), salt: lines[index].salt }, 0)(placeOfKey(key));
    out.at[i] = arcLengthWithin(lines[index].curve, peg.at ?? 0);
    out.prop[i] = peg.prop === undefined ? NO_PROP : choice.pick(peg.prop, out.draw[i]);
    out.flags[i] = FLAG.pegged | FLAG.moved | (peg.removed ? FLAG.blank : 0);
    out.span?.fill(NaN, 2 * i, 2 * i + 2);
    out.turnByHand(i, peg.turn);
    out.stretchByHand(i, peg.stretch);
  });
  return out;
}

/** The number that the next placement added to a line, or to fields, takes. */
export function nextAdded(pegs: Pegs, isThere: (peg: Peg) => boolean): number {
  let next: number = ADDED.min;
  for (const [hex, peg] of Object.entries(pegs))
    if (peg.added && isThere(peg)) next = Math.max(next, placeOfKey(keyOfHex(hex)) + 1);
  return next;
}

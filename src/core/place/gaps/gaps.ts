/** Step 7, Gaps: which slots stay blank. */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { FLAG, NO_PROP, type Slots } from "../slots";
import type { Gaps } from "./schema";

/** The flags of all slots, with the blank ones marked. Pegged slots keep what the artist chose. */
export function gaps(slots: Slots, params: Gaps, seed: number): Uint16Array {
  const flags = slots.flags.slice();
  const { key, prop } = slots;
  const { chance } = params;
  const stream = streamOf(seed, CHANNEL.gapChance);
  for (let i = 0; i < flags.length; i++) {
    if (prop[i] === NO_PROP) flags[i] |= FLAG.blank;
    if (chance === 0 || flags[i] & FLAG.pegged) continue;
    if (drawFrom(stream, key[i], 0) < chance) flags[i] |= FLAG.blank;
  }
  return flags;
}

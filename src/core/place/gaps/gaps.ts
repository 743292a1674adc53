/** Step 7, Gaps: which slots stay blank. */
import { CHANNEL, unit } from "../../math";
import { FLAG, NO_PROP, type Slots } from "../slots";
import type { Gaps } from "./schema";

/** The flags of all slots, with the blank ones marked. Pegged slots keep what the artist chose. */
export function gaps(slots: Slots, params: Gaps, seed: number): Uint16Array {
  const flags = slots.flags.slice();
  for (let i = 0; i < slots.count; i++) {
    if (slots.prop[i] === NO_PROP) flags[i] |= FLAG.blank;
    if (params.chance === 0 || flags[i] & FLAG.pegged) continue;
    if (unit(seed, CHANNEL.gapChance, slots.key[i], 0) < params.chance) flags[i] |= FLAG.blank;
  }
  return flags;
}

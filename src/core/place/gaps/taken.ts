/** *What is gone from a rack*: taken from the front and from on top, in clumps; and what stood on something that is gone. */
import { CHANNEL, drawFrom, mix, streamOf } from "../../math";
import { FLAG, NO_PROP, type Slots } from "../slots";
import type { Taking } from "./schema";

/** So many of the columns have as much gone as their clump, the others as much as they draw themselves. */
const TOGETHER = 0.75;

/**
 * The flags with those marked blank that are gone. Of each column a share is, which over many columns is on average what is asked for;
 * more taken is only ever more. Pegged ones stay.
 */
export function takenFlags(
  before: Uint16Array,
  slots: Slots,
  { taken, clump, onGaps }: Taking,
  seed: number,
): Uint16Array {
  const flags = before.slice();
  const { count, draw, at, words } = slots;
  if (taken > 0) {
    const stream = streamOf(seed, CHANNEL.rackTaken);
    for (let first = 0; first < count;) {
      const last = columnEnd(slots, first);
      const together = clump > 0 && drawFrom(stream, draw[first], 1) < TOGETHER;
      // A clump is known by the line, row and level that it is on, and where it is there.
      const share = together
        ? drawFrom(mix(stream, words[2 * first + 1]), Math.floor(at[first] / clump) | 0, 4)
        : drawFrom(stream, draw[first], 2);
      takeFrom(flags, slots, first, last, gone(share, taken) * (last - first) + drawFrom(stream, draw[first], 3));
      first = last;
    }
  }
  return onGaps ? flags : carried(flags, slots);
}

/** What is even from 0 to 1 as a share that is `mean` on average, many of one column being gone and hardly any of another. */
const gone = (share: number, mean: number): number => (mean >= 1 ? 1 : share ** ((1 - mean) / mean));

const columnEnd = ({ count, rack }: Slots, first: number): number => {
  let last = first + 1;
  while (last < count && (rack!.deep[last] > 0 || rack!.high[last] > 0)) last++;
  return last;
};

/** Takes as many whole ones as `most` from a column: from the front, each stack from its top. */
function takeFrom(flags: Uint16Array, { rack }: Slots, first: number, last: number, most: number): void {
  let left = Math.floor(most);
  for (let from = first; from < last && left > 0;) {
    let to = from + 1;
    while (to < last && rack!.deep[to] === rack!.deep[from]) to++;
    for (let i = to - 1; i >= from && left > 0; i--, left--) if (!(flags[i] & FLAG.pegged)) flags[i] |= FLAG.blank;
    from = to;
  }
}

/** Whatever stands on one that is blank is blank as well; the very same flags where nothing does. */
export function carried(before: Uint16Array, { rack, count, prop }: Slots): Uint16Array {
  let flags = before;
  const { high } = rack!;
  for (let i = 1; i < count; i++) {
    if (high[i] === 0 || flags[i] & (FLAG.blank | FLAG.pegged)) continue;
    if (!(flags[i - 1] & FLAG.blank) && prop[i - 1] !== NO_PROP) continue;
    if (flags === before) flags = before.slice();
    flags[i] |= FLAG.blank;
  }
  return flags;
}

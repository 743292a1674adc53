/** What a placement catches on while it is pegged: marks, ends, and where it just touches or halves the way to neighbours. */
import { FLAG, NO_PROP, type Placements } from "@/core/place";
import type { StripRow } from "./model";

/**
 * The place nearest to `at` that placement `i` catches on, within so many metres; null where there is none.
 *
 * @param moving indices of placements that are moved with it
 */
export function caughtAt(
  p: Placements,
  row: StripRow,
  i: number,
  at: number,
  within: number,
  moving: ReadonlySet<number>,
  marks: ArrayLike<number>,
): number | null {
  let best: number | null = null;
  let least = within;
  const offer = (place: number) => {
    const away = Math.abs(place - at);
    if (away > least || place < 0 || place > row.length) return;
    least = away;
    best = place;
  };
  offer(0);
  offer(row.length);
  for (let k = 0; k < marks.length; k++) offer(marks[k]);
  const [behind, before] = [p.reach[2 * i], p.reach[2 * i + 1]];
  let last = NaN;
  for (const j of row.order) {
    if (moving.has(j) || p.flags[j] & FLAG.blank || p.prop[j] === NO_PROP) continue;
    offer(p.at[j] + p.reach[2 * j + 1] + behind);
    offer(p.at[j] - p.reach[2 * j] - before);
    if (last < at && p.at[j] > at) offer((last + p.at[j]) / 2);
    last = p.at[j];
  }
  return best;
}

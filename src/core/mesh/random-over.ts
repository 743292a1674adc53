/** *Random positions over a mesh*: what arrives up to a density, or as many as are wanted. */
import { arrivalsOver, mostArrived, sum, type Arriving, type Spread } from "./arrivals";
import { keepFirst } from "./keep-first";
import { areasOf, type Facets, type Points } from "./facets";

/** @param amount so many in all, exactly, or so many to the square metre */
export function randomOver(
  ground: Points,
  amount: { count: number } | { density: number },
  about: Arriving,
  facets: Pick<Facets, "area"> = { area: areasOf(ground) },
): Spread {
  const area = about.area ?? sum(facets.area);
  const arriving = { ...about, area };
  const most = mostArrived(facets, arriving);
  if ("density" in amount) {
    const all = arrivalsOver(ground, facets, Math.min(most, amount.density), arriving);
    return spreadOf(all);
  }
  // The number varies by its root, so a little more arrives and the last are left out.
  for (let spare = 4; ; spare *= 2) {
    const upTo = Math.min(most, (amount.count + spare * Math.sqrt(amount.count) + spare) / (area || 1));
    const all = arrivalsOver(ground, facets, upTo, arriving);
    if (all.count < amount.count && upTo < most && area > 0) continue;
    keepFirst(all, amount.count);
    return spreadOf(all);
  }
}

const spreadOf = ({ density, ...all }: ReturnType<typeof arrivalsOver>): Spread => ({
  count: all.count,
  position: all.position.subarray(0, 3 * all.count),
  triangle: all.triangle.subarray(0, all.count),
  key: all.key.subarray(0, 2 * all.count),
  joinOrder: density.subarray(0, all.count),
});

/** Of places that arrive one after another, the first so many. */
import type { Arrivals } from "./arrivals";

/** Leaves only those that came first, so many of them; the last of these in the places of those that are left out. */
export function keepFirst(all: Arrivals, most: number): void {
  if (all.count <= most) return;
  const last = most > 0 ? nthLast(all.density, all.count, all.count - most) : -1;
  const { position, density, triangle, key } = all;
  for (let i = 0, from = all.count; i < most; i++) {
    if (density[i] <= last) continue;
    do from--;
    while (density[from] > last);
    position.copyWithin(3 * i, 3 * from, 3 * from + 3);
    density[i] = density[from];
    triangle[i] = triangle[from];
    key.copyWithin(2 * i, 2 * from, 2 * from + 2);
  }
  all.count = most;
}

/** The value that just so many others exceed. Values lie evenly up to the greatest, so only the last ones need sorting. */
function nthLast(values: Float64Array, count: number, above: number): number {
  let greatest = 0;
  for (let i = 0; i < count; i++) if (values[i] > greatest) greatest = values[i];
  for (let share = (1.5 * (above + 16)) / count; ; share *= 4) {
    const least = share < 1 ? greatest * (1 - share) : -1;
    const tail: number[] = [];
    for (let i = 0; i < count; i++) if (values[i] > least) tail.push(values[i]);
    if (tail.length > above) return Float64Array.from(tail).sort()[tail.length - 1 - above];
  }
}

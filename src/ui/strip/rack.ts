/** What hands find and do on a strip that shows a rack from its front or from above. */
import { FLAG, MOST_DEEP, NO_PROP, type Dressing, type Placements } from "@/core/place";
import { millimetre } from "../state";
import { layoutOf, painted, rackLayout, type Aspect, type StripScene } from "./layout";
import type { StripView } from "./model";
import type { Draft } from "immer";

/** The slot that is seen at an arc length and a height on the strip, pixels: of several the one that is nearest to the eye. */
export function slotInRack(scene: StripScene, view: StripView, row: number, at: number, y: number): number {
  const { placements: p, rows } = scene;
  const rack = rackLayout(scene, row, view.scale);
  if (!rack) return -1;
  const above = (layoutOf(scene, row).cord - 1 - y) / rack.scale;
  const slack = 1 / rack.scale;
  const there = rows[row].order.filter((i) => {
    const [low, high] = rack.ends(i);
    return (
      at >= p.at[i] - p.reach[2 * i] &&
      at <= p.at[i] + p.reach[2 * i + 1] &&
      above >= low - slack &&
      above <= high + slack
    );
  });
  const shown = painted(scene, there);
  // What stands is taken before what is gone.
  const standing = shown.findLast((i) => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP);
  return standing ?? shown.at(-1) ?? -1;
}

/** What stands next to another in its column: on it or below it, or behind it or before it; -1 where nothing does. */
export function besideInRack({ stacked, count }: Placements, i: number, aspect: Aspect, direction: number): number {
  if (!stacked) return -1;
  const { deep, high } = stacked;
  const isFirst = (k: number) => deep[k] === 0 && high[k] === 0;
  let first = i;
  while (!isFirst(first)) first--;
  const wanted = aspect === "front" ? [deep[i], high[i] + direction] : [deep[i] + direction, high[i]];
  for (let k = first; k < count && (k === first || !isFirst(k)); k++)
    if (deep[k] === wanted[0] && high[k] === wanted[1]) return k;
  return -1;
}

/** Makes a rack so high, or so deep, where that is by a number or by metres. @param was how high it was, metres */
export function pullRack({ where }: Draft<Dressing>, way: "high" | "deep", metres: number, was: number): void {
  const times = Math.max(0, metres) / was;
  if (!(times < Infinity)) return;
  const by = where[`${way}By`];
  /** Both ends where they are one, else the upper one. */
  const pulled = ([low, high]: readonly [number, number], to: (metres: number) => number): [number, number] => {
    const most = to(high * times);
    return [low === high ? most : Math.min(low, most), most];
  };
  if (by === "number") where[way] = pulled(where[way], (most) => Math.max(1, Math.min(MOST_DEEP, Math.round(most))));
  else if (by === "metres") where[`${way}Into`] = pulled(where[`${way}Into`], millimetre);
}

/** *The flat layout of a patch*: on the sheet what is to the right lies to the right, and what is ahead above. */
import type { FlatPlace, Placements, Sight } from "@/core/place";
import { isShown, type PlanBox } from "./model";

type Laid = NonNullable<Sight["laid"]>;

/** The corners of all footprints on the sheet: 8n. */
export const flatCorners = ({ footprints }: Laid): Float64Array =>
  footprints.map((value, k) => (k % 2 === 0 ? value : -value));

/** All of the layout, its handle among it. */
export function flatBox(p: Placements, corners: Float64Array): PlanBox {
  let [x0, z0, x1, z1] = [0, 0, 0, 0];
  for (let i = 0; i < p.count; i++) {
    // What was put on the surface besides lies in no layout.
    if (!isShown(p, i) || Number.isNaN(corners[8 * i])) continue;
    for (let c = 8 * i; c < 8 * i + 8; c += 2) {
      [x0, x1] = [Math.min(x0, corners[c]), Math.max(x1, corners[c])];
      [z0, z1] = [Math.min(z0, corners[c + 1]), Math.max(z1, corners[c + 1])];
    }
  }
  const margin = Math.max(0.1, 0.06 * Math.max(x1 - x0, z1 - z0));
  return [
    [x0 - margin, z0 - margin],
    [x1 + margin, z1 + margin],
  ];
}

/** A place of the sheet in the layout. */
export const toFlat = ([x, z]: readonly [number, number]): FlatPlace => [x, -z];

/** The direction of a surface's own along which something is bent or twisted, and where on it that begins and ends. */
import type { Moving } from "./moving";
import type { Bend } from "./schema";

/** Which coordinates: along, and the two square to it, so that they are right-handed in this order. */
export interface Along {
  axis: 0 | 1 | 2;
  first: 0 | 1 | 2;
  second: 0 | 1 | 2;
}

const AXES: Readonly<Record<Bend["axis"], Along>> = {
  east: { axis: 0, first: 1, second: 2 },
  up: { axis: 1, first: 2, second: 0 },
  south: { axis: 2, first: 0, second: 1 },
};

/** @returns also where it begins and ends, metres, and the middle of the surface's box at rest */
export function spanAlong(
  { axis: name, from, to }: Pick<Bend, "axis" | "from" | "to">,
  { box: { least, most } }: Pick<Moving, "box">,
): Along & { low: number; high: number; middle: readonly number[] } {
  const along = AXES[name];
  const at = (share: number) => least[along.axis] + share * (most[along.axis] - least[along.axis]);
  return {
    ...along,
    low: at(Math.min(from, to)),
    high: at(Math.max(from, to)),
    middle: least.map((low, k) => (low + most[k]) / 2),
  };
}

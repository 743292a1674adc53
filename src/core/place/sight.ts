/**
 * *What the sheet shows of a dressing besides its placements*: how full its fields are, from above and by their UVs, and its
 * flat layout. Worked out of what its placements were made of, and only for the dressing that is looked at.
 *
 *     const { placements, basis } = evaluated(ask, dressing, sources);
 *     const { density } = sightOf(ask, basis, false);
 */
import { bentFootprints, chartMap, footprintsOn } from "./charted";
import { densityMap } from "./gaps/density-map";
import { laidOut, type Laid } from "./laid";
import { freeOf } from "./spacing/over";
import { wrappingOf } from "./spacing/wrapped";
import { step, type Ask } from "../graph";
import type { Placed } from "./compose";
import type { Charted, DensityMap } from "./gaps/maps";
import type { Anchored } from "./hosts";
import type { Dressing } from "./schema";

export interface Sight {
  /** How full what it is spread over is, seen from above; null where it runs along lines. */
  density: DensityMap | null;
  /** The same by the UVs of the surfaces, where that is asked for and all have some. */
  charted: Charted | null;
  /** A patch as its flat layout lies, where that is asked for. */
  laid: Laid | null;
  /** How much of what it is spread over is free for it: square metres, or cubic ones; 0 along lines. */
  free: number;
}

/** What a dressing's placements were made of, as far as {@link sightOf} asks. */
export interface Basis {
  where: Dressing["where"];
  bend: boolean;
  /** At rest, and at the moment. */
  rest: Pick<Anchored, "fields" | "masks">;
  now: Pick<Anchored, "fields" | "slots">;
  placed: Placed;
  /** Middles and halves of the props that slots number: 6 numbers each. */
  boxes: Float64Array;
}

const densityStep = step("density", densityMap);
const chartStep = step("charts", chartMap);
const footprintsStep = step("footprints", footprintsOn);
const bentFootprintsStep = step("footprints of bent things", bentFootprints);
const laidStep = step("laid out", laidOut);
const freeStep = step("free", freeOf);

/** @param flat whether its surfaces are to be laid out by their UVs, and its layout as it lies */
export function sightOf(
  ask: Pick<Ask, "step">,
  { where, bend, rest, now, placed, boxes }: Basis,
  flat: boolean,
): Sight {
  const density = ask.step(densityStep, rest.fields, rest.masks);
  const free = ask.step(freeStep, rest.fields, rest.masks);
  if (!flat) return { density, charted: null, laid: null, free };
  const charts = ask.step(chartStep, rest.fields, rest.masks);
  const { line, prop, spread } = now.slots;
  const laid = spread?.flat ? ask.step(laidStep, spread, placed, prop, boxes) : null;
  const wrapping = laid && bend ? wrappingOf(where) : null;
  const footprints =
    charts &&
    (wrapping && laid && spread
      ? ask.step(bentFootprintsStep, charts, now.fields, wrapping, spread, laid)
      : ask.step(footprintsStep, charts, now.fields, placed, line, prop, boxes));
  return { density, charted: charts && footprints && { ...charts, footprints }, laid, free };
}

/** Its buffers, for handing it to another thread without copying. */
export const buffersOfSight = ({ density, charted, laid }: Sight): ArrayBuffer[] =>
  [
    ...(density ? [density.height, density.share, density.reason] : []),
    ...(charted ? [charted.footprints, charted.share, charted.reason] : []),
    ...(laid ? [laid.at, laid.footprints] : []),
  ].map(({ buffer }) => buffer as ArrayBuffer);

/** The last stage: what there is to show of a dressing besides its placements. */
import { bentFootprints, chartMap, footprintsOn } from "./charted";
import { densityMap } from "./gaps/density-map";
import { laidOut } from "./laid";
import { tornBeside } from "./torn";
import { tintsBetween } from "./variation/variation";
import { step } from "../graph";
import { wrappingOf } from "./spacing/wrapped";
import type { Placed } from "./compose";
import type { Anchored, Remembering } from "./hosts";
import type { Placements } from "./placements";
import type { Dressing } from "./schema";
import type { Sources } from "./sources";
import { isWrapped } from "./where/kinds";
import type { Hold } from "./stance/stance";

const densityStep = step("density", densityMap);
const chartStep = step("charts", chartMap);
const footprintsStep = step("footprints", footprintsOn);
const bentFootprintsStep = step("footprints of bent things", bentFootprints);
const laidStep = step("laid out", laidOut);
const tornStep = step("torn", tornBeside);
const tintsStep = step("tint colours", tintsBetween);
const plainStep = step("plain tints", (count: number) => new Uint8Array(count));

const PLAIN = ["#ffffff"];

export function seen(
  ask: Remembering,
  { variation, where, fit }: Dressing,
  from: Sources,
  { rest: { fields, masks, slots: atRest }, anchored }: { rest: Anchored; anchored: Anchored },
  placed: Placed,
  { boxes }: Hold,
  tint: Uint8Array | null,
): Pick<Placements, "density" | "charted" | "laid" | "torn" | "tint" | "tints"> {
  const charts = from.charted() ? ask.step(chartStep, fields, masks) : null;
  const { line, prop, count, spread } = anchored.slots;
  const laid = from.charted() && spread?.flat ? ask.step(laidStep, spread, placed, prop, boxes) : null;
  const wrapping = laid && fit.bend ? wrappingOf(where) : null;
  return {
    density: ask.step(densityStep, fields, masks),
    charted: charts && {
      ...charts,
      footprints:
        wrapping && laid && spread
          ? ask.step(bentFootprintsStep, charts, anchored.fields, wrapping, spread, laid)
          : ask.step(footprintsStep, charts, anchored.fields, placed, line, prop, boxes),
    },
    laid,
    torn: isWrapped(where) && atRest.spread ? ask.step(tornStep, atRest.spread) : null,
    tint: tint ?? ask.step(plainStep, count),
    tints: variation.tintOn ? ask.step(tintsStep, variation.tintFrom, variation.tintTo) : PLAIN,
  };
}

/** The carriers of flat layouts, by what a Where says. */
import { kindOf } from "../where/kinds";
import { heldAt } from "./held";
import { SheetPlaces, wrappedRound, wrappingOf } from "./wrapped";
import type { Chart } from "../../mesh";
import type { Carrier } from "./carrier";
import type { Where } from "../where/schema";

/** What carries a flat layout to a surface, which is at rest; null where there is no layout. */
export function carrierOn(where: Where, chart: Chart): Carrier | null {
  if (!kindOf(where).laysOut) return null;
  const wrapping = wrappingOf(where);
  return wrapping ? wrappedRound(wrapping, chart) : heldAt(where.patch, chart.ground);
}

/** Where a layout lies on the surface as that is laid flat; null for one that is not wrapped. */
export function sheetPlaces(where: Where, chart: Chart): SheetPlaces | null {
  const wrapping = wrappingOf(where);
  return wrapping && new SheetPlaces(chart, wrapping);
}

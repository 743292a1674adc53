/** The carriers of flat layouts, by what a Where says. */
import { kindOf } from "../where/kinds";
import { heldAt } from "./held";
import { SheetPlaces, wrappedRound } from "./wrapped";
import type { Chart } from "../../mesh";
import type { Carrier } from "./carrier";
import type { Where } from "../where/schema";

/** What carries a flat layout to a surface, which is at rest; null where there is no layout. */
export function carrierOn({ kind, patch, wrap }: Where, chart: Chart): Carrier | null {
  const { laysOut, handled } = kindOf({ kind });
  if (!laysOut) return null;
  return handled ? heldAt(patch, chart.ground) : wrappedRound({ ...wrap, ...patch }, chart);
}

/** Where a wrapped layout lies on the surface as that is laid flat. */
export const sheetPlaces = ({ patch, wrap }: Where, chart: Chart): SheetPlaces =>
  new SheetPlaces(chart, { ...wrap, ...patch });

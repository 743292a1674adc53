/** Where the flat layout of a dressing lies on its surface, as far as the worker has handed that over. */
import type { Vec3 } from "@/core/math";
import {
  carrierOn,
  indicesOf,
  kindOf,
  sheetPlaces,
  type Dressing,
  type FlatPlace,
  type Key,
  type Placements,
  type Sight,
} from "@/core/place";
import { useSceneStore } from "@/store";
import { restChartOf } from "./charted";
import type { Chart } from "@/core/mesh";

/** The chart of the surface that carries a layout, at rest; null while the worker has not handed it over. */
export function chartUnder({ where }: Dressing): Chart | null {
  const surface = useSceneStore.getState().shown.surfaces.find(({ id }) => id === where.surfaces[0]);
  return kindOf(where).laysOut && surface ? restChartOf(surface) : null;
}

const round = (metres: number): number => Math.round(1e4 * metres) / 1e4 + 0;

/** Where placements are in their layout, by their keys, as far as they lie in it. */
export function placesLaid(
  { key }: Pick<Placements, "key">,
  laid: Sight["laid"],
  keys: ReadonlySet<Key>,
): Map<Key, FlatPlace> {
  const places = new Map<Key, FlatPlace>();
  if (!laid) return places;
  for (const i of indicesOf(key, keys)) {
    const [x, y] = [laid.at[2 * i], laid.at[2 * i + 1]];
    if (!Number.isNaN(x)) places.set(key[i], [x, y]);
  }
  return places;
}

/**
 * Which place of a dressing's layout lies at a point of its surface; null where that is not known.
 *
 * @param own the point in the surface's own coordinates, at rest
 * @param near about where in the layout it is looked for
 */
export function flatPlaceAt(dressing: Dressing, own: Vec3, near: FlatPlace = [0, 0]): FlatPlace | null {
  const chart = chartUnder(dressing);
  const carrier = chart && carrierOn(dressing.where, chart);
  if (!chart || !carrier) return null;
  const size = chart.ground.stand?.scale ?? 1;
  const at = chart.ground.toWorld(own.map((metres) => size * metres) as unknown as Vec3);
  const found = carrier.find(at, near);
  return found && [round(found[0]), round(found[1])];
}

/** Where a place of a wrapped layout comes to when it is moved on the surface's sheet: to the right and downwards. */
export function movedOnSheet(dressing: Dressing, place: FlatPlace, [x, y]: readonly [number, number]): FlatPlace {
  const chart = chartUnder(dressing);
  const sheet = chart && sheetPlaces(dressing.where, chart);
  if (!sheet) return place;
  const at = sheet.toSheet(...place);
  const [right, ahead] = sheet.toLayout(at[0] + x, at[1] + y, place);
  return [round(right), round(ahead)];
}

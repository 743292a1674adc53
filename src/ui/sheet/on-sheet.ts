/** *What lies at a place of the sheet, and what is done there*: from above, on charts and in flat layouts alike. */
import { subtract, type Vec3 } from "@/core/math";
import {
  isWrapped,
  kindOf,
  densityAt,
  type Dressing,
  type Fullness,
  type FlatPlace,
  type Key,
  type DensityMap,
} from "@/core/place";
import type { Scene } from "@/core/scene";
import { addFlat, addOutlineShape, fieldOf, millimetre, movedOnSheet, placesLaid, writeFlatMoved } from "../state";
import { paintClearing, addPlacementAt, movePlacements, type HeldPlacements } from "../view";
import type { SheetScene } from "./sheet-scene";
import { toFlat } from "./flat";
import { isShown, middleOf, placementAt } from "./model";
import type { Draft } from "immer";

export type Place = readonly [x: number, z: number];

/** What is shown. */
interface Shown {
  dressing: Dressing;
  scene: SheetScene;
}

/** Where things are in the flat layout, if that is what is shown, or lies on the chart that is. */
export function flatOf({ dressing, scene }: Shown, keys: ReadonlySet<Key>): ReadonlyMap<Key, FlatPlace> | null {
  const shown = scene.flat || (scene.charts && isWrapped(dressing.where));
  return shown ? placesLaid(scene.placements, scene.sight?.laid ?? null, keys) : null;
}

/** The place on the ground, as far as its height is known; null beside the charts of surfaces. */
export function onGround({ charts, flat, sight }: SheetScene, [x, z]: Place): Vec3 | null {
  if (charts) return charts.toWorld(x, z)?.point ?? null;
  // Of a layout alone nobody knows where on its surface a place lies that is not one of its own.
  if (flat) return null;
  return [x, heightAt(sight?.density, x, z) ?? 0, z];
}

/** The field that the placement nearest to a place stands on: of several, the one that is worked on there. */
export function fieldAt({ placements: p, corners, charts }: SheetScene, [x, z]: Place): string | null {
  if (charts) return charts.toWorld(x, z)?.field ?? null;
  const near = p.fields.length > 1 ? placementAt(p, corners, x, z, Infinity) : -1;
  return near < 0 ? (p.fields[0] ?? null) : p.fields[p.line[near]];
}

/** How full it is at a place, and why. */
export function fullAt({ charts, flat, sight }: SheetScene, at: Place): Fullness | null {
  if (flat) return null;
  if (charts) return charts.fullAt(...at);
  return sight?.density ? densityAt(sight.density, at[0], at[1]) : null;
}

/** Moves placements in their flat layout, or over the ground: each to the height that it has where it comes to. */
export function moveOnSheet(
  draft: Draft<Scene>,
  { scene, dressing }: Shown,
  held: HeldPlacements,
  flat: ReadonlyMap<Key, FlatPlace> | null,
  [x, z]: Place,
): void {
  const { charts } = scene;
  if (flat) {
    const [right, ahead] = toFlat([x, z]);
    return writeFlatMoved(draft, dressing.id, flat, (place) =>
      charts ? movedOnSheet(dressing, place, [x, z]) : [place[0] + right, place[1] + ahead],
    );
  }
  if (charts) {
    const target = (from: Vec3, key: Key): Vec3 | null => {
      const field = fieldOf(dressing, key);
      const at = field === null ? null : charts.toSheet(field, from);
      const to = at && charts.toWorld(at[0] + x, at[1] + z);
      return to && to.field === field ? to.point : null;
    };
    return movePlacements(draft, held, (from, key) => subtract(target(from, key) ?? from, from));
  }
  const map = scene.sight?.density;
  const lift = (from: Vec3): number => {
    const [before, after] = [heightAt(map, from[0], from[2]), heightAt(map, from[0] + x, from[2] + z)];
    return before === null || after === null ? 0 : after - before;
  };
  movePlacements(draft, held, (from) => [x, lift(from), z]);
}

/** Puts down one more of a dressing's first prop. */
export function addAt({ dressing, scene }: Shown, at: Place): void {
  const prop = dressing.what.entries.find((entry) => entry.prop !== null)?.prop;
  if (scene.flat) return prop ? addFlat(dressing.id, toFlat(at), prop) : undefined;
  const point = onGround(scene, at);
  if (!point) return;
  if (scene.charts) return void addPlacementAt(point, fieldAt(scene, at) ?? undefined);
  const [x, y, z] = point;
  // In a volume as high as what there is, on average.
  const inside = !kindOf(dressing.where).onSurfaces;
  addPlacementAt(inside ? [x, millimetre(middleHeight(scene.placements)), z] : [x, y, z]);
}

/** Holds a clearing open: as an outline on the ground, painted on a chart. */
export function holdOpen({ id }: Dressing, scene: SheetScene, middle: Place, radius: number): void {
  if (scene.charts) {
    const place = scene.charts.toWorld(...middle);
    // Seen from above a place on a chart may be no place at all.
    if (place) paintClearing(id, place.field, place.point, millimetre(radius));
    return;
  }
  const [x, z] = middle.map(millimetre);
  const y = millimetre(heightAt(scene.sight?.density, x, z) ?? 0);
  addOutlineShape("circle", [x, y, z], { dressing: id, list: "holes" }, { radius: millimetre(radius) });
}

/** The placements whose middles lie in a box. */
export function keysWithin({ placements: p, corners }: SheetScene, { from, to }: { from: Place; to: Place }): Key[] {
  const inside = (v: number, a: number, b: number) => v >= Math.min(a, b) && v <= Math.max(a, b);
  const keys: Key[] = [];
  for (let i = 0; i < p.count; i++) {
    const [x, z] = middleOf(corners, i);
    if (isShown(p, i) && inside(x, from[0], to[0]) && inside(z, from[1], to[1])) keys.push(p.key[i]);
  }
  return keys;
}

/** The placement that is next in a direction, or the one nearest to a place where none is selected; -1 for none. */
export function nearestTowards(
  { placements: p, corners }: SheetScene,
  from: number,
  place: Place,
  way: readonly number[],
): number {
  const [x, z] = from >= 0 ? middleOf(corners, from) : place;
  let best = -1;
  let least = Infinity;
  for (let i = 0; i < p.count; i++) {
    if (i === from || !isShown(p, i)) continue;
    const [mx, mz] = middleOf(corners, i);
    const along = (mx - x) * way[0] + (mz - z) * way[1];
    const aside = Math.abs((mx - x) * way[1]) + Math.abs((mz - z) * way[0]);
    if (from >= 0 && (along <= 1e-6 || aside > along)) continue;
    const far = Math.hypot(mx - x, mz - z);
    if (far < least) [least, best] = [far, i];
  }
  return best;
}

function middleHeight({ origin, position, count }: SheetScene["placements"]): number {
  let sum = 0;
  for (let i = 0; i < count; i++) sum += position[3 * i + 1];
  return origin[1] + (count > 0 ? sum / count : 0);
}

/** How high the ground lies, as far as the map says. */
function heightAt(map: DensityMap | null | undefined, x: number, z: number): number | null {
  if (!map) return null;
  const column = Math.floor(((x - map.least[0]) / (map.most[0] - map.least[0])) * map.columns);
  const row = Math.floor(((z - map.least[1]) / (map.most[1] - map.least[1])) * map.rows);
  if (!(column >= 0 && column < map.columns && row >= 0 && row < map.rows)) return null;
  const height = map.height[row * map.columns + column];
  return Number.isNaN(height) ? null : height;
}

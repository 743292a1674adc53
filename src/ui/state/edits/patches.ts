/** What an artist does to flat layouts: those held to a surface at a handle, and those wrapped round one. */
import { fromStand, intoOwn } from "@/core/mesh";
import { addedKey, HANDLE, hexOf, nextAdded, type Dressing, type FlatPlace, type Key } from "@/core/place";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { tieOfPeg, type Scene } from "@/core/scene";
import { carriedPoint, type Tie } from "@/core/tie";
import { drawnLine } from "../guides";
import { selectPlacements } from "../session";
import { dressingOf, editDressing, inField, millimetre, store } from "./common";
import { addDressing, overFields } from "./dressings";
import { writePegs } from "./pegs";
import type { Draft } from "immer";

/** A new dressing of a patch on a surface, its handle at a point of the surface's own, metres. */
export function dressPatch(surface: string, prop: string, handle: Vec3): void {
  const begun = overFields({ surfaces: [surface] }, 1, prop);
  const { distance } = begun.spacing;
  const { patch } = begun.where;
  addDressing({
    ...begun,
    where: {
      ...begun.where,
      kind: "patch",
      patch: { ...patch, handle, layout: { ...patch.layout, across: distance, along: distance } },
    },
    stance: { ...begun.stance, up: "normal", upBy: 1 },
  });
}

/** A new dressing wrapped round a surface: rows all over it, as far apart as the prop is large. */
export function dressWrapped(surface: string, prop: string): void {
  const begun = overFields({ surfaces: [surface] }, 1, prop);
  const { distance } = begun.spacing;
  const { patch } = begun.where;
  const layout = { ...patch.layout, by: "distance" as const, across: distance, along: distance };
  addDressing({
    ...begun,
    where: { ...begun.where, kind: "wrapped", patch: { ...patch, layout } },
    stance: { ...begun.stance, up: "normal", upBy: 1 },
  });
}

/** A patch's handle in its surface's own coordinates, where what it is tied to has taken it. */
export function seenHandle({ surfaces }: Pick<Scene, "surfaces">, { id, where }: Dressing): Vec3 {
  const { handle } = where.patch;
  const by = store().carries.get(tieOfPeg(id, HANDLE));
  const surface = by && surfaces.find((one) => one.id === where.surfaces[0]);
  return surface ? intoOwn(surface, carriedPoint(by, fromStand(surface, handle))) : handle;
}

/** Writes a patch's handle as it is typed, or where it is seen; it is tied to nothing then. */
export function writeFreeHandle(draft: Draft<Scene>, id: string, axis: number, value: number): void {
  const dressing = dressingOf(draft, id);
  if (!dressing) return;
  const seen = seenHandle(draft as Scene, dressing as Dressing);
  dressing.where.patch.handle = seen.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  dressing.where.patch.tied = null;
}

/** Lets a patch's handle go where it is. */
export const letHandleGo = (id: string): void =>
  store().change("Let patch go", (draft) => writeFreeHandle(draft, id, -1, 0));

/** Writes where the handle of a patch has been dragged to: a point as it is seen, in the world. */
export function writeHandleOfPatch(draft: Draft<Scene>, id: string, point: Vec3, tie: Tie | null = null): void {
  const dressing = dressingOf(draft, id);
  if (!dressing) return;
  dressing.where.patch.handle = inField(draft, dressing.where.surfaces[0], point);
  dressing.where.patch.tied = tie as Draft<Tie> | null;
}

/**
 * Another surface carries the layout from now on; what was done to it by hand goes along.
 *
 * @param sheet how large the surface lies that carried it until now, metres; null where that is not known
 */
export function carryLayout(id: string, surface: string, sheet: readonly [wide: number, high: number] | null): void {
  editDressing(id, "Surface of layout", ({ where, pegs }) => {
    // It stays known how large the sheet was that it was laid out for.
    if (sheet && where.wrap.wide === 0 && where.wrap.high === 0)
      [where.wrap.wide, where.wrap.high] = sheet.map(millimetre);
    where.surfaces = [surface];
    for (const peg of Object.values(pegs)) peg.on = surface;
  });
}

/** Moves places of a layout, each from where it was. */
export function writeFlatMoved(
  draft: Draft<Scene>,
  id: string,
  from: ReadonlyMap<Key, FlatPlace>,
  moved: (place: FlatPlace) => FlatPlace,
): void {
  const dressing = dressingOf(draft, id);
  if (!dressing) return;
  writePegs(dressing, from.keys(), (peg, key) => {
    peg.flat = moved(from.get(key)!).map(millimetre) as [number, number];
    delete peg.point;
  });
}

/** Adds a place to the layout of a patch, and selects it. */
export function addFlat(id: string, [right, ahead]: FlatPlace, prop: string): void {
  let key: Key | null = null;
  editDressing(id, "Add placement", (dressing) => {
    const [on] = dressing.where.surfaces;
    if (on === undefined) return;
    key = addedKey(nextAdded(dressing.pegs, () => true));
    dressing.pegs[hexOf(key)] = { on, flat: [millimetre(right), millimetre(ahead)], prop, added: true };
  });
  if (key !== null) selectPlacements(id, [key]);
}

/** The middle of the box about outlines, seen from above. */
export function middleOf(outlines: readonly Line[]): [x: number, z: number] {
  const points = outlines.flatMap((line) => drawnLine(line).points);
  if (points.length === 0) return [0, 0];
  const between = (values: number[]) =>
    millimetre((values.reduce((a, b) => Math.min(a, b)) + values.reduce((a, b) => Math.max(a, b))) / 2);
  return [between(points.map(([x]) => x)), between(points.map(([, , z]) => z))];
}

/** So many places may be typed. */
const MOST = 10_000;

/** Takes places as they are typed, “right, ahead; right, ahead; …”; gives what is wrong with them, or null. */
export function writePlaces(id: string, text: string): string | null {
  const pairs = text.split(/[;\n]/).filter((part) => part.trim() !== "");
  if (pairs.length > MOST) return `No more than ${MOST.toLocaleString("en")} places can be typed.`;
  const places: Dressing["where"]["patch"]["layout"]["places"] = [];
  for (const [i, pair] of pairs.entries()) {
    const numbers = pair.split(",").map((part) => (part.trim() === "" ? NaN : Number(part)));
    if (numbers.length !== 2 || !numbers.every((value) => Number.isFinite(value) && Math.abs(value) < 1e6))
      return `“${pair.trim().slice(0, 40)}” is no place: write two numbers, right and ahead.`;
    places.push({ id: i, at: [numbers[0], numbers[1]] });
  }
  editDressing(id, "Places of patch", ({ where }) => void (where.patch.layout.places = places as Draft<typeof places>));
  return null;
}

/** What an artist does to patches: flat layouts that are held to a surface at a handle. */
import { addedKey, hexOf, nextAdded, type Dressing, type Key } from "@/core/place";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import type { Scene } from "@/core/scene";
import { drawnLine } from "../guides";
import { selectPlacements } from "../session";
import { dressingOf, editDressing, inField, millimetre } from "./common";
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

/** Writes where the handle of a patch has been dragged to: a point as it is seen, in the world. */
export function writeHandleOfPatch(draft: Draft<Scene>, id: string, point: Vec3): void {
  const dressing = dressingOf(draft, id);
  if (dressing) dressing.where.patch.handle = inField(draft, dressing.where.surfaces[0], point);
}

/** Another surface carries the patch from now on; what was done to it by hand goes along. */
export function carryPatch(id: string, surface: string): void {
  editDressing(id, "Surface of patch", ({ where, pegs }) => {
    where.surfaces = [surface];
    for (const peg of Object.values(pegs)) peg.on = surface;
  });
}

/** A place of a flat layout, to the right and ahead, metres. */
export type FlatPlace = readonly [right: number, ahead: number];

/** Moves places of a patch in its layout, each by so much from where it was. */
export function writeFlatMoved(
  draft: Draft<Scene>,
  id: string,
  from: ReadonlyMap<Key, FlatPlace>,
  [right, ahead]: FlatPlace,
): void {
  const dressing = dressingOf(draft, id);
  if (!dressing) return;
  writePegs(dressing, from.keys(), (peg, key) => {
    const [x, y] = from.get(key)!;
    peg.flat = [millimetre(x + right), millimetre(y + ahead)];
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

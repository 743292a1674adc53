/** What an artist does to patches: flat layouts that are held to a surface at a handle. */
import { type Dressing } from "@/core/place";
import type { Vec3 } from "@/core/math";
import type { Scene } from "@/core/scene";
import { dressingOf, editDressing, inField } from "./common";
import { addDressing, overFields } from "./dressings";
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

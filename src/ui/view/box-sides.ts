/** The six sides of a box that is in focus, each of which can be pulled out or pushed in. */
import { add, rotate, scale, subtract, type Vec3 } from "@/core/math";
import { fromStand } from "@/core/mesh";
import type { Surface } from "@/core/scene";
import { millimetre } from "../state";
import type { Draft } from "immer";

export interface BoxSide {
  /** The middle of the side in the world, metres. */
  middle: Vec3;
  /** The unit direction that it faces. */
  way: Vec3;
  name: "width" | "height" | "depth";
  /** Whether it is the bottom, on which the box stands. */
  bottom: boolean;
}

const SIDES = [
  { name: "width", way: [1, 0, 0] },
  { name: "width", way: [-1, 0, 0] },
  { name: "height", way: [0, 1, 0] },
  { name: "height", way: [0, -1, 0] },
  { name: "depth", way: [0, 0, 1] },
  { name: "depth", way: [0, 0, -1] },
] as const;

/** The smallest box that can be pulled, metres. */
const LEAST = 0.01;

/** None where it is no box, or may not be changed by hand. */
export function boxSides(surface: Surface): BoxSide[] {
  const { made, locked } = surface;
  if (made?.kind !== "box" || locked) return [];
  const { width, height, depth } = made;
  return SIDES.map(({ name, way }) => {
    const own: Vec3 = [(way[0] * width) / 2, ((way[1] + 1) * height) / 2, (way[2] * depth) / 2];
    const bottom = way[1] < 0;
    return { middle: fromStand(surface, own), way: rotate(surface.rotation, way), name, bottom };
  });
}

/** Pulls a side so far out; the one across from it stays where it is. */
export function pullSide(draft: Draft<Surface>, from: Surface, { name, way, bottom }: BoxSide, by: number): void {
  if (draft.made?.kind !== "box" || from.made?.kind !== "box") return;
  const before = from.made[name];
  const now = Math.max(LEAST, millimetre(before + by / from.scale));
  draft.made[name] = now;
  const grown = (now - before) * from.scale;
  // A box stands on the middle of its bottom.
  const share = name === "height" ? (bottom ? 1 : 0) : 0.5;
  draft.position = add(from.position, scale(way, share * grown)).map(millimetre) as [number, number, number];
}

/** How far a point lies out from a side. */
export const beyondSide = ({ middle, way }: BoxSide, point: Vec3): number =>
  subtract(point, middle).reduce((sum, value, k) => sum + value * way[k], 0);

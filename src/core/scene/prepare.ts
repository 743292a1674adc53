/** How a prop is prepared once, for all that uses it: which way it faces, its real size, its pivot, its footprint. */
import { z } from "zod";
import { cross, dot, scale, subtract, type Vec3 } from "../math";
import { choiceParam, plainParam, vec3Schema, within, FARTHEST } from "../schema";
import type { PropBounds } from "../mesh";
import { snapPointsSchema } from "./snap-schema";

const DIRECTIONS: Readonly<Record<Direction, Vec3>> = {
  "+x": [1, 0, 0],
  "-x": [-1, 0, 0],
  "+y": [0, 1, 0],
  "-y": [0, -1, 0],
  "+z": [0, 0, 1],
  "-z": [0, 0, -1],
};
const directionSchema = z.enum(["+x", "-x", "+y", "-y", "+z", "-z"]);
export type Direction = z.infer<typeof directionSchema>;

export const preparationSchema = z
  .object({
    /** Which of its file's directions is the prop's front, and which leads up. */
    front: directionSchema.default("+z"),
    up: directionSchema.default("+y"),
    size: plainParam({
      label: "Size",
      help: "How many times as large as in its file the prop is.",
      default: 1,
      above: 0,
      slider: [0.1, 10],
    }),
    pivot: choiceParam({
      label: "Pivot",
      help: "The point that a prop is placed by and turned about.",
      default: "made",
      choices: { made: "As made", bottom: "Bottom", centre: "Centre", top: "Top", point: "Picked" },
    }),
    /** The picked pivot, in the file's own coordinates. */
    point: vec3Schema.default([0, 0, 0]),
    /** Breadth and depth that count where props are spaced and kept clear, if they differ from the prop's own; metres. */
    footprint: z
      .tuple([within(FARTHEST).positive(), within(FARTHEST).positive()])
      .nullable()
      .default(null),
    /** Named places that other things catch on. */
    snaps: snapPointsSchema,
    /** The artist has said that its size and how it lies are as they should be. */
    asMeant: z.boolean().default(false),
  })
  .refine(({ front, up }) => front[1] !== up[1], { error: "front and up lie along the same axis" });

export type Preparation = z.infer<typeof preparationSchema>;

/** What has a file's box and a preparation: a prop. */
export interface Prepared {
  bounds: PropBounds;
  prepared: Preparation;
}

/** The file's directions that become left (+X), up (+Y) and front (+Z). */
function axesOf({ front, up }: Preparation): [left: Vec3, up: Vec3, front: Vec3] {
  const [u, f] = [DIRECTIONS[up], DIRECTIONS[front]];
  return [cross(u, f), u, f];
}

const along = (axes: readonly Vec3[], v: Vec3): Vec3 => [dot(axes[0], v), dot(axes[1], v), dot(axes[2], v)];

/** A direction of the file as the prop has it. */
export const turnedInto = (prepared: Preparation, v: Vec3): Vec3 => along(axesOf(prepared), v);

/** The file's box, turned and sized, before the pivot comes to the origin. */
function turnedBox({ bounds, prepared }: Prepared): PropBounds {
  const axes = axesOf(prepared);
  const corners = [bounds.min, bounds.max].map((corner) => scale(along(axes, corner), prepared.size));
  const end = (pick: (...values: number[]) => number): Vec3 => [
    pick(corners[0][0], corners[1][0]),
    pick(corners[0][1], corners[1][1]),
    pick(corners[0][2], corners[1][2]),
  ];
  return { min: end(Math.min), max: end(Math.max) };
}

function pivotOf(prop: Prepared): Vec3 {
  const { pivot, point, size } = prop.prepared;
  if (pivot === "made") return [0, 0, 0];
  if (pivot === "point") return scale(turnedInto(prop.prepared, point), size);
  const { min, max } = turnedBox(prop);
  const height = { bottom: min[1], centre: (min[1] + max[1]) / 2, top: max[1] }[pivot];
  return [(min[0] + max[0]) / 2, height, (min[2] + max[2]) / 2];
}

/** The matrix from the file's coordinates to the prop's: 12 numbers, rows first. */
export function preparationMatrix(prop: Prepared): number[] {
  const pivot = pivotOf(prop);
  return axesOf(prop.prepared).flatMap((axis, k) => [...scale(axis, prop.prepared.size), 0 - pivot[k]]);
}

/** A place of the file as the prop has it, metres. */
export const intoPrepared = (prop: Prepared, point: Vec3): Vec3 =>
  subtract(scale(turnedInto(prop.prepared, point), prop.prepared.size), pivotOf(prop));

/** The box that holds the prop as it is prepared, in its own coordinates. */
export function preparedBounds(prop: Prepared): PropBounds {
  const { min, max } = turnedBox(prop);
  const pivot = pivotOf(prop);
  return { min: subtract(min, pivot), max: subtract(max, pivot) };
}

/** The same box with the prop's footprint instead of its own breadth and depth, where it has one: what placing goes by. */
export function placingBounds(prop: Prepared): PropBounds {
  const { footprint } = prop.prepared;
  const box = preparedBounds(prop);
  if (!footprint) return box;
  const [x, z] = [(box.min[0] + box.max[0]) / 2, (box.min[2] + box.max[2]) / 2];
  const [breadth, depth] = footprint;
  return {
    min: [x - breadth / 2, box.min[1], z - depth / 2],
    max: [x + breadth / 2, box.max[1], z + depth / 2],
  };
}

/** One quarter step about a direction of the prop, which afterwards faces and stands the other way. */
export function turnedByQuarter(prepared: Preparation, about: "up" | "front" | "left"): Preparation {
  const [left, up, front] = axesOf(prepared);
  // The right hand's thumb along the axis, the prop turns with the fingers; so what was left of it may come to the front.
  const next = {
    up: { front: scale(left, -1), up },
    front: { front, up: left },
    left: { front: up, up: scale(front, -1) },
  }[about];
  return { ...prepared, front: nameOf(next.front), up: nameOf(next.up) };
}

const nameOf = (v: Vec3): Direction =>
  (Object.keys(DIRECTIONS) as Direction[]).find((name) => dot(DIRECTIONS[name], v) > 0.5)!;

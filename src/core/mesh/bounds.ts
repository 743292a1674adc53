/** The box that holds a prop, in its own coordinates and metres. */
import { z } from "zod";
import { vec3Schema } from "../schema";

export const boundsSchema = z
  .object({ min: vec3Schema, max: vec3Schema })
  .refine(({ min, max }) => min.every((low, axis) => low <= max[axis]), {
    error: "the box's lower corner lies above its upper one",
  });

export type PropBounds = z.infer<typeof boundsSchema>;

/** The extents of a box along x, y and z in metres. */
export const sizeOf = ({ min, max }: PropBounds): [number, number, number] => [
  max[0] - min[0],
  max[1] - min[1],
  max[2] - min[2],
];

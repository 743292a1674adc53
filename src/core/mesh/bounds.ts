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

/** The box of some places (3n); of none a point at the origin. */
export function boxOfPlaces(places: ArrayLike<number>): PropBounds {
  if (places.length === 0) return { min: [0, 0, 0], max: [0, 0, 0] };
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let c = 0; c < places.length; c++) {
    const axis = c % 3;
    if (places[c] < min[axis]) min[axis] = places[c];
    if (places[c] > max[axis]) max[axis] = places[c];
  }
  return { min, max };
}

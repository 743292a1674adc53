/** What was sown by hand: a packed block of places a stroke, so that a hundred thousand are kept as easily as ten. */
import { z } from "zod";
import { MAX_LINE_NUMBER } from "../../line";
import { hostIdSchema, vec3Schema } from "../../schema";
import { PLACE } from "./packed";

/** So many places all strokes of a dressing have together, and so many strokes there are. */
export const MOST_SOWN = 1_000_000;
export const MOST_STROKES = 20_000;

export const sowingSchema = z.object({
  /** Tells it from the others of its dressing, and never changes. */
  number: z.number().int().min(1).max(MAX_LINE_NUMBER),
  /** The surface that it lies on; for what is loose, none. */
  on: hostIdSchema,
  /** Where its places count from, in the surface's own coordinates at rest, metres. */
  from: vec3Schema,
  /** Three float32 numbers a place, the lowest byte first, in base64; NaN where one has been gathered. */
  places: z
    .string()
    .max(PLACE * MOST_SOWN)
    .regex(/^[A-Za-z0-9+/]*$/, "places are base64")
    .refine((text) => text.length % PLACE === 0, "a place is 16 characters"),
});
export type Sowing = z.infer<typeof sowingSchema>;

export const sownSchema = z
  .array(sowingSchema)
  .max(MOST_STROKES)
  .default([])
  .refine((sown) => new Set(sown.map(({ number }) => number)).size === sown.length, "two strokes have the same number")
  .refine((sown) => sown.reduce((sum, { places }) => sum + places.length, 0) <= PLACE * MOST_SOWN, {
    error: `at most ${MOST_SOWN.toLocaleString("en")} sown places`,
  });

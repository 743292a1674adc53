/** *Snap points*: named places of a prop, with a direction, that other things catch on and hang by. */
import { z } from "zod";
import { nameSchema, numbered, numberSchema, vec3Schema } from "../schema";
import { lengthOf } from "../math";

export const MOST_SNAP_POINTS = 200;

export const snapPointSchema = z.object({
  /** The snap point's own number on its prop. */
  id: numberSchema.optional(),
  name: nameSchema,
  /** In the file's own coordinates, metres. */
  position: vec3Schema,
  /** Where it points to, in the file's own directions; of any length but none. */
  direction: vec3Schema.refine((v) => lengthOf(v) > 1e-9, { error: "a direction points somewhere" }).default([0, 1, 0]),
  /** Whether what hangs there turns freely about the direction; otherwise it goes in quarter turns. */
  free: z.boolean().default(true),
});

/** A prop's own snap points, no two of one name. */
export const snapPointsSchema = numbered(z.array(snapPointSchema).max(MOST_SNAP_POINTS))
  .superRefine((all, context) => {
    const seen = new Set<string>();
    all.forEach(({ name }, i) => {
      if (seen.has(name))
        context.addIssue({ code: "custom", path: [i, "name"], message: `“${name}” is another snap point's name` });
      seen.add(name);
    });
  })
  .default([]);

/** A snap point as the artist set it. */
export type OwnSnapPoint = z.infer<typeof snapPointsSchema>[number];

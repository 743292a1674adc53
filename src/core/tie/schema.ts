/** *Ties*: what holds something, and how it stood when it took hold. */
import { z } from "zod";
import { idSchema, vec3Schema, within } from "../schema";

const rotationSchema = z.tuple([within(2), within(2), within(2), within(2)]).readonly();

export const tieSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("surface"),
    surface: idSchema,
    /** The place on it, in the coordinates of its file, metres: the nearest one where there is none. */
    at: vec3Schema,
    /** Where the surface stood then. */
    stood: z.object({ position: vec3Schema, rotation: rotationSchema, scale: within(1_000_000).positive() }),
  }),
  z.object({
    kind: z.literal("placement"),
    dressing: idSchema,
    /** As files write it. */
    key: z.string().regex(/^[0-9a-f]{1,16}$/, "a key is written in hexadecimal"),
    /** Where the placement stood then. */
    stood: z.object({ position: vec3Schema, rotation: rotationSchema }),
  }),
]);

export type Tie = z.infer<typeof tieSchema>;

/** The id of the surface or dressing that holds. */
export const holderOf = (tie: Tie): string => (tie.kind === "surface" ? tie.surface : tie.dressing);

/** *Ties*: what holds something, and how it stood when it took hold. */
import { z } from "zod";
import { idSchema, vec3Schema, within } from "../schema";

const rotationSchema = z.tuple([within(2), within(2), within(2), within(2)]).readonly();

const standSchema = z.object({ position: vec3Schema, rotation: rotationSchema });

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
    /** The snap point of its prop that holds; left out where it is the prop as one piece. */
    snap: z.string().trim().min(1).max(120).optional(),
    /** Where the placement, or its snap point, stood then. */
    stood: standSchema,
  }),
  z.object({
    kind: z.literal("line"),
    line: idSchema,
    /** Which member of a family that lies between pairs. */
    member: z.string().min(1).max(80).optional(),
    /** A knot by its own number, a mark counted from the start, or an end: 0 for the start, 1 for the other. */
    at: z.object({
      by: z.enum(["knot", "mark", "end"]),
      number: z
        .number()
        .int()
        .min(0)
        .max(2 ** 28),
    }),
    /** Where the place on the line stood then, and how the line ran. */
    stood: standSchema,
  }),
]);

export type Tie = z.infer<typeof tieSchema>;

/** A place of a line that something can be tied to. */
export type LinePlace = Extract<Tie, { kind: "line" }>["at"];

/** The id of the surface, dressing or line that holds. */
export const holderOf = (tie: Tie): string =>
  tie.kind === "surface" ? tie.surface : tie.kind === "line" ? tie.line : tie.dressing;

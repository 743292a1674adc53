/** The Zod schemas of lines: what all kinds share, and one schema for each kind. */
import { z } from "zod";
import { choiceParam, idSchema, lengthParam, nameSchema, vec3Schema } from "../scene/param";

/** How many bits of a placement's key are the line's number; see `place/slots.ts`. */
export const LINE_NUMBER_BITS = 12;

export const knotSchema = z.object({ position: vec3Schema });

const shared = {
  id: idSchema,
  /** The line's own number in the scene. It is part of its placements' keys, so it never changes. */
  number: z
    .number()
    .int()
    .min(1)
    .max(2 ** LINE_NUMBER_BITS - 1),
  name: nameSchema,
  knots: z.array(knotSchema).min(1).max(100_000),
};

const closed = z.boolean().default(false).meta({ label: "Closed", help: "The last knot is joined to the first." });

export const polylineSchema = z.object({ ...shared, kind: z.literal("polyline"), closed });

export const smoothSchema = z.object({ ...shared, kind: z.literal("smooth"), closed });

export const hangingSchema = z.object({
  ...shared,
  kind: z.literal("hanging"),
  by: choiceParam({
    label: "Hangs by",
    help: "Whether the rope is described by how deep it hangs or by how long it is.",
    default: "sag",
    choices: { sag: "Sag", length: "Length" },
  }),
  sag: lengthParam({
    label: "Sag",
    help: "How far the rope hangs below the straight line between two neighbouring knots, at its deepest.",
    default: 0.5,
    min: 0,
    slider: [0, 5],
  }),
  length: lengthParam({
    label: "Length",
    help: "The length of the whole rope, shared among the knots by their distances. A rope that is too short is drawn taut.",
    default: 5,
    above: 0,
    slider: [0.1, 50],
  }),
});

export const lineSchema = z.discriminatedUnion("kind", [polylineSchema, smoothSchema, hangingSchema]);

export type Knot = z.infer<typeof knotSchema>;
export type Polyline = z.infer<typeof polylineSchema>;
export type SmoothLine = z.infer<typeof smoothSchema>;
export type HangingRope = z.infer<typeof hangingSchema>;
export type Line = z.infer<typeof lineSchema>;
export type LineKind = Line["kind"];

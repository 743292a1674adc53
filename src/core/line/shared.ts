/** What the schemas of all kinds of line share: knots, how a line is laid onto surfaces, how it is divided. */
import { z } from "zod";
import {
  angleParam,
  choiceParam,
  idSchema,
  lengthParam,
  nameSchema,
  numbered,
  numberSchema,
  plainParam,
  switchParam,
  vec3Schema,
  wholeParam,
  within,
  FARTHEST,
} from "../schema";
import { tieSchema } from "../tie";
import { coursesSchema } from "../course";

/** Lines' numbers are below this; see `place/keys.ts`. */
export const MAX_LINE_NUMBER = 2 ** 20 - 1;

export const knotSchema = z.object({
  /** The knot's own number on its line; its corner is known by it. */
  id: numberSchema.optional(),
  position: vec3Schema,
  /** A polyline's corner radius at this knot, where it differs from the line's, in metres. */
  radius: within(FARTHEST).min(0).optional(),
  /** A smooth line turns here at once instead of gently. */
  corner: z.boolean().optional(),
  /**
   * A Bézier line's handles, in metres from the knot: back towards the knot before and on towards the next. Smooth: on one
   * line through the knot, each with its own length. Corner: none. Free: each for itself. Without any, they suit the
   * neighbouring knots.
   */
  join: z.enum(["smooth", "corner", "free"]).optional(),
  before: vec3Schema.optional(),
  after: vec3Schema.optional(),
  /**
   * The Bézier span from here on is a piece of an ellipse that goes round by so many radians, as long as its handles are
   * those of one.
   */
  sweep: within(2 * Math.PI)
    .positive()
    .optional(),
  /** Turns the line's frame here by so many radians about its direction; in between it goes from one to the next. */
  roll: within(1_000_000).optional(),
  /** What the knot goes along with. */
  held: tieSchema.optional(),
  /** A word for the span from here to the next knot. */
  tag: z.string().trim().min(1).max(40).optional(),
});

/** How a line is laid onto surfaces; see `core/lay`. */
const ontoSurfaceSchema = z.object({
  kind: z.literal("surface"),
  /** Ids of the surfaces; none for all that are ground. */
  on: z.array(idSchema).max(1000).default([]),
  way: choiceParam({
    label: "Laid",
    help: "Straight down or up, whichever is nearer; along a direction or against it; or to the nearest place of the surface.",
    default: "down",
    choices: { down: "Down", axis: "Direction", nearest: "Nearest" },
  }),
  /** For a direction: where it points, metres. */
  axis: vec3Schema.default([0, 0, -1]),
  how: choiceParam({
    label: "Follows",
    help: "Densely: all of the line lies on the surface. Knots: only its knots do, and between them it is as it is. On its sheet: it runs through them as it would on the surface laid flat, so that what is straight there goes round it evenly.",
    default: "densely",
    choices: { densely: "Densely", knots: "With its knots", sheet: "On its sheet" },
  }),
});

/** A line that follows edges, or a row of texture coordinates, of a surface's mesh. */
const ontoEdgesSchema = z.object({
  kind: z.literal("edges"),
  on: idSchema,
  follow: choiceParam({
    label: "Follows",
    help: "The rim of the mesh, edges where it bends, edges one behind the other, across them from each to the next, or a row of its texture coordinates.",
    default: "boundary",
    choices: {
      boundary: "Rim",
      sharp: "Sharp edges",
      loop: "Along edges (loop)",
      ring: "Across edges (ring)",
      u: "Texture row u",
      v: "Texture row v",
    },
  }),
  /** The place by which the edge was taken, in the surface's own coordinates, metres; there a closed line begins. */
  at: vec3Schema,
  bend: angleParam({
    label: "Sharp from",
    help: "Edges count as sharp where the mesh bends by so much.",
    default: Math.PI / 6,
    min: 0.001,
    max: Math.PI,
    slider: [0.05, Math.PI / 2],
  }),
  value: plainParam({
    label: "At",
    help: "Which row: the texture coordinate that is the same all along it.",
    default: 0.5,
    slider: [0, 1],
  }),
  reverse: switchParam({ label: "The other way", help: "Runs from its end to its start." }),
});

export const laidSchema = z.discriminatedUnion("kind", [ontoSurfaceSchema, ontoEdgesSchema]);
export type Laid = z.infer<typeof laidSchema>;
export type LaidOnSurface = Extract<Laid, { kind: "surface" }>;
export type LaidOnEdges = Extract<Laid, { kind: "edges" }>;

export const sharedShape = {
  id: idSchema,
  /** The line's own number in the scene. It is part of its placements' keys, so it never changes. */
  number: z.number().int().min(1).max(MAX_LINE_NUMBER),
  name: nameSchema,
  knots: numbered(z.array(knotSchema).min(1).max(100_000)),
  courses: coursesSchema,
  /** The drawing that it was brought in with, and which part of that it is; a hole is left out of what is filled. */
  source: z
    .object({
      file: z.string().max(260),
      part: z.string().max(200),
      hole: z.boolean().default(false),
      /** Where the drawing went, and how large: there it goes again when it is brought once more. */
      place: z.object({
        middle: vec3Schema,
        right: vec3Schema,
        down: vec3Schema,
        scale: within(1_000_000).positive(),
        /** The surface on whose sheet it went; there x is to the right and z downwards. */
        sheet: idSchema.optional(),
      }),
    })
    .optional(),
  /** How it lies on a surface; null for a line that goes by its knots alone. */
  laid: laidSchema.nullable().default(null),
  /** Surfaces that its knots were put on as it was drawn: an area within it is filled on them. */
  drawnOn: z.array(idSchema).max(100).default([]),
  ring: switchParam({
    label: "Bend into a ring",
    help: "Bends the whole line round until its end meets its start. A coil becomes a garland, with whole turns.",
  }),
  ringRadius: lengthParam({
    label: "Ring radius",
    help: "From the ring's middle to the axis of the line; 0 for a ring as long as the line is from end to end.",
    default: 0,
    min: 0,
    slider: [0, 10],
  }),
  marks: wholeParam({
    label: "Divide",
    help: "Into how many equal parts the line is divided by marks, which knots, pegs and placements catch on; 0 for none.",
    default: 0,
    min: 0,
    max: 100_000,
    slider: [0, 48],
  }),
  marksFrom: lengthParam({
    label: "From",
    help: "Where the first mark of a closed line lies, measured from its start.",
    default: 0,
    slider: [-5, 5],
  }),
  marksPer: choiceParam({
    label: "Parts in",
    help: "Whether the number of parts is that of the whole line or of each quarter of it, from knot to knot.",
    default: "line",
    choices: { line: "Whole line", quarter: "Each quarter" },
  }),
};

/** The Zod schemas of lines: what all kinds share, and one schema for each kind. */
import { z } from "zod";
import {
  angleParam,
  choiceParam,
  idSchema,
  lengthParam,
  nameSchema,
  numbered,
  numberSchema,
  type Numbered,
  plainParam,
  switchParam,
  vec3Schema,
  wholeParam,
  within,
  FARTHEST,
} from "../schema";
import { tieSchema } from "../tie";
import { coursesSchema } from "../course";
import type { Vec3 } from "../math";

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

const shared = {
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

const closed = z.boolean().default(false).meta({ label: "Closed", help: "The last knot is joined to the first." });

export const polylineSchema = z.object({
  ...shared,
  kind: z.literal("polyline"),
  closed,
  cornerRadius: lengthParam({
    label: "Corners",
    help: "The radius of all corners that have none of their own. A corner between sides too short for it is rounded as far as they go.",
    default: 0,
    min: 0,
    slider: [0, 2],
  }),
});

export const smoothSchema = z.object({ ...shared, kind: z.literal("smooth"), closed });

export const bezierSchema = z.object({ ...shared, kind: z.literal("bezier"), closed });

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

/** What a line has that is described by numbers: one knot, its middle, and at last how it lies there. */
const shape = {
  ...shared,
  knots: numbered(z.array(knotSchema).length(1, "a line of this kind has one knot, its middle")),
};

const lies = {
  heading: angleParam({
    label: "Heading",
    help: "Turns the whole line about up.",
    default: 0,
    slider: [-Math.PI, Math.PI],
  }),
  lean: angleParam({
    label: "Lean",
    help: "Leans the whole line about its own across: 90° stands it upright.",
    default: 0,
    slider: [-Math.PI / 2, Math.PI / 2],
  }),
};

const size = (label: string, help: string, standard: number) =>
  lengthParam({ label, help, default: standard, above: 0, slider: [0.1, 10] });

export const circleSchema = z.object({
  ...shape,
  kind: z.literal("circle"),
  radius: size("Radius", "From the middle to the line.", 2),
  ...lies,
});

export const ellipseSchema = z.object({
  ...shape,
  kind: z.literal("ellipse"),
  length: size("Length", "From end to end of the longer way, or of either.", 5),
  width: size("Width", "From side to side.", 3),
  ...lies,
});

export const arcSchema = z.object({
  ...shape,
  kind: z.literal("arc"),
  radius: size("Radius", "From the middle to the line.", 2),
  sweep: angleParam({
    label: "Sweep",
    help: "How far round the arc goes.",
    default: Math.PI,
    above: 0,
    max: 2 * Math.PI,
    slider: [0.1, 2 * Math.PI],
  }),
  ...lies,
});

export const rectangleSchema = z.object({
  ...shape,
  kind: z.literal("rectangle"),
  length: size("Length", "From end to end.", 5),
  width: size("Width", "From side to side.", 3),
  corner: lengthParam({
    label: "Corners",
    help: "The radius of the four corners, at most half the shorter side.",
    default: 0.5,
    min: 0,
    slider: [0, 3],
  }),
  ...lies,
});

export const coilSchema = z.object({
  ...shape,
  kind: z.literal("coil"),
  radius: size("Start radius", "From the axis to the line, where it begins.", 1),
  endRadius: lengthParam({
    label: "End radius",
    help: "From the axis to the line, where it ends. Another than at the start makes a cone.",
    default: 1,
    min: 0,
    slider: [0, 10],
  }),
  height: lengthParam({
    label: "Height",
    help: "How far the coil rises from start to end; below zero it winds down.",
    default: 2,
    slider: [0, 10],
  }),
  turns: plainParam({
    label: "Turns",
    help: "How often it goes round.",
    default: 4,
    above: 0,
    max: 2000,
    slider: [0.5, 20],
  }),
  ...lies,
});

export const lineSchema = z.discriminatedUnion("kind", [
  polylineSchema,
  smoothSchema,
  bezierSchema,
  hangingSchema,
  circleSchema,
  ellipseSchema,
  arcSchema,
  rectangleSchema,
  coilSchema,
]);

export type Knot = z.infer<typeof knotSchema> & Numbered;
export type Polyline = z.infer<typeof polylineSchema>;
export type SmoothLine = z.infer<typeof smoothSchema>;
export type BezierLine = z.infer<typeof bezierSchema>;
export type HangingRope = z.infer<typeof hangingSchema>;
export type Line = z.infer<typeof lineSchema>;
export type LineKind = Line["kind"];
export type Circle = z.infer<typeof circleSchema>;
export type Ellipse = z.infer<typeof ellipseSchema>;
export type Arc = z.infer<typeof arcSchema>;
export type Rectangle = z.infer<typeof rectangleSchema>;
export type Coil = z.infer<typeof coilSchema>;
/** A line described by numbers. */
export type Shape = Circle | Ellipse | Arc | Rectangle | Coil;
/** A line described by its knots. */
export type KnottedLine = Exclude<Line, Shape>;

export const hasKnots = (line: Line): line is KnottedLine =>
  line.kind === "polyline" || line.kind === "smooth" || line.kind === "bezier" || line.kind === "hanging";

/** Whether its knots say where it runs: a line along edges of a mesh has none that do. */
export const isKnotted = (line: Line): line is KnottedLine => hasKnots(line) && line.laid?.kind !== "edges";

/** Where a shape's middle is and how it lies there. */
export const placeOf = (line: Shape): { center: Vec3; heading: number; lean: number } => ({
  center: line.knots[0].position,
  heading: line.heading,
  lean: line.lean,
});

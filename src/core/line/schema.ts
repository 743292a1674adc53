/** The Zod schemas of lines: what all kinds share, and one schema for each kind. */
import { z } from "zod";
import { angleParam, choiceParam, lengthParam, numbered, type Numbered, plainParam } from "../schema";
import { betweenSchema, type Between } from "./between";
import { knotSchema, sharedShape } from "./shared";
import type { Vec3 } from "../math";

import type { Laid } from "./shared";

export { knotSchema, laidSchema, MAX_LINE_NUMBER, type Laid, type LaidOnEdges, type LaidOnSurface } from "./shared";

const closed = z.boolean().default(false).meta({ label: "Closed", help: "The last knot is joined to the first." });

export const polylineSchema = z.object({
  ...sharedShape,
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

export const smoothSchema = z.object({ ...sharedShape, kind: z.literal("smooth"), closed });

export const bezierSchema = z.object({ ...sharedShape, kind: z.literal("bezier"), closed });

export const hangingSchema = z.object({
  ...sharedShape,
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
  ...sharedShape,
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
  betweenSchema,
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
export type KnottedLine = Exclude<Line, Shape | Between>;

export { betweenSchema, type Between };

export const hasKnots = <L extends Line>(line: L): line is L & KnottedLine =>
  line.kind === "polyline" || line.kind === "smooth" || line.kind === "bezier" || line.kind === "hanging";

/** Whether it is a family, which runs nowhere itself: its members do. */
export const isFamily = <L extends Line>(line: L | undefined): line is L & Between => line?.kind === "between";

/** Whether its knots are places that were set by hand; a shape has one, which is its middle. */
export const hasPlaces = (line: Line): boolean => hasKnots(line) || isFamily(line);

/** How a line, or what a family consists of, lies on surfaces; null for what does not. */
export function laidOf(line: Line): Laid | null {
  if (!isFamily(line)) return line.laid;
  if (line.form !== "surface") return null;
  return { kind: "surface", on: line.on, way: "nearest", axis: [0, 0, -1], how: "densely" };
}

/** Whether its knots say where it runs: a line along edges of a mesh has none that do. */
export const isKnotted = (line: Line): line is KnottedLine => hasKnots(line) && line.laid?.kind !== "edges";

/** Where a shape's middle is and how it lies there. */
export const placeOf = (line: Shape): { center: Vec3; heading: number; lean: number } => ({
  center: line.knots[0].position,
  heading: line.heading,
  lean: line.lean,
});

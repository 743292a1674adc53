/** Surfaces that are made by numbers and lines instead of brought in: the Zod schema of each kind. */
import { z } from "zod";
import {
  angleParam,
  choiceParam,
  idSchema,
  lengthParam,
  secondsParam,
  speedParam,
  switchParam,
  vec3Schema,
  wholeParam,
  within,
} from "../schema";

const side = (label: string, help: string, standard: number, holds = false) =>
  lengthParam({ label, help, default: standard, above: 0, max: 100_000, slider: [0.1, 40], holds });

const flip = switchParam({
  label: "Turn inside out",
  help: "The other side becomes the one that normals point away from.",
});

export const boxSchema = z.object({
  kind: z.literal("box"),
  width: side("Width", "From side to side.", 4),
  height: side("Height", "From its bottom, where its place is, to its top.", 3),
  depth: side("Depth", "From back to front.", 4),
});

export const bumpsSchema = z.object({
  kind: z.literal("bumps"),
  width: side("Width", "From side to side.", 20),
  depth: side("Depth", "From back to front.", 20),
  height: lengthParam({
    label: "Height",
    help: "From the deepest hollow there can be to the highest bump; 0 for a plane.",
    default: 1,
    min: 0,
    max: 10_000,
    slider: [0, 5],
  }),
  size: side("Bumps", "About how far it is from one bump to the next.", 6, true),
  rough: wholeParam({
    label: "Rough",
    help: "How many times smaller bumps lie on the larger ones, each time half the size.",
    default: 1,
    min: 0,
    max: 5,
    slider: [0, 5],
    holds: true,
  }),
  seed: wholeParam({
    label: "Seed",
    help: "Another number makes other bumps.",
    default: 1,
    min: 0,
    max: 2 ** 31 - 1,
    slider: [1, 100],
    holds: true,
  }),
});

export const revolveSchema = z.object({
  kind: z.literal("revolve"),
  /** The line that goes round. */
  line: idSchema.nullable().default(null),
  axis: choiceParam({
    label: "About",
    help: "The direction of the axis, or another line's: straight from its start to its end.",
    default: "up",
    choices: { up: "Up", east: "East", south: "South", line: "Line" },
  }),
  through: vec3Schema.default([0, 0, 0]).meta({ label: "Through", help: "A point on the axis, metres." }),
  axisLine: idSchema.nullable().default(null),
  turn: angleParam({
    label: "Round",
    help: "How far round it goes; 360° closes it.",
    default: 2 * Math.PI,
    above: 0,
    max: 2 * Math.PI,
    slider: [0.1, 2 * Math.PI],
  }),
  pieces: wholeParam({
    label: "Pieces",
    help: "How many flat pieces go round.",
    default: 48,
    min: 3,
    max: 720,
    slider: [3, 120],
    holds: true,
  }),
  flip,
});

export const loftSchema = z.object({
  kind: z.literal("loft"),
  /** The lines that it is laid through, in their order. */
  lines: z.array(idSchema).max(500).default([]),
  rounded: switchParam({
    label: "Rounded",
    help: "Goes through the lines in a smooth sweep instead of straight from one to the next.",
    default: true,
  }),
  closed: switchParam({ label: "Closed", help: "From the last line back to the first." }),
  along: wholeParam({
    label: "Pieces along",
    help: "Into how many pieces each line is cut.",
    default: 64,
    min: 1,
    max: 2000,
    slider: [4, 200],
    holds: true,
  }),
  between: wholeParam({
    label: "Pieces between",
    help: "Into how many pieces the way from one line to the next is cut.",
    default: 8,
    min: 1,
    max: 200,
    slider: [1, 30],
    holds: true,
  }),
  flip,
});

export const bandSchema = z.object({
  kind: z.literal("band"),
  /** The line that it is carried along. */
  line: idSchema.nullable().default(null),
  breadth: side("Breadth", "From edge to edge.", 0.6),
  thickness: lengthParam({
    label: "Thickness",
    help: "Below its upper side; 0 for a cloth that has none.",
    default: 0.03,
    min: 0,
    max: 1_000,
    slider: [0, 0.3],
    holds: true,
  }),
  edges: lengthParam({
    label: "Edges",
    help: "How high its edges are turned up; 0 for flat.",
    default: 0,
    min: 0,
    max: 1_000,
    slider: [0, 0.3],
    holds: true,
  }),
  turn: angleParam({
    label: "Which side is up",
    help: "Turned about its line.",
    default: 0,
    slider: [-Math.PI, Math.PI],
  }),
  travel: lengthParam({
    label: "Travel",
    help: "How far it has gone along its line, which has to be closed: it goes round, with its texture and all that is on it.",
    default: 0,
    slider: [-5, 5],
  }),
  speed: speedParam({
    label: "Speed",
    help: "How fast it travels; below zero the other way.",
    default: 0,
    slider: [-2, 2],
    rate: true,
  }),
  onceIn: secondsParam({
    label: "Once round in",
    help: "How long it takes to go round once; 0 for not at all.",
    default: 0,
    min: 0,
    slider: [0, 60],
    rate: true,
  }),
  /** How far speed has taken it at the moment that the scene is looked at. */
  gone: z.object({ metres: within(1e12), rounds: within(1e9) }).optional(),
  flip,
});

export const madeSchema = z.discriminatedUnion("kind", [boxSchema, bumpsSchema, revolveSchema, loftSchema, bandSchema]);

export type Made = z.infer<typeof madeSchema>;
export type MadeKind = Made["kind"];
export type Box = z.infer<typeof boxSchema>;
export type Bumps = z.infer<typeof bumpsSchema>;
export type Revolve = z.infer<typeof revolveSchema>;
export type Loft = z.infer<typeof loftSchema>;
export type Band = z.infer<typeof bandSchema>;

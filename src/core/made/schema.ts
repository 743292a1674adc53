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

/** Points of a curve along a line: a share of its length, and a value there; between them it goes evenly. */
const sharesSchema = z
  .array(z.tuple([within(1).min(0), within(1_000).min(0)]))
  .min(1, "at least one point")
  .max(100)
  .refine((points) => points.every(([share], i) => i === 0 || share >= points[i - 1][0]), {
    message: "the points go from the start to the end",
  })
  .default([[0, 1]]);

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

export const tubeSchema = z.object({
  kind: z.literal("tube"),
  /** The lines that become tubes; where they meet they are one body. */
  lines: z.array(idSchema).max(5_000).default([]),
  section: choiceParam({
    label: "Section",
    help: "The shape of a cut across it.",
    default: "round",
    choices: { round: "Round", square: "Square", flat: "Flat", line: "Line" },
  }),
  radius: side("Radius", "From the middle to the side; half the breadth of what is square or flat.", 0.05, true),
  thickness: side("Thickness", "How thick what is flat is.", 0.02, true),
  /** The closed line, seen from above, that a cut across looks like. */
  outline: idSchema.nullable().default(null),
  /** How many times the radius it is at shares of a line. */
  course: sharesSchema.meta({
    label: "Radius along",
    help: "How many times its radius it is from a line's start to its end; 1 is as said above.",
  }),
  sides: wholeParam({
    label: "Sides",
    help: "How many flat sides go round what is round.",
    default: 12,
    min: 3,
    max: 128,
    slider: [3, 32],
    holds: true,
  }),
  turn: angleParam({
    label: "Turn",
    help: "Turned about its line.",
    default: 0,
    slider: [-Math.PI, Math.PI],
  }),
  ends: choiceParam({
    label: "Ends",
    help: "How it ends where its line does; where it meets another it is round.",
    default: "round",
    choices: { round: "Round", flat: "Flat" },
  }),
});

export const shellSchema = z.object({
  kind: z.literal("shell"),
  /** The surface that gets a thickness. */
  of: idSchema.nullable().default(null),
  thickness: side("Thickness", "From its one side to the other.", 0.02, true),
  side: choiceParam({
    label: "Towards",
    help: "To which side of the surface it grows.",
    default: "out",
    choices: { out: "Outwards", in: "Inwards", both: "Both" },
  }),
});

export const howParam = choiceParam({
  label: "How",
  help: "Joined to all before it, cut out of that, or only what both share is kept.",
  default: "join",
  choices: { join: "Join", cut: "Cut", common: "Common part" },
});

export const solidSchema = z.object({
  kind: z.literal("solid"),
  /** What it is made of, one after the other: surfaces, and dressings with all that they place. */
  parts: z
    .array(
      z.object({
        id: z
          .number()
          .int()
          .min(0)
          .max(2 ** 31 - 1),
        how: howParam,
        of: idSchema,
      }),
    )
    .max(1_000)
    .default([]),
});

export const smoothedSchema = z.object({
  kind: z.literal("smoothed"),
  /** The surface that it is a copy of. */
  of: idSchema.nullable().default(null),
  rounds: wholeParam({
    label: "Rounds",
    help: "How often each triangle is parted into four, all of them together no further than to a million.",
    default: 2,
    min: 1,
    max: 5,
    slider: [1, 4],
    holds: true,
  }),
  keep: angleParam({
    label: "Keep edges above",
    help: "Edges at which its facets meet by more than this stay sharp; at 180° none does.",
    default: Math.PI,
    min: 0,
    max: Math.PI,
    slider: [0, Math.PI],
    holds: true,
  }),
});

export const madeSchema = z.discriminatedUnion("kind", [
  boxSchema,
  bumpsSchema,
  revolveSchema,
  loftSchema,
  bandSchema,
  tubeSchema,
  shellSchema,
  solidSchema,
  smoothedSchema,
]);

export type Made = z.infer<typeof madeSchema>;
export type MadeKind = Made["kind"];
export type Box = z.infer<typeof boxSchema>;
export type Bumps = z.infer<typeof bumpsSchema>;
export type Revolve = z.infer<typeof revolveSchema>;
export type Loft = z.infer<typeof loftSchema>;
export type Band = z.infer<typeof bandSchema>;
export type Tube = z.infer<typeof tubeSchema>;
export type Shell = z.infer<typeof shellSchema>;
export type Solid = z.infer<typeof solidSchema>;
export type Smoothed = z.infer<typeof smoothedSchema>;

/** Movers, what gives a surface another shape over time: the Zod schema of each kind. */
import { z } from "zod";
import { GAP_LIMITS } from "../place";
import {
  angleParam,
  assetHashSchema,
  choiceParam,
  factorParam,
  lengthParam,
  nameSchema,
  numbered,
  numberSchema,
  plainParam,
  secondsParam,
  shareParam,
  speedParam,
  switchParam,
  vec3Schema,
  wholeParam,
  within,
} from "../schema";

/** The sides of a surface, by its texture coordinates where it has some, else by its box; and all of its open rim. */
export const SIDES = { left: "Left", right: "Right", top: "Top", bottom: "Bottom", rim: "All round" } as const;
export type Side = keyof typeof SIDES;

const shared = {
  id: numberSchema.optional(),
  name: nameSchema.optional(),
  on: switchParam({ label: "On", help: "Whether it does anything.", default: true }),
  /** How much it does place by place, by the limits that gaps have; null for everywhere alike. */
  limits: z.object(GAP_LIMITS).nullable().default(null),
};

const held = (standard: readonly Side[]) => ({
  /** The sides along which the surface is held fast. */
  held: z
    .array(z.enum(["left", "right", "top", "bottom", "rim"]))
    .max(5)
    .default([...standard]),
  /** Places at which it is held fast as well, in its own coordinates, metres. */
  places: numbered(z.array(z.object({ id: numberSchema.optional(), at: vec3Schema })).max(1_000)).default([]),
});

/** How far its speed has taken it at the moment that the scene is looked at: metres, turns, seconds of a clip or pictures. */
const gone = within(1e12).optional();

export const wavesSchema = z.object({
  kind: z.literal("waves"),
  ...shared,
  length: lengthParam({
    label: "Length",
    help: "From one crest to the next.",
    default: 6,
    min: 0.001,
    max: 100_000,
    slider: [0.2, 20],
  }),
  height: lengthParam({
    label: "Height",
    help: "From trough to crest.",
    default: 0.3,
    min: 0,
    max: 10_000,
    slider: [0, 2],
  }),
  heading: angleParam({
    label: "Towards",
    help: "Where they run: 0° is the surface's own north, 90° its east; along the normal, 0° is from left to right.",
    default: Math.PI / 2,
    slider: [0, 2 * Math.PI],
  }),
  speed: speedParam({ label: "Speed", help: "How fast they run.", default: 2, slider: [0, 10], rate: true }),
  pointed: shareParam({
    label: "Pointed",
    help: "0 for even rounds, 1 for crests as sharp as water has them before they break.",
    default: 0.4,
    slider: [0, 1],
  }),
  along: choiceParam({
    label: "They lift",
    help: "Up, as water does, or along the surface's normal, as cloth does.",
    default: "up",
    choices: { up: "Up", normal: "Along normal" },
  }),
  ...held([]),
  soft: lengthParam({
    label: "Comes free over",
    help: "How far from where it is held fast it moves as much as it can.",
    default: 1,
    min: 0,
    max: 100_000,
    slider: [0, 5],
  }),
  gone,
});

export const billowSchema = z.object({
  kind: z.literal("billow"),
  ...shared,
  depth: lengthParam({
    label: "Depth",
    help: "How far it bulges at its fullest, along the normal; below zero to the other side.",
    default: 0.5,
    max: 10_000,
    min: -10_000,
    slider: [-2, 2],
  }),
  breath: shareParam({
    label: "Breathes",
    help: "How much of the bulge goes and comes again.",
    default: 0.3,
    slider: [0, 1],
  }),
  every: secondsParam({
    label: "One breath in",
    help: "How long it takes; 0 for not at all.",
    default: 4,
    min: 0,
    slider: [0, 10],
    rate: true,
  }),
  ...held(["rim"]),
  gone,
});

const about = {
  axis: choiceParam({
    label: "Along",
    help: "The direction of the surface's own that it is bent or twisted along.",
    default: "up",
    choices: { up: "Up", east: "East", south: "South" },
  }),
  angle: angleParam({
    label: "By",
    help: "How far one end is turned against the other.",
    default: Math.PI / 6,
    slider: [-Math.PI, Math.PI],
  }),
  from: shareParam({ label: "From", help: "Where along it that begins.", default: 0, slider: [0, 1] }),
  to: shareParam({ label: "To", help: "Where along it that ends.", default: 1, slider: [0, 1] }),
};

export const bendSchema = z.object({
  kind: z.literal("bend"),
  ...shared,
  ...about,
  towards: angleParam({
    label: "Towards",
    help: "To which side it is bent, turned about the direction that it is bent along.",
    default: 0,
    slider: [-Math.PI, Math.PI],
  }),
});

export const twistSchema = z.object({ kind: z.literal("twist"), ...shared, ...about });

export const pullSchema = z.object({
  id: numberSchema.optional(),
  /** Where it was taken hold of, in the surface's own coordinates at rest, metres. */
  at: vec3Schema,
  by: vec3Schema.meta({ label: "By", help: "How far, in the surface's own directions, metres." }),
  reach: lengthParam({
    label: "Reach",
    help: "How far from there the surface follows.",
    default: 1,
    min: 0.001,
    max: 100_000,
    slider: [0.1, 5],
  }),
  soft: shareParam({
    label: "Soft",
    help: "How much of the reach eases off; 0 takes all of it along.",
    default: 1,
    slider: [0, 1],
  }),
});

export const pullsSchema = z.object({
  kind: z.literal("pulls"),
  ...shared,
  pulls: numbered(z.array(pullSchema).max(1_000)).default([]),
});

/** How something that has a length of its own is played. */
const played = {
  start: secondsParam({
    label: "Begins at",
    help: "The moment of the scene at which it begins; before that it is as at its own beginning.",
    default: 0,
    slider: [0, 10],
    holds: true,
  }),
  times: wholeParam({
    label: "Times",
    help: "How often it is played; 0 for without end. Then it stays as at its end.",
    default: 0,
    min: 0,
    max: 1_000_000,
    slider: [0, 10],
    holds: true,
  }),
  gone,
};

export const fileMotionSchema = z.object({
  kind: z.literal("file"),
  ...shared,
  /** The clip's number in the file. */
  clip: wholeParam({
    label: "Clip",
    help: "Which of the file's clips.",
    default: 0,
    min: 0,
    max: 100_000,
    slider: [0, 10],
    holds: true,
  }),
  speed: factorParam({
    label: "Speed",
    help: "How many times as fast as in its file; below zero backwards.",
    default: 1,
    slider: [0, 3],
    rate: true,
  }),
  ...played,
});

export const replaySchema = z.object({
  kind: z.literal("replay"),
  ...shared,
  /** The point cache; null until one is brought. */
  asset: assetHashSchema.nullable().default(null),
  /** The file that the artist brought, and how many vertices it moves. */
  file: z.string().max(260).default(""),
  vertices: z.number().int().min(0).default(0),
  rate: plainParam({
    label: "Pictures a second",
    help: "How fast it is played; below zero backwards.",
    default: 24,
    slider: [0, 60],
    rate: true,
  }),
  ...played,
  up: choiceParam({
    label: "Up in it is",
    help: "Which of its directions is up.",
    default: "y",
    choices: { y: "Y", z: "Z" },
  }),
  unit: lengthParam({
    label: "Its unit is",
    help: "How long one of its units is.",
    default: 1,
    above: 0,
    slider: [0.001, 1],
  }),
});

export const moverSchema = z.discriminatedUnion("kind", [
  wavesSchema,
  billowSchema,
  bendSchema,
  twistSchema,
  pullsSchema,
  fileMotionSchema,
  replaySchema,
]);

export const moversSchema = numbered(z.array(moverSchema).max(50)).default([]);

type Numbered = { id: number };
export type Mover = z.infer<typeof moverSchema> & Numbered;
export type MoverKind = Mover["kind"];
export type Waves = z.infer<typeof wavesSchema>;
export type Billow = z.infer<typeof billowSchema>;
export type Bend = z.infer<typeof bendSchema>;
export type Twist = z.infer<typeof twistSchema>;
export type FileMotion = z.infer<typeof fileMotionSchema>;
export type Replay = z.infer<typeof replaySchema>;
export type Pulls = z.infer<typeof pullsSchema>;
export type Pull = z.infer<typeof pullSchema> & Numbered;
export type Holding = Pick<Waves, "held" | "places">;

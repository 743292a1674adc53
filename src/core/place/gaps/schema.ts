/** Gaps: blanks by chance and in runs, stretches held open, distance to other lines, and how many are kept. */
import { z } from "zod";
import { rackGapParams } from "./rack-params";
import {
  angleParam,
  assetHashSchema,
  choiceParam,
  hostIdSchema,
  idSchema,
  lengthParam,
  numbered,
  numberSchema,
  plainParam,
  type Numbered,
  rangeParam,
  shareParam,
  switchParam,
  vec3Schema,
  wholeParam,
  within,
  FARTHEST,
} from "../../schema";

/** A stretch of a line that stays free, by arc length in metres. On a closed line it may run through the start. */
export const stretchSchema = z.object({ line: hostIdSchema, from: within(2 * FARTHEST), to: within(2 * FARTHEST) });

/** How the distance to something counts: nothing stands at `none` metres, all may at `full`, and between them a soft curve. */
export const distanceSchema = z.object({
  id: numberSchema.optional(),
  /** Id of a line, a surface or another dressing. */
  to: idSchema,
  /** Whether what lies within a closed line counts as being on it. */
  within: z.boolean().default(false),
  none: within(FARTHEST).min(0),
  full: within(FARTHEST).min(0),
});

/** A stroke of the brush along points of a surface, in its own coordinates, metres. */
export const strokeSchema = z.object({
  /** Id of the surface, or of the area where there is none. */
  on: idSchema,
  points: z.array(vec3Schema).min(1).max(5_000),
  radius: within(FARTHEST).positive(),
  /** How much of the way to none or to all the middle of the brush goes. */
  strength: z.number().min(0).max(1).default(1),
  /** How much of the radius fades: 0 for a hard rim. */
  soft: z.number().min(0).max(1).default(0.5),
  /** Whether it lets things stand, or takes them away. */
  puts: z.boolean(),
});

export const paintSchema = z.object({
  /** What is there before anything is painted. */
  base: choiceParam({
    label: "Unpainted",
    help: "Where nothing is painted all may stand, and painting takes away; or nothing does, and painting puts.",
    default: "all",
    choices: { all: "All", none: "None" },
  }),
  strokes: z.array(strokeSchema).max(5_000).default([]),
});

export type Paint = z.infer<typeof paintSchema>;

/** Where a mask is dark nothing stands, where it is bright all may. */
const shaped = {
  invert: switchParam({ label: "The other way round", help: "What is dark counts as bright." }),
  levels: rangeParam("share", {
    label: "From – to",
    help: "How bright it is where nothing stands, and where all may.",
    default: [0, 1],
    min: 0,
    max: 1,
    slider: [0, 1],
  }),
};

const corner = z.tuple([within(FARTHEST), within(FARTHEST)]);

/** A picture over the surface. */
export const imageMaskSchema = z.object({
  id: numberSchema.optional(),
  /** The picture's bytes by their hash, a PNG. */
  asset: assetHashSchema,
  name: z.string().max(260).default(""),
  project: choiceParam({
    label: "Laid",
    help: "From above, over a rectangle of the ground; or by the surface's texture coordinates.",
    default: "above",
    choices: { above: "From above", uv: "By UVs" },
  }),
  /** From above: the corners of the rectangle that it covers, x and z, metres. */
  least: corner.default([-10, -10]),
  most: corner.default([10, 10]),
  ...shaped,
});

/** The colours of the mesh's vertices. */
export const colourMaskSchema = z.object({
  on: switchParam({
    label: "Vertex colours",
    help: "Where the colours that the mesh's vertices have are dark nothing stands, where they are bright all may.",
  }),
  channel: choiceParam({
    label: "Of",
    help: "Which part of the colours counts.",
    default: "bright",
    choices: { bright: "Brightness", red: "Red", green: "Green", blue: "Blue" },
  }),
  ...shaped,
});

export type ImageMask = z.infer<typeof imageMaskSchema> & Numbered;
export type ColourMask = z.infer<typeof colourMaskSchema>;

/** The parameters of a limit along one of a surface's texture coordinates. */
function alongParams<const K extends "u" | "v">(which: K, way: string) {
  return {
    [`${which}On`]: switchParam({
      label: `Along ${which}`,
      help: `Only from one place to another along the surface's ${which}: ${way}, by its texture coordinates.`,
    }),
    [which]: rangeParam("number", {
      label: "Range",
      help: "From where to where: 0 to 1 for all of it, or metres from where it begins.",
      default: [0, 1],
      slider: [0, 1],
    }),
    [`${which}Soft`]: plainParam({
      label: "Fades over",
      help: "Beyond the range numbers go down to nothing over so much.",
      default: 0,
      min: 0,
      slider: [0, 1],
    }),
    [`${which}By`]: choiceParam({
      label: "Counted in",
      help: "As a share of all of it, or in metres.",
      default: "share",
      choices: { share: "Share", metres: "Metres" },
    }),
  } as Record<`${K}On`, ReturnType<typeof switchParam>> &
    Record<K, ReturnType<typeof rangeParam>> &
    Record<`${K}Soft`, ReturnType<typeof plainParam>> &
    Record<`${K}By`, z.ZodDefault<z.ZodEnum<{ share: "share"; metres: "metres" }>>>;
}

/** What says how much of something there is where on a surface, for what is spread over it and for what moves it. */
export const GAP_LIMITS = {
  slopeOn: switchParam({
    label: "Slope",
    help: "Only where the surface is as steep as this: 0° is level, 90° upright.",
  }),
  slope: rangeParam("rad", {
    label: "Range",
    help: "How steep the surface may be.",
    default: [0, Math.PI / 6],
    min: 0,
    max: Math.PI,
    slider: [0, Math.PI / 2],
  }),
  slopeSoft: angleParam({
    label: "Fades over",
    help: "Beyond the limits numbers go down to nothing over this many degrees.",
    default: 0,
    min: 0,
    slider: [0, Math.PI / 6],
  }),
  heightOn: switchParam({ label: "Height", help: "Only between two levels." }),
  height: rangeParam("m", { label: "Range", help: "How high above zero.", default: [0, 10], slider: [-2, 20] }),
  heightSoft: lengthParam({
    label: "Fades over",
    help: "Beyond the levels numbers go down to nothing over so much height.",
    default: 0,
    min: 0,
    slider: [0, 5],
  }),
  facingOn: switchParam({ label: "Facing", help: "Only where the surface slopes down towards a heading." }),
  facing: angleParam({
    label: "Towards",
    help: "0° is north, away from you in the first view; 90° is east.",
    default: Math.PI,
    slider: [0, 2 * Math.PI],
  }),
  facingWithin: angleParam({
    label: "Within",
    help: "How far to either side of that heading.",
    default: Math.PI / 4,
    min: 0,
    max: Math.PI,
    slider: [0, Math.PI],
  }),
  distances: numbered(z.array(distanceSchema).max(200)).default([]),
  paint: paintSchema.prefault({}),
  images: numbered(z.array(imageMaskSchema).max(20)).default([]),
  colours: colourMaskSchema.prefault({}),
  ...alongParams("u", "from its left to its right"),
  ...alongParams("v", "from its bottom to its top"),
};

export const gapsSchema = z.object({
  chance: shareParam({
    label: "Blank",
    help: "How many slots out of a hundred stay empty. A higher share only adds blanks to those there were.",
    default: 0,
    slider: [0, 1],
  }),
  runsOn: switchParam({ label: "Runs of blanks", help: "Several slots in a row stay empty, here and there." }),
  runEvery: wholeParam({
    label: "One in",
    help: "How many slots there are from one run to the next, on average.",
    default: 12,
    min: 1,
    max: 1_000_000,
    slider: [2, 60],
  }),
  runLength: rangeParam("whole", {
    label: "Long",
    help: "How many slots a run takes.",
    default: [2, 4],
    min: 1,
    max: 1000,
    slider: [1, 12],
  }),
  ...rackGapParams,
  stretches: z.array(stretchSchema).max(10_000).default([]),
  avoid: z.array(idSchema).max(65_535).default([]),
  avoidBy: lengthParam({
    label: "Keep off by",
    help: "How far every prop keeps from the lines chosen here, such as a walkway that crosses the row.",
    default: 0.6,
    min: 0,
    slider: [0, 3],
  }),
  atLeast: wholeParam({
    label: "At least",
    help: "However much is left to chance, no fewer than this stay; 0 for no such limit.",
    default: 0,
    min: 0,
    max: 4_000_000,
    slider: [0, 100],
  }),
  atMost: wholeParam({
    label: "At most",
    help: "No more than this stand, the rest stays blank; 0 for no such limit.",
    default: 0,
    min: 0,
    max: 4_000_000,
    slider: [0, 100],
  }),
  ...GAP_LIMITS,
  walls: lengthParam({
    label: "Keep from walls",
    help: "Inside a volume: how far every position keeps from its walls.",
    default: 0,
    min: 0,
    slider: [0, 3],
  }),
  edge: lengthParam({
    label: "Edge fade",
    help: "Towards the outline of the area, or the rim of the surface, numbers go down to nothing over this distance.",
    default: 0,
    min: 0,
    slider: [0, 5],
  }),
  edgeSize: shareParam({
    label: "Smaller by",
    help: "By how much what stands at the very edge is smaller.",
    default: 0,
    slider: [0, 1],
  }),
});

export type Gaps = z.infer<typeof gapsSchema>;

/** What says how full a surface or volume is where, in the order in which it is asked. */
export const MASKING = [
  "walls",
  "slopeOn",
  "slope",
  "slopeSoft",
  "heightOn",
  "height",
  "heightSoft",
  "facingOn",
  "facing",
  "facingWithin",
  "uOn",
  "u",
  "uSoft",
  "uBy",
  "vOn",
  "v",
  "vSoft",
  "vBy",
  "distances",
  "images",
  "colours",
  "paint",
  "edge",
  "edgeSize",
] as const satisfies readonly (keyof Gaps)[];
/** What says which slots of a rack are gone. */
export const TAKING = ["taken", "clump", "onGaps"] as const satisfies readonly (keyof Gaps)[];
export type Taking = Pick<Gaps, (typeof TAKING)[number]>;
/** What says which slots stay blank. */
export const BLANKING = [
  "chance",
  "runsOn",
  "runEvery",
  "runLength",
  "stretches",
  "avoidBy",
  "atLeast",
  "atMost",
] as const satisfies readonly (keyof Gaps)[];
export type Blanking = Pick<Gaps, (typeof BLANKING)[number]>;
export type Masking = Pick<Gaps, (typeof MASKING)[number]>;
/** The limits that hold wherever something lies on a surface. */
export type Limits = Pick<Gaps, keyof typeof GAP_LIMITS>;

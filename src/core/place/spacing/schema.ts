/** Spacing: the ways of finding places along a line, insets, slide, and what happens with the remainder. */
import { z } from "zod";
import { rackSpacingParams } from "./rack-params";
import {
  angleParam,
  choiceParam,
  lengthParam,
  nameSchema,
  plainParam,
  rangeParam,
  secondsParam,
  shareParam,
  speedParam,
  switchParam,
  wholeParam,
  within,
  FARTHEST,
} from "../../schema";

/** A point of the density curve: a share of the way, and how dense it is there. */
const densityPoint = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1000)]);

export const spacingSchema = z.object({
  by: choiceParam({
    label: "Spacing",
    help: "Whether the distance between slots is given, how many there are, that each prop begins where the last one ends, that one prop spans each line, into how many parts a line is divided, the places themselves, or how dense they are along the line.",
    default: "distance",
    choices: {
      distance: "Distance",
      count: "Count",
      end: "End to end",
      each: "One each",
      divide: "Divide",
      knots: "Knots",
      list: "List",
      density: "Density",
    },
  }),
  distance: lengthParam({
    label: "Every",
    help: "The distance from one slot to the next, measured along the line.",
    default: 1,
    min: 0.0001,
    slider: [0.05, 2.5],
  }),
  measure: choiceParam({
    label: "Measured",
    help: "Along the line, or straight from each slot to the next, as a chain of equal links would lie.",
    default: "along",
    choices: { along: "Along", straight: "Straight" },
  }),
  count: wholeParam({
    label: "Count",
    help: "How many slots there are, evenly from inset to inset.",
    default: 10,
    min: 1,
    max: 500_000,
    slider: [1, 100],
  }),
  gap: lengthParam({
    label: "Room between",
    help: "The length of line between the end of one prop and the beginning of the next; below zero they overlap.",
    default: 0,
    slider: [-0.5, 1],
  }),
  each: choiceParam({
    label: "Spans it",
    help: "Stretched to the line's length; repeated end to end and stretched a little until it fits; repeated and cut where the line ends; or stretched until two of its snap points lie at both ends.",
    default: "stretched",
    choices: { stretched: "Stretched", repeated: "Repeated", cut: "Cut", snaps: "By its ends" },
  }),
  /** By its ends: the snap points that lie at the line's start and at its end. */
  eachFrom: nameSchema.default("first end"),
  eachTo: nameSchema.default("last end"),
  parts: wholeParam({
    label: "Parts",
    help: "Into how many equal parts each line is divided between its insets.",
    default: 12,
    min: 1,
    max: 500_000,
    slider: [2, 60],
  }),
  every: wholeParam({
    label: "Take every",
    help: "1 takes each of the cuts between the parts, 2 every other one, and so on.",
    default: 1,
    min: 1,
    max: 500_000,
    slider: [1, 12],
  }),
  begin: wholeParam({
    label: "Begin at",
    help: "Which cut is the first to be taken, counted from 0 at the start.",
    default: 0,
    min: 0,
    max: 500_000,
    slider: [0, 12],
  }),
  runs: choiceParam({
    label: "Sequence runs",
    help: "Over surfaces: as the places come, or row after row along the surface's own u or v, so that sequences run in rows and rings, all one way.",
    default: "found",
    choices: { found: "As it comes", u: "Along u", v: "Along v" },
  }),
  list: z
    .array(within(FARTHEST))
    .max(100_000)
    .default([0, 1, 2])
    .meta({ label: "At", help: "Distances from the start, one behind the other: 0; 1.2; 3.5", unit: "m" }),
  density: z
    .array(densityPoint)
    .min(1, "a density curve needs a point")
    .max(200)
    .default([
      [0, 1],
      [1, 1],
    ])
    .meta({
      label: "Density",
      help: "How dense the slots are along the line: 1 is the distance as given, 2 twice as dense, 0 none.",
    }),
  fromStart: lengthParam({
    label: "From start",
    help: "The first part of the line that stays free.",
    default: 0,
    min: 0,
    slider: [0, 2],
  }),
  fromEnd: lengthParam({
    label: "From end",
    help: "The last part of the line that stays free.",
    default: 0,
    min: 0,
    slider: [0, 2],
  }),
  inside: switchParam({
    label: "Keep inside the ends",
    help: "Makes both insets longer by as much as the longest prop reaches, so that nothing sticks out past an end.",
  }),
  slide: lengthParam({
    label: "Slide",
    help: "Moves all slots along the line. On a closed line they go round; on an open one those pushed past an end leave, and new ones come in behind them; by count the row is pressed together there instead.",
    default: 0,
    slider: [-2, 2],
  }),
  travel: lengthParam({
    label: "Travel",
    help: "How far they have gone along the line from where they begin. Each keeps its prop, turn, size and peg on the way.",
    default: 0,
    slider: [-5, 5],
  }),
  speed: speedParam({
    label: "Speed",
    help: "How fast they travel; below zero back towards the start.",
    default: 0,
    slider: [-2, 2],
    rate: true,
  }),
  onceIn: secondsParam({
    label: "Once along in",
    help: "They travel so that each goes all along the line, or once round, in so many seconds; 0 for not at all.",
    default: 0,
    min: 0,
    slider: [0, 60],
    rate: true,
  }),
  ease: shareParam({
    label: "Eases",
    help: "How much of each way along it spends on getting up to speed and on coming to a stop, where it goes along in so many seconds.",
    default: 0,
    slider: [0, 1],
  }),
  atKnots: shareParam({
    label: "Slower at knots",
    help: "0 goes past the line's knots as fast as elsewhere, 1 comes to a stop at each. Several are nearer together there.",
    default: 0,
    slider: [0, 1],
  }),
  travelEnds: choiceParam({
    label: "At the end",
    help: "On an open line those that travel leave at its end and come in at its start, go together and stay at the end, or turn back there. On a closed one they go round.",
    default: "through",
    choices: { through: "In again", stay: "Stay", back: "Turn back" },
  }),
  /**
   * How far speed has taken them at the moment that the scene is looked at, metres, and how often all along the line; and how
   * fast they go then, metres a second, and how often all along it a second.
   */
  gone: z
    .object({
      metres: within(1e12),
      rounds: within(1e9),
      speed: within(1e12).optional(),
      rate: within(1e9).optional(),
    })
    .optional(),
  stretching: choiceParam({
    label: "If it stretches",
    help: "Where the surface that the line lies on stretches: each keeps its place on it, or they are spaced anew at each moment.",
    default: "keep",
    choices: { keep: "Keep places", anew: "Space anew" },
  }),
  remainder: choiceParam({
    label: "Left over",
    help: "What happens with the piece of line that is too short for another slot: it stays at the end, is split between both ends, is shared out among all distances, or the props are stretched to fill it.",
    default: "end",
    choices: { end: "At end", centred: "Centre", shared: "Share out", stretched: "Stretch" },
  }),
  anew: switchParam({
    label: "Begin anew at corners",
    help: "Each stretch from corner to corner is filled by itself, so that no prop cuts a corner.",
  }),
  together: switchParam({
    label: "All lines as one",
    help: "The lines are counted as a single one, one behind the other, instead of each by itself.",
  }),
  ...rackSpacingParams,
  pattern: choiceParam({
    label: "Pattern",
    help: "Over a surface or inside a volume. Even: none nearer to another than a distance, and no room left for one more. Random: each by itself. Square and hexagonal: in rows, over a surface as seen from above. Rows of UV: along the texture coordinates of the surface.",
    default: "even",
    choices: { even: "Even", random: "Random", square: "Square", hexagonal: "Hexagonal", uv: "Rows of UV" },
  }),
  amount: choiceParam({
    label: "By",
    help: "Whether the distance between neighbours is given, how many there are in all, or how many on a square metre, or in a cubic one.",
    default: "distance",
    choices: { distance: "Distance", count: "Count", density: "Density" },
  }),
  perArea: plainParam({
    label: "Per square metre",
    help: "How many there are on a square metre where nothing keeps them off.",
    default: 1,
    above: 0,
    max: 1_000_000,
    slider: [0.01, 4],
  }),
  perVolume: plainParam({
    label: "Per cubic metre",
    help: "How many there are in a cubic metre where nothing keeps them out.",
    default: 1,
    above: 0,
    max: 1_000_000,
    slider: [0.001, 4],
  }),
  heading: angleParam({
    label: "Rows towards",
    help: "Where the columns of a grid run: 0° is north, away from you in the first view; 90° is east.",
    default: 0,
    slider: [0, Math.PI],
  }),
  clusters: switchParam({
    label: "Clusters",
    help: "Each position becomes the middle of a group, so that things stand together here and leave room there.",
  }),
  clusterCount: rangeParam("whole", {
    label: "In each",
    help: "How many stand in a cluster.",
    default: [3, 7],
    min: 1,
    max: 64,
    slider: [1, 20],
  }),
  clusterRadius: lengthParam({
    label: "Within",
    help: "How far from its middle a cluster reaches.",
    default: 0.8,
    above: 0,
    slider: [0.1, 5],
  }),
});

export type Spacing = z.infer<typeof spacingSchema>;

/** Whether props lie along their line with both their ends. */
export const isEndToEnd = ({ by }: Pick<Spacing, "by">): boolean => by === "end" || by === "each";

/** Whether what reaches past the line's end is cut there, whatever Fit says. */
export const cutsAtEnd = ({ by, each }: Pick<Spacing, "by" | "each">): boolean => by === "each" && each === "cut";

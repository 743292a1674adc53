/** Spacing: by distance or by count, insets, slide, and what happens with the remainder. */
import { z } from "zod";
import { choiceParam, lengthParam, wholeParam } from "../../scene/param";

export const spacingSchema = z.object({
  by: choiceParam({
    label: "Spacing",
    help: "Whether the distance between slots is given, how many there are on each line, into how many parts each line is divided, or the places themselves.",
    default: "distance",
    choices: { distance: "Distance", count: "Count", divide: "Divide", knots: "Knots", list: "List" },
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
    help: "How many slots each line has, evenly from inset to inset.",
    default: 10,
    min: 1,
    max: 500_000,
    slider: [1, 100],
  }),
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
  list: z
    .array(z.number())
    .max(100_000)
    .default([0, 1, 2])
    .meta({ label: "At", help: "Distances from the start, one behind the other: 0; 1.2; 3.5", unit: "m" }),
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
  slide: lengthParam({
    label: "Slide",
    help: "Moves all slots along the line. On a closed line they go round; on an open one those pushed past an end leave, and new ones come in behind them.",
    default: 0,
    slider: [-2, 2],
  }),
  remainder: choiceParam({
    label: "Left over",
    help: "What happens with the piece of line that is too short for another slot: it stays at the end, is shared out among all distances, or is split between both ends.",
    default: "end",
    choices: { end: "At end", shared: "Share out", centred: "Centre" },
  }),
});

export type Spacing = z.infer<typeof spacingSchema>;

/** What Where says of a rack: where things also stand behind each other, on each other and on shelves. */
import { z } from "zod";
import {
  choiceParam,
  FARTHEST,
  idSchema,
  lengthParam,
  rangeParam,
  switchParam,
  wholeParam,
  within,
} from "../../schema";
import { MOST_DEEP, MOST_LEVELS } from "../keys";

const by = (label: string, what: string) =>
  choiceParam({
    label,
    help: `Whether ${what} is a number of things, as many as go into so many metres, or as many as go into the length of a line.`,
    default: "number",
    choices: { number: "Number", metres: "Metres", line: "A line" },
  });

const number = (label: string, help: string, most: number) =>
  rangeParam("whole", { label, help, default: [most, most], min: 1, max: MOST_DEEP, slider: [1, 12] });

const into = (label: string, help: string, metres: number) =>
  rangeParam("m", { label, help, default: [metres, metres], min: 0, slider: [0, 3] });

export const rackParams = {
  stacked: switchParam({
    label: "Stacked",
    help: "Each place along the line becomes a column: so many behind each other, and so many on top of each other.",
  }),
  deepBy: by("Deep by", "how deep it is"),
  deep: number("Deep", "How many stand behind each other; each column draws its own number from the range.", 3),
  deepInto: into(
    "Depth",
    "How deep it is; each column draws its own from the range. As many stand there as go in.",
    0.6,
  ),
  deepLine: idSchema
    .nullable()
    .default(null)
    .meta({ label: "As deep as", help: "The line whose length is the depth." }),
  highBy: by("High by", "how high it is"),
  high: number("High", "How many stand on top of each other; each column draws its own number from the range.", 2),
  highInto: into(
    "Height",
    "How high it is; each column draws its own from the range. As many stand there as go in.",
    0.4,
  ),
  highLine: idSchema
    .nullable()
    .default(null)
    .meta({ label: "As high as", help: "The line whose length is the height." }),
  meetsRack: choiceParam({
    label: "On the line",
    help: "Which part of its depth lies on the line: its front edge, its middle or its back.",
    default: "front",
    choices: { front: "Front", middle: "Middle", back: "Back" },
  }),
  backLies: choiceParam({
    label: "Back lies",
    help: "To which side of the line's direction the rack goes back.",
    default: "left",
    choices: { left: "Left", right: "Right" },
  }),
  columnOf: choiceParam({
    label: "A column is",
    help: "Of one prop, jar behind jar; the sequence's counts then make blocks of columns. Or mixed throughout, each drawn by itself.",
    default: "one",
    choices: { one: "One prop", mixed: "Mixed" },
  }),
  levelsBy: choiceParam({
    label: "Levels by",
    help: "Whether there are so many levels, each as much higher, or one at each of the heights that are listed.",
    default: "number",
    choices: { number: "Number", heights: "Heights" },
  }),
  levelAt: z
    .array(within(FARTHEST))
    .max(MOST_LEVELS)
    .default([0, 0.4])
    .meta({ label: "Levels at", help: "How high each level lies above the line: 0; 0.35; 0.8", unit: "m" }),
  levels: wholeParam({
    label: "Levels",
    help: "How often the same comes again above, as on the shelves of a stall.",
    default: 1,
    min: 1,
    max: MOST_LEVELS,
    slider: [1, 8],
  }),
  levelRise: lengthParam({
    label: "Each higher by",
    help: "How far it is from one level up to the next.",
    default: 0.4,
    slider: [0.05, 2],
  }),
  levelOf: choiceParam({
    label: "Each level",
    help: "The same on each level, or each going on with the sequence where the one below it ended, with draws of its own.",
    default: "own",
    choices: { same: "The same", own: "Its own" },
  }),
};

/** The schema of *families*: lines of the kind between, one curve for every pair of places. */
import { z } from "zod";
import {
  choiceParam,
  factorParam,
  idSchema,
  lengthParam,
  nameSchema,
  numbered,
  switchParam,
  wholeParam,
} from "../schema";
import { knotSchema, sharedShape } from "./shared";

const reach = (label: string, help: string) => lengthParam({ label, help, default: 0, slider: [0, 0.5] });

export const betweenSchema = z.object({
  ...sharedShape,
  kind: z.literal("between"),
  /** Ends that were picked by hand, two by two. */
  knots: numbered(z.array(knotSchema).max(40_000)).default([]),
  pairs: choiceParam({
    label: "Between",
    help: "What it goes between: divisions of each line and further ones of the same, divisions of a line and of the next, the same crosswise, snap points of a dressing's props, or places that are picked by hand, two by two.",
    default: "across",
    choices: {
      along: "Along a line",
      across: "Line to line",
      crossing: "Crosswise",
      snaps: "Snap points",
      picked: "Picked",
    },
  }),
  /** The lines whose divisions it goes between, in the artist's order; of a family all its members. */
  lines: z.array(idSchema).max(1000).default([]),
  parts: wholeParam({
    label: "Divisions",
    help: "Into how many equal parts each line is divided for it; 0 for the line's own divisions, or its knots where it has none.",
    default: 0,
    min: 0,
    max: 20_000,
    slider: [0, 48],
  }),
  skip: wholeParam({
    label: "To the",
    help: "1 goes from each division to the next, 2 to the one after that, and so on.",
    default: 1,
    min: 1,
    max: 20_000,
    slider: [1, 12],
  }),
  shift: wholeParam({
    label: "Shifted by",
    help: "By how many divisions it goes on from one line to the next: 0 goes straight across.",
    default: 0,
    min: -20_000,
    max: 20_000,
    slider: [-6, 6],
  }),
  around: switchParam({ label: "All round", help: "The last line goes to the first one, too." }),
  /** The dressing whose props' snap points it goes between. */
  dressing: idSchema.nullable().default(null),
  /** The name of the snap point at which it begins, and of the one at which it ends; the same where that is null. */
  snap: nameSchema.default("top"),
  toSnap: nameSchema.nullable().default(null),
  partner: choiceParam({
    label: "Each to",
    help: "The next along its row, its nearest, all within reach, or its neighbours as in a net.",
    default: "next",
    choices: { next: "The next", nearest: "Its nearest", within: "All in reach", net: "Its neighbours" },
  }),
  within: lengthParam({
    label: "Reach",
    help: "What lies farther apart is not joined.",
    default: 5,
    above: 0,
    slider: [0.5, 20],
  }),
  form: choiceParam({
    label: "Runs",
    help: "Straight; hanging like a rope; arched upward; or straight and then laid onto the surface that is nearest to it.",
    default: "straight",
    choices: { straight: "Straight", hanging: "Hanging", arched: "Arched", surface: "On a surface" },
  }),
  hangsBy: choiceParam({
    label: "Hangs by",
    help: "How deep each hangs, or how long it is for its distance.",
    default: "sag",
    choices: { sag: "Sag", share: "Length" },
  }),
  sag: lengthParam({
    label: "Sag",
    help: "How far each hangs below the straight line between its ends, at its deepest.",
    default: 0.5,
    min: 0,
    slider: [0, 3],
  }),
  longer: factorParam({
    label: "Length",
    help: "How many times as long each is as its ends are apart.",
    default: 1.1,
    min: 1,
    max: 1000,
    slider: [1, 2],
  }),
  rise: lengthParam({
    label: "Rise",
    help: "How far the middle of each lies above the straight line between its ends; below zero it bends down.",
    default: 0.5,
    slider: [-2, 2],
  }),
  /** On a surface: these; none for all that are ground. */
  on: z.array(idSchema).max(1000).default([]),
  clearFrom: reach("Clear of the start", "How far off its first place each begins, as by the rim of a post."),
  clearTo: reach("Clear of the end", "How far off its second place each ends."),
});

export type Between = z.infer<typeof betweenSchema>;

/** Gaps: blanks by chance and in runs, stretches held open, distance to other lines, and how many are kept. */
import { z } from "zod";
import { idSchema, lengthParam, rangeParam, shareParam, switchParam, wholeParam } from "../../scene/param";

/** A stretch of a line that stays free, by arc length in metres. On a closed line it may run through the start. */
export const stretchSchema = z.object({ line: idSchema, from: z.number(), to: z.number() });

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
    help: "A run begins, on average, at one slot in so many.",
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
  stretches: z.array(stretchSchema).max(10_000).default([]),
  avoid: z.array(idSchema).max(4095).default([]),
  avoidBy: lengthParam({
    label: "Keep off by",
    help: "How far every prop keeps from the lines chosen here, such as a walkway that crosses the row.",
    default: 0.6,
    min: 0,
    slider: [0, 3],
  }),
  atLeast: wholeParam({
    label: "At least",
    help: "Chance leaves no fewer than so many; 0 for no such limit.",
    default: 0,
    min: 0,
    max: 4_000_000,
    slider: [0, 100],
  }),
  atMost: wholeParam({
    label: "At most",
    help: "No more than so many stand, the rest stays blank; 0 for no such limit.",
    default: 0,
    min: 0,
    max: 4_000_000,
    slider: [0, 100],
  }),
});

export type Gaps = z.infer<typeof gapsSchema>;

/** What: props in an ordered sequence with counts, or in weighted random order. */
import { z } from "zod";
import { choiceParam, idSchema, plainParam, wholeParam } from "../../scene/param";

const MAX_COUNT = 10_000;

export const entrySchema = z.object({
  prop: idSchema,
  count: wholeParam({
    label: "Count",
    help: "How many of this prop follow each other before the next one's turn.",
    default: 1,
    min: 1,
    max: MAX_COUNT,
    slider: [1, 12],
  }),
  weight: plainParam({
    label: "Weight",
    help: "This prop's share against the others: 3 comes three times as often as 1, and 0 never.",
    default: 1,
    min: 0,
    slider: [0, 10],
  }),
});

export const whatSchema = z.object({
  order: choiceParam({
    label: "Order",
    help: "In sequence: the props in this order, over and over. Mixed: each slot draws one by its weight.",
    default: "sequence",
    choices: { sequence: "In sequence", mixed: "Mixed" },
  }),
  entries: z.array(entrySchema).max(200).default([]),
});

export type Entry = z.infer<typeof entrySchema>;
export type What = z.infer<typeof whatSchema>;

/** What: props in an ordered sequence with counts, or in weighted random order, and special ones for some slots. */
import { z } from "zod";
import { choiceParam, idSchema, plainParam, wholeParam } from "../../scene/param";

const MAX_COUNT = 10_000;

export const entrySchema = z.object({
  /** The prop, or null for a blank: its slots stay empty. */
  prop: idSchema.nullable(),
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

const special = (label: string, help: string) => idSchema.nullable().default(null).meta({ label, help });

export const whatSchema = z.object({
  order: choiceParam({
    label: "Order",
    help: "In sequence: the props in this order, over and over. Mixed: each slot draws one by its weight.",
    default: "sequence",
    choices: { sequence: "In sequence", mixed: "Mixed" },
  }),
  entries: z.array(entrySchema).max(200).default([]),
  noRepeat: z.boolean().default(false).meta({
    label: "Not the same twice in a row",
    help: "Two neighbours never take the same prop. With just two props they alternate.",
  }),
  first: special("First", "A prop for the first slot of each line."),
  last: special("Last", "A prop for the last slot of each line."),
  nthProp: special("Every nth", "A prop for every so manieth slot."),
  nth: wholeParam({
    label: "Every how many",
    help: "5 means the fifth slot, the tenth, and so on, counted from the start of each line.",
    default: 5,
    min: 1,
    max: MAX_COUNT,
    slider: [2, 20],
  }),
});

/** Every prop that a dressing may take, each once. */
export const propsIn = ({ entries, first, last, nthProp }: What): string[] => [
  ...new Set([...entries.map((entry) => entry.prop), nthProp, first, last].filter((prop) => prop !== null)),
];

export type Entry = z.infer<typeof entrySchema>;
export type What = z.infer<typeof whatSchema>;

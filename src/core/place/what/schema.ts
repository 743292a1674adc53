/** What: props in sequence, in turn or mixed, blanks among them, and special ones for some slots. */
import { z } from "zod";
import {
  angleParam,
  choiceParam,
  idSchema,
  numbered,
  numberSchema,
  plainParam,
  switchParam,
  wholeParam,
} from "../../schema";

const MAX_COUNT = 10_000;

export const entrySchema = z.object({
  id: numberSchema.optional(),
  /** The prop or mix, or null for a blank: its slots stay empty. */
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

/** How one prop differs from the others of its dressing. */
export const ownSchema = z.object({
  prop: idSchema,
  size: plainParam({
    label: "Size",
    help: "Times the prop's own size, in this dressing.",
    default: 1,
    above: 0,
    slider: [0.25, 4],
  }),
  turn: angleParam({
    label: "Turn",
    help: "Turns this prop about its up, before the dressing's own turns.",
    default: 0,
    slider: [-Math.PI, Math.PI],
  }),
});

/** On spans with this tag stands this prop, or nothing where it is null. */
export const taggedSchema = z.object({ tag: z.string().trim().min(1).max(40), prop: idSchema.nullable() });

const special = (label: string, help: string) => idSchema.nullable().default(null).meta({ label, help });

export const whatSchema = z.object({
  order: choiceParam({
    label: "Order",
    help: "In sequence: the props in this order with their counts, over and over. In turn: one of each, there and back again. Mixed: each slot draws one by its weight.",
    default: "sequence",
    choices: { sequence: "In sequence", turn: "In turn", mixed: "Mixed" },
  }),
  entries: numbered(z.array(entrySchema).max(200)).default([]),
  own: z.array(ownSchema).max(1000).default([]),
  noRepeat: switchParam({
    label: "Not the same twice in a row",
    help: "Two neighbours never take the same prop. With just two props they alternate.",
  }),
  first: special("First", "A prop for the first slot of each line."),
  last: special("Last", "A prop for the last slot of each line."),
  corner: special("Corners", "A prop for each corner of the line, where it gets a slot of its own."),
  cornerAngle: angleParam({
    label: "Sharper than",
    help: "A knot counts as a corner when the line turns there by at least so much.",
    default: Math.PI / 9,
    min: 0,
    max: Math.PI,
    slider: [0, Math.PI / 2],
  }),
  nthProp: special("Every nth", "A prop for every second slot, every third, and so on."),
  nth: wholeParam({
    label: "Every how many",
    help: "5 means the fifth slot, the tenth, and so on, counted from the start of each line.",
    default: 5,
    min: 1,
    max: MAX_COUNT,
    slider: [2, 20],
  }),
  tagged: z.array(taggedSchema).max(100).default([]),
});

/** Every prop and mix that a dressing names, each once. */
export const propsIn = ({ entries, first, last, corner, nthProp, tagged }: Omit<What, "own">): string[] => [
  ...new Set(
    [...entries.map((entry) => entry.prop), nthProp, first, last, corner, ...tagged.map((one) => one.prop)].filter(
      (prop) => prop !== null,
    ),
  ),
];

export type Entry = z.infer<typeof entrySchema> & { id: number };
export type What = z.infer<typeof whatSchema>;

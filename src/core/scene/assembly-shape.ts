/** What an assembly is made of, and how its uses differ. */
import { z } from "zod";
import { lineSchema } from "../line";
import { dressingSchema } from "../place";
import { choiceParam, wholeParam } from "../schema";
import { surfaceSchema } from "./surface-schema";

/** Lists that a scene has, and an assembly too. */
export const PARTS = ["lines", "surfaces", "dressings"] as const;

export const partsShape = {
  lines: z.array(lineSchema).max(65_535).default([]),
  surfaces: z.array(surfaceSchema).max(10_000).default([]),
  dressings: z.array(dressingSchema).max(10_000).default([]),
};

const partsSchema = z.object(partsShape);
export type Parts = z.infer<typeof partsSchema>;

export const usesShape = {
  each: choiceParam({
    label: "Each use",
    help: "Whether all uses are the same, or each draws its variation anew, by the slot that it stands in.",
    default: "same",
    choices: { same: "The same", varied: "Varied" },
  }),
  most: wholeParam({
    label: "Different ones",
    help: "At most so many different ones are made, and shared among the uses. 0: one for each use.",
    default: 0,
    min: 0,
    max: 10_000,
    slider: [0, 24],
  }),
};

/** Where: along lines, over surfaces and areas, inside volumes, or loose: wherever each is put by hand. */
import { z } from "zod";
import { choiceParam, idSchema } from "../../schema";
import { ADDED_TAG } from "../keys";

/** Fields of a dressing can be told apart as long as there are no more. */
const MOST_FIELDS = ADDED_TAG;

const ids = z.array(idSchema).max(65_535).default([]);

export const whereSchema = z.object({
  kind: choiceParam({
    label: "Where",
    help: "Along lines, spread over surfaces and areas, inside volumes, pinned to surfaces at places that are picked, or loose, each put down by hand.",
    default: "along",
    choices: { along: "Along", over: "Over", inside: "Inside", pinned: "Pinned", loose: "Loose" },
  }),
  /** Ids of the lines, in the artist's order. A line that is no longer in the scene is passed over. */
  lines: ids,
  /** Over and pinned: the surfaces; at most so many as keys can tell apart. Without any, the areas themselves are spread over. */
  surfaces: z.array(idSchema).max(MOST_FIELDS).default([]),
  /** Over: closed lines; what lies within one of them, seen from above, belongs to it. Without any, all of the surfaces. */
  areas: ids,
  /** Over: closed lines that cut holes. */
  holes: ids,
  /** Inside: the surfaces whose insides are filled. */
  volumes: z.array(idSchema).max(MOST_FIELDS).default([]),
});

export type Where = z.infer<typeof whereSchema>;

/** What pegs of loose placements name instead of a surface, and those of pins that have lost theirs. */
export const LOOSE = "loose";

/** Where: along lines, or over surfaces and areas. */
import { z } from "zod";
import { choiceParam, idSchema } from "../../scene/param";

const ids = z.array(idSchema).max(4095).default([]);

export const whereSchema = z.object({
  kind: choiceParam({
    label: "Where",
    help: "Along lines, or spread over surfaces and areas.",
    default: "along",
    choices: { along: "Along", over: "Over" },
  }),
  /** Ids of the lines, in the artist's order. A line that is no longer in the scene is passed over. */
  lines: ids,
  /** Over: the surfaces; at most so many as keys can tell apart. Without any, the areas themselves are spread over. */
  surfaces: z.array(idSchema).max(63).default([]),
  /** Over: closed lines; what lies within one of them, seen from above, belongs to it. Without any, all of the surfaces. */
  areas: ids,
  /** Over: closed lines that cut holes. */
  holes: ids,
});

export type Where = z.infer<typeof whereSchema>;

/** Gaps: a chance of blank. */
import { z } from "zod";
import { shareParam } from "../../scene/param";

export const gapsSchema = z.object({
  chance: shareParam({
    label: "Blank",
    help: "How many slots out of a hundred stay empty. A higher share only adds blanks to those there were.",
    default: 0,
    slider: [0, 1],
  }),
});

export type Gaps = z.infer<typeof gapsSchema>;

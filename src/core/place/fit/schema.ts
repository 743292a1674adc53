/** Fit: exact offsets along, across and up, in the line's own frame. */
import { z } from "zod";
import { lengthParam } from "../../scene/param";

const offset = (label: string, help: string) => lengthParam({ label, help, default: 0, slider: [-2, 2] });

export const fitSchema = z.object({
  along: offset("Along", "Moves every prop along the line. Past an open end they go straight on."),
  across: offset(
    "Across",
    "Moves every prop to the side: to the left of the line's direction, or to the right below zero.",
  ),
  up: offset("Up", "Moves every prop up, or down below zero."),
});

export type Fit = z.infer<typeof fitSchema>;

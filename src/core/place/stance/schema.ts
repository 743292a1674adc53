/** Stance: forward along the line, where up comes from, turns, and which end of the prop meets the line. */
import { z } from "zod";
import { angleParam, choiceParam } from "../../scene/param";

const turn = (label: string, help: string) => angleParam({ label, help, default: 0, slider: [-Math.PI, Math.PI] });

export const stanceSchema = z.object({
  up: choiceParam({
    label: "Up from",
    help: "World: forward along the line, up as near to the sky as that allows. Plumb: always upright, turned to the line's heading. Line: the line's own frame, which never twists.",
    default: "world",
    choices: { world: "World", plumb: "Plumb", line: "Line" },
  }),
  meets: choiceParam({
    label: "Meets the line",
    help: "Whether the prop stands on the line with its bottom or hangs from it by its top.",
    default: "stand",
    choices: { stand: "Stands on it", hang: "Hangs from it" },
  }),
  turnAlong: turn("Turn along", "Rolls each prop about the line's direction."),
  turnAcross: turn("Turn across", "Tips each prop forward or back, about the direction across the line."),
  turnUp: turn("Turn up", "Turns each prop about its up."),
});

export type Stance = z.infer<typeof stanceSchema>;

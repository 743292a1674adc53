/** Variation: position, turn and size in ranges, each with its own switch, and the dressing's seed. */
import { z } from "zod";
import { rangeParam, wholeParam } from "../../scene/param";

const position = (label: string, help: string) =>
  rangeParam("m", { label, help, default: [-0.1, 0.1], slider: [-0.5, 0.5] });
const turn = (label: string, help: string, comfortable = Math.PI / 4) =>
  rangeParam("rad", { label, help, default: [-0.1, 0.1], slider: [-comfortable, comfortable] });
const on = (label: string, help: string) => z.boolean().default(false).meta({ label, help });

export const variationSchema = z.object({
  seed: wholeParam({
    label: "Seed",
    help: "Another number deals everything that is left to chance anew; the same number always deals the same.",
    default: 1,
    min: 0,
    max: 999_999,
    slider: [0, 100],
  }),
  positionOn: on("Position", "Moves each placement a little."),
  along: position("Along", "How far along the line."),
  across: position("Across", "How far to the side."),
  up: position("Up", "How far up or down."),
  turnOn: on("Turn", "Turns each placement a little."),
  turnAlong: turn("Along", "About the line's direction."),
  turnAcross: turn("Across", "About the direction across the line."),
  turnUp: turn("Up", "About up.", Math.PI),
  sizeOn: on("Size", "Makes each placement a little larger or smaller, from where it meets the line."),
  size: rangeParam("factor", {
    label: "Times",
    help: "Times the prop's own size.",
    default: [0.9, 1.1],
    above: 0,
    slider: [0.25, 3],
  }),
});

export type Variation = z.infer<typeof variationSchema>;

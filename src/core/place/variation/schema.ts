/** Variation: position, turn, size, mirroring and tint in ranges, each with its own switch; wander; the dressing's seed. */
import { z } from "zod";
import {
  angleParam,
  choiceParam,
  colourParam,
  lengthParam,
  plainParam,
  rangeParam,
  secondsParam,
  shareParam,
  switchParam,
  wholeParam,
  within,
} from "../../schema";

const position = (label: string, help: string, most = 0.1) =>
  rangeParam("m", { label, help, default: [0 - most, most], slider: [-0.5, 0.5] });
const turn = (label: string, help: string, most = 0, comfortable = Math.PI / 4) =>
  rangeParam("rad", { label, help, default: [0 - most, most], slider: [-comfortable, comfortable] });
const factor = (label: string, help: string, standard: readonly [number, number]) =>
  rangeParam("factor", { label, help, default: standard, above: 0, slider: [0.25, 3] });
const spread = (label: string) =>
  choiceParam({
    label,
    help: "Even: every value of a range is as likely as any other. Bell: most lie near the middle.",
    default: "even",
    choices: { even: "Even", bell: "Bell" },
  });
const STEP_HELP = "Only whole steps of so much are drawn, counted from the lower end of the range; 0 for any value.";

export const variationSchema = z.object({
  seed: wholeParam({
    label: "Seed",
    help: "Another number deals everything that is left to chance anew; the same number always deals the same.",
    default: 1,
    min: 0,
    max: 999_999,
    slider: [0, 100],
    holds: true,
  }),
  positionOn: switchParam({ label: "Position", help: "Moves each placement a little." }),
  along: position("Along", "How far along the line."),
  across: position("Across", "How far to the side."),
  up: position("Up", "How far up or down.", 0),
  positionSpread: spread("Spread"),
  positionStep: lengthParam({ label: "In steps of", help: STEP_HELP, default: 0, min: 0, slider: [0, 0.5] }),
  turnOn: switchParam({ label: "Turn", help: "Turns each placement a little." }),
  turnAlong: turn("Along", "About the line's direction."),
  turnAcross: turn("Across", "About the direction across the line."),
  turnUp: turn("Up", "About up.", 0.1, Math.PI),
  turnSpread: spread("Spread"),
  turnStep: angleParam({
    label: "In steps of",
    help: `${STEP_HELP} 90° makes quarter turns.`,
    default: 0,
    min: 0,
    slider: [0, Math.PI / 2],
  }),
  sizeOn: switchParam({
    label: "Size",
    help: "Makes each placement a little larger or smaller, from where it meets the line.",
  }),
  size: factor("Times", "Times the prop's own size.", [0.9, 1.1]),
  width: factor("Width", "Times the prop's own width, on top of its size.", [1, 1]),
  height: factor("Height", "Times the prop's own height, on top of its size.", [1, 1]),
  depth: factor("Depth", "Times the prop's own depth, on top of its size.", [1, 1]),
  sizeSpread: spread("Spread"),
  sizeStep: plainParam({ label: "In steps of", help: STEP_HELP, default: 0, min: 0, slider: [0, 0.5] }),
  mirror: shareParam({
    label: "Mirrored",
    help: "How many out of a hundred are turned into their mirror image, left for right.",
    default: 0,
    slider: [0, 1],
  }),
  tintOn: switchParam({ label: "Tint", help: "Tints each placement with a colour between two." }),
  tintFrom: colourParam({ label: "From", help: "White leaves a prop as it is.", default: "#ffffff" }),
  tintTo: colourParam({ label: "To", help: "The other end of the range of tints.", default: "#d8cbb3" }),
  pose: choiceParam({
    label: "Its clip",
    help: "Of props whose files have clips. As it is: as at rest. Still: all at one moment of it. In step: all play it together. Each its own: each begins elsewhere in it.",
    default: "off",
    choices: { off: "As it is", still: "Still", step: "In step", own: "Each its own" },
  }),
  clip: wholeParam({
    label: "Clip",
    help: "Which of the file's clips, counted from 0.",
    default: 0,
    min: 0,
    max: 100_000,
    slider: [0, 10],
    holds: true,
  }),
  clipAt: secondsParam({
    label: "From",
    help: "The moment of the clip at which it stands, or begins.",
    default: 0,
    slider: [0, 5],
  }),
  clipStarts: choiceParam({
    label: "Begins",
    help: "Where in the clip each begins: dealt by chance, or each so much later than the one before it along the line.",
    default: "chance",
    choices: { chance: "By chance", order: "In order" },
  }),
  clipStep: secondsParam({
    label: "Each later by",
    help: "How much later than the one before it.",
    default: 0.2,
    slider: [0, 2],
  }),
  clipSpeed: rangeParam("factor", {
    label: "Speed",
    help: "How many times as fast as in its file; in step all go as fast as the middle of it.",
    default: [1, 1],
    min: -1000,
    max: 1000,
    slider: [0, 3],
  }),
  stills: wholeParam({
    label: "Different stills",
    help: "At most so many different ones there are of each prop, which all that look alike share.",
    default: 16,
    min: 2,
    max: 256,
    slider: [2, 64],
    holds: true,
  }),
  /** How far the lowest and the highest speed have taken clips at the moment that the scene is looked at, seconds. */
  clipGone: z
    .tuple([within(1e12), within(1e12)])
    .readonly()
    .optional(),
  wanderOn: switchParam({
    label: "Wander",
    help: "A slow wave that makes it look laid by hand. Neighbours wander together.",
  }),
  wanderAcross: lengthParam({
    label: "Sideways",
    help: "How far to either side, at most.",
    default: 0.1,
    min: 0,
    slider: [0, 1],
  }),
  wanderUp: lengthParam({ label: "Up", help: "How far up or down, at most.", default: 0, min: 0, slider: [0, 1] }),
  wanderOver: lengthParam({
    label: "Over",
    help: "How far it is from one bend of the wave to the next.",
    default: 2,
    min: 0.001,
    slider: [0.2, 10],
  }),
});

export type Variation = z.infer<typeof variationSchema>;

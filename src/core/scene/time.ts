/** A scene's time: how long it is, how it is counted, and what of it is played. */
import { z } from "zod";
import { secondsParam, switchParam, wholeParam, within } from "../schema";

export const timeSchema = z.object({
  length: secondsParam({
    label: "Length",
    help: "How long the scene is. Keyframes beyond its end are kept.",
    default: 10,
    min: 0.01,
    max: 86_400,
    slider: [1, 60],
  }),
  framesPerSecond: wholeParam({
    label: "Frames a second",
    help: "How time is counted. Keyframes lie in seconds, so another number moves none.",
    default: 24,
    min: 1,
    max: 240,
    slider: [12, 60],
  }),
  loops: switchParam({ label: "Over and over", help: "Begins again when it has come to the end.", default: true }),
  /** The stretch that is played, seconds; null for all. */
  stretch: z
    .tuple([within(86_400).min(0), within(86_400).min(0)])
    .readonly()
    .refine(([from, to]) => from < to, { error: "the stretch that is played ends before it begins" })
    .nullable()
    .default(null),
  /** Whether time is shown though nothing changes yet. */
  shown: z.boolean().default(false),
});

export type Time = z.infer<typeof timeSchema>;

/** The number of frames of a scene: its beginning is one, and so is its end. */
export const frameCount = ({ length, framesPerSecond }: Time): number =>
  Math.floor(length * framesPerSecond + 1e-6) + 1;

/** The moment of a frame, seconds; frames are counted from 0. */
export const momentOf = (frame: number, { framesPerSecond }: Pick<Time, "framesPerSecond">): number =>
  frame / framesPerSecond;

/** The frame nearest to a moment. */
export const frameAt = (t: number, { framesPerSecond }: Pick<Time, "framesPerSecond">): number =>
  Math.round(t * framesPerSecond);

/** What of a scene is played, seconds. */
export const playedOf = ({ length, stretch }: Pick<Time, "length" | "stretch">): readonly [number, number] =>
  stretch ?? [0, length];

/** *A course*: how a number, range, place, colour, switch or choice goes over time, by keyframes. */
import { z } from "zod";
import { choiceParam, within } from "../schema";

/** Moments lie within so many seconds of the scene's beginning. */
export const MOST_SECONDS = 1_000_000;
/** Keyframes that lie nearer to each other than this are one, seconds. */
export const SAME_MOMENT = 5e-4;

/** No value of a scene goes beyond this. */
const any = within(2 ** 40);
const valueSchema = z.union([any, z.boolean(), z.string().max(200), z.array(any).min(2).max(4).readonly()]);
export type CourseValue = z.infer<typeof valueSchema>;

/** A handle of a smooth stretch: at which share of its time, and of the way from its value to the next. */
const handleSchema = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]).readonly();

export const keyframeSchema = z.object({
  /** Seconds from the scene's beginning. */
  at: within(MOST_SECONDS),
  value: valueSchema,
  /** How it goes on from here to the next keyframe. */
  go: choiceParam({
    label: "Goes on",
    help: "To the next keyframe: gently, straight, or staying until it is there.",
    default: "smooth",
    choices: { smooth: "Gently", straight: "Straight", hold: "Staying" },
  }),
  /** Smooth: the handle with which it leaves here, and the one with which it arrives here; without them they suit its neighbours. */
  leave: handleSchema.optional(),
  arrive: handleSchema.optional(),
});
export type Keyframe = z.infer<typeof keyframeSchema>;

const beyond = (label: string, help: string) =>
  choiceParam({
    label,
    help,
    default: "hold",
    choices: { hold: "Stays", repeat: "Again", toAndFro: "To and fro", goOn: "Goes on" },
  });

export const courseSchema = z.object({
  keyframes: z
    .array(keyframeSchema)
    .min(1)
    .max(10_000)
    .refine((all) => all.every(({ at }, i) => i === 0 || at - all[i - 1].at >= SAME_MOMENT / 2), {
      error: "keyframes follow each other in time",
    })
    .refine((all) => all.every(({ value }) => isAlike(value, all[0].value)), {
      error: "the keyframes of one course have values of one sort",
    }),
  before: beyond("Before", "What it does before its first keyframe."),
  after: beyond("After", "What it does after its last keyframe."),
});
export type Course = z.infer<typeof courseSchema>;

/**
 * The courses of a thing, by the paths of what has them, such as `fit/along` or, of a list by the ids in it, `knots/3/position`.
 */
export const coursesSchema = z.record(z.string().max(200), courseSchema).default({});
export type Courses = z.infer<typeof coursesSchema>;

const isAlike = (a: CourseValue, b: CourseValue): boolean =>
  typeof a === typeof b && (typeof a !== "object" || a.length === (b as readonly number[]).length);

/** Which values of a scene's things can change over time, and what each is: read from the schemas. */
import { z } from "zod";
import { lineSchema } from "../line";
import { dressingSchema } from "../place";
import { surfaceSchema } from "./surface-schema";
import type { CourseValue, Mixing } from "../course";
import { shapeOf, unwrapped, type ParamDescription } from "../schema";

/** The lists whose things can have courses. */
export const COURSED = ["lines", "surfaces", "dressings"] as const;
export type CoursedList = (typeof COURSED)[number];

/** What each list holds. */
export const THING_SCHEMAS: Readonly<Record<CoursedList, z.ZodType>> = {
  lines: lineSchema,
  surfaces: surfaceSchema,
  dressings: dressingSchema,
};

/** Numbers and choices that say what a thing is rather than how it is. */
const FIXED = new Set([
  "id",
  "number",
  "kind",
  "triangles",
  "vertices",
  "hidden",
  "locked",
  "outline",
  "gone",
  "rest",
  "held",
]);

/** *A value that can change over time.* */
export interface TimedParam {
  /** The way to it from its thing: properties, and indices in lists. */
  steps: (string | number)[];
  value: CourseValue;
  label: string;
  unit: ParamDescription["unit"] | null;
  mixing: Mixing;
  /** Whether it is a whole number at every moment. */
  whole: boolean;
  allows: (value: CourseValue) => boolean;
}

/** The value at a path of a thing, see `core/course`; null where there is none that can change over time. */
export function paramAt(list: CoursedList, thing: unknown, path: string): TimedParam | null {
  const steps: (string | number)[] = [];
  let schema: z.ZodType | undefined = THING_SCHEMAS[list];
  let value: unknown = thing;
  for (const segment of path.split("/")) {
    if (!schema || value === null || typeof value !== "object") return null;
    const bare: z.ZodType = unwrapped(schema);
    if (bare instanceof z.ZodArray && Array.isArray(value)) {
      const i = value.findIndex((one: { id?: unknown } | null) => String(one?.id) === segment);
      if (i < 0) return null;
      steps.push(i);
      schema = bare.element as z.ZodType;
      value = value[i];
    } else {
      const shape = shapeOf(bare, value as Record<string, unknown>);
      if (!shape || !Object.hasOwn(shape, segment) || FIXED.has(segment)) return null;
      steps.push(segment);
      schema = shape[segment];
      value = (value as Record<string, unknown>)[segment];
    }
  }
  return schema && value !== undefined && value !== null ? timed(schema, value, steps) : null;
}

function timed(schema: z.ZodType, value: unknown, steps: (string | number)[]): TimedParam | null {
  const bare = unwrapped(schema);
  const { label, unit = null, holds } = (schema.meta() ?? {}) as Partial<ParamDescription>;
  const mixing = holds ? "hold" : mixingOf(bare, value, steps);
  if (!mixing) return null;
  return {
    steps,
    value: value as CourseValue,
    label: label ?? wordFor(steps),
    unit,
    mixing,
    whole: unit === "whole" && mixing === "numbers",
    allows: (one) => schema.safeParse(one).success,
  };
}

function mixingOf(bare: z.ZodType, value: unknown, steps: readonly (string | number)[]): Mixing | null {
  if (bare instanceof z.ZodNumber) return "numbers";
  if (bare instanceof z.ZodTuple) return steps.at(-1) === "rotation" ? "turn" : "numbers";
  if (bare instanceof z.ZodBoolean || bare instanceof z.ZodEnum) return "hold";
  return bare instanceof z.ZodString && /^#[0-9a-f]{6}$/i.test(value as string) ? "colour" : null;
}

/** What has no label is called by its property. */
function wordFor(steps: readonly (string | number)[]): string {
  const name = String(steps.at(-1));
  return name.slice(0, 1).toUpperCase() + name.slice(1);
}

/** What is wrong with a thing's courses, or null: one that is of nothing, or has values that are not allowed. */
export function coursesComplaint(
  list: CoursedList,
  thing: { courses: Record<string, { keyframes: readonly { value: CourseValue }[] }> },
): string | null {
  for (const [path, { keyframes }] of Object.entries(thing.courses)) {
    const param = paramAt(list, thing, path);
    if (!param) return `“${path}” is nothing that can change over time`;
    const bad = keyframes.find(({ value }) => !param.allows(value));
    if (bad) return `${param.label} cannot be ${JSON.stringify(bad.value)} at a keyframe`;
  }
  return null;
}

/** The seven steps of a dressing, each from its own folder. */
import type { z } from "zod";
import { fitSchema } from "./fit/schema";
import { gapsSchema } from "./gaps/schema";
import { spacingSchema } from "./spacing/schema";
import { stanceSchema } from "./stance/schema";
import { variationSchema } from "./variation/schema";
import { whatSchema } from "./what/schema";
import { whereSchema } from "./where/schema";

/** The steps in their order, which never changes. */
export const STEP_SCHEMAS = {
  where: whereSchema,
  what: whatSchema,
  spacing: spacingSchema,
  stance: stanceSchema,
  fit: fitSchema,
  variation: variationSchema,
  gaps: gapsSchema,
} as const;

export type StepName = keyof typeof STEP_SCHEMAS;
export const STEP_NAMES = Object.keys(STEP_SCHEMAS) as StepName[];

/** Each as part of something whole, with all that it leaves out at its default. */
export const STEPS = {
  where: whereSchema.prefault({}),
  what: whatSchema.prefault({}),
  spacing: spacingSchema.prefault({}),
  stance: stanceSchema.prefault({}),
  fit: fitSchema.prefault({}),
  variation: variationSchema.prefault({}),
  gaps: gapsSchema.prefault({}),
} as const;

/** The schema of a step's parameter; undefined where it has none of that name. */
export const schemaOf = (step: StepName, name: string): z.ZodType | undefined => {
  const shape: Record<string, z.ZodType> = STEP_SCHEMAS[step].shape;
  return Object.hasOwn(shape, name) ? shape[name] : undefined;
};

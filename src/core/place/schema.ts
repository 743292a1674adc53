/** The Zod schema of a dressing: its seven steps, each from its own folder, and its pegs. */
import { z } from "zod";
import { coursesSchema } from "../course";
import { idSchema, nameSchema } from "../schema";
import { fitSchema } from "./fit/schema";
import { gapsSchema } from "./gaps/schema";
import { oldPegSchema, pegsSchema } from "./pegs";
import { recipeUseSchema } from "./recipe/schema";
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

export const dressingSchema = z.object({
  id: idSchema,
  name: nameSchema,
  where: whereSchema.prefault({}),
  what: whatSchema.prefault({}),
  spacing: spacingSchema.prefault({}),
  stance: stanceSchema.prefault({}),
  fit: fitSchema.prefault({}),
  variation: variationSchema.prefault({}),
  gaps: gapsSchema.prefault({}),
  /** The recipe that it was made by; null for none. */
  recipe: recipeUseSchema.nullable().default(null),
  courses: coursesSchema,
  pegs: pegsSchema.default({}),
  /** Pegs of version 5 that are brought up once it is known where their slots were. */
  oldPegs: z.array(oldPegSchema).max(1_000_000).default([]),
});

export type Dressing = z.infer<typeof dressingSchema>;

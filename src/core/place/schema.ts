/** The Zod schema of a dressing: its seven steps, each from its own folder, its pegs, and what was sown. */
import { z } from "zod";
import { coursesSchema } from "../course";
import { idSchema, nameSchema } from "../schema";
import { oldPegSchema, pegsSchema } from "./pegs";
import { recipeUseSchema } from "./recipe/schema";
import { STEPS } from "./steps";
import { sownSchema } from "./sown/schema";

export const dressingSchema = z.object({
  id: idSchema,
  name: nameSchema,
  ...STEPS,
  /** The recipe that it was made by; null for none. */
  recipe: recipeUseSchema.nullable().default(null),
  courses: coursesSchema,
  pegs: pegsSchema.default({}),
  /** What was sown by hand, a stroke at a time. */
  sown: sownSchema,
  /** Pegs of version 5 that are brought up once it is known where their slots were. */
  oldPegs: z.array(oldPegSchema).max(1_000_000).default([]),
});

export type Dressing = z.infer<typeof dressingSchema> & {
  /** What slots along lines draw by besides, for each variant in which it is worked out; only there, never in a file. */
  salts?: readonly number[];
};

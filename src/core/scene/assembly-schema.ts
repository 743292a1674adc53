/** The Zod schema of an assembly: dressings with the lines and surfaces that they need, used as one prop. */
import { z } from "zod";
import { assemblyRecipeUseSchema } from "./assembly-recipe";
import { partsShape, usesShape } from "./assembly-shape";

export const assemblySchema = z.object({
  ...partsShape,
  ...usesShape,
  /** The recipe that it was made by; null for none. */
  recipe: assemblyRecipeUseSchema.nullable().default(null),
});

export type Assembly = z.infer<typeof assemblySchema>;

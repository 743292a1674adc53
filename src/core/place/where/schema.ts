/** Where: along one or more lines. */
import { z } from "zod";
import { idSchema } from "../../scene/param";

export const whereSchema = z.object({
  /** Ids of the lines, in the artist's order. A line that is no longer in the scene is passed over. */
  lines: z.array(idSchema).max(4095).default([]),
});

export type Where = z.infer<typeof whereSchema>;

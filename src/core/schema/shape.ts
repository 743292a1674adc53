/** What a schema is beneath defaults and the like, and what properties it has for a value. */
import { z } from "zod";

/** A schema without defaults, whether it may be missing, and what is done to it once it is read. */
export function unwrapped(schema: z.ZodType): z.ZodType {
  let bare = schema;
  for (;;) {
    if (bare instanceof z.ZodDefault || bare instanceof z.ZodPrefault || bare instanceof z.ZodNullable)
      bare = bare.unwrap() as z.ZodType;
    else if (bare instanceof z.ZodOptional || bare instanceof z.ZodReadonly) bare = bare.unwrap() as z.ZodType;
    else if (bare instanceof z.ZodPipe) bare = bare.in as z.ZodType;
    else return bare;
  }
}

/** The properties of an object's schema; of one of several sorts those of its own. */
export function shapeOf(bare: z.ZodType, value: Record<string, unknown>): Record<string, z.ZodType> | null {
  if (bare instanceof z.ZodObject) return bare.shape as Record<string, z.ZodType>;
  if (!(bare instanceof z.ZodDiscriminatedUnion)) return null;
  const { discriminator } = bare.def;
  for (const option of bare.options as z.ZodType[]) {
    const { shape } = unwrapped(option) as z.ZodObject;
    if ((shape[discriminator] as z.ZodType).safeParse(value[discriminator]).success) return shape;
  }
  return null;
}

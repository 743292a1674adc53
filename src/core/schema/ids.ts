/** The ids in some data: found by the data's schema, so that no other word is taken for one. */
import { z } from "zod";
import { hostIdSchema, idSchema } from "./param";
import { shapeOf, unwrapped } from "./shape";

const isId = (bare: z.ZodType): boolean => bare === idSchema || bare === hostIdSchema;

/** The same data with other ids; what has none stays the same object. */
export function withIds<T>(schema: z.ZodType, value: T, change: (id: string) => string): T {
  const bare = unwrapped(schema);
  if (!holdsIds(bare)) return value;
  if (typeof value === "string") return isId(bare) ? (change(value) as T) : value;
  if (typeof value !== "object" || value === null) return value;
  const of = partsOf(bare, value);
  if (Array.isArray(value)) {
    const now = value.map((one: unknown, i) => withIds(of(String(i)), one, change));
    return now.some((one, i) => one !== value[i]) ? (now as T) : value;
  }
  let now = value as Record<string, unknown>;
  for (const [name, part] of Object.entries(value)) {
    const changed: unknown = withIds(of(name), part, change);
    if (changed !== part) now = { ...now, [name]: changed };
  }
  return now as T;
}

/** Visits all ids. */
export function eachId(schema: z.ZodType, value: unknown, visit: (id: string) => void): void {
  withIds(schema, value, (id) => {
    visit(id);
    return id;
  });
}

const NOTHING = z.unknown();

/** The schema of each part of some data. */
function partsOf(bare: z.ZodType, value: object): (name: string) => z.ZodType {
  if (bare instanceof z.ZodArray) return () => bare.element as z.ZodType;
  if (bare instanceof z.ZodTuple) return (i) => (bare.def.items[Number(i)] as z.ZodType | undefined) ?? NOTHING;
  if (bare instanceof z.ZodRecord) return () => bare.valueType as z.ZodType;
  const shape = shapeOf(bare, value as Record<string, unknown>);
  return (name) => (shape && Object.hasOwn(shape, name) ? shape[name] : NOTHING);
}

const known = new WeakMap<z.ZodType, boolean>();

/** Whether there may be ids in what a schema describes. */
function holdsIds(schema: z.ZodType): boolean {
  const bare = unwrapped(schema);
  if (isId(bare)) return true;
  let holds = known.get(bare);
  if (holds !== undefined) return holds;
  // Until it is known of what is in it, which may be of the same sort again.
  known.set(bare, false);
  holds = insideOf(bare).some(holdsIds);
  known.set(bare, holds);
  return holds;
}

function insideOf(bare: z.ZodType): readonly z.ZodType[] {
  if (bare instanceof z.ZodArray) return [bare.element as z.ZodType];
  if (bare instanceof z.ZodTuple) return bare.def.items as z.ZodType[];
  if (bare instanceof z.ZodRecord) return [bare.valueType as z.ZodType];
  if (bare instanceof z.ZodObject) return Object.values(bare.shape as Record<string, z.ZodType>);
  return bare instanceof z.ZodDiscriminatedUnion ? (bare.options as z.ZodType[]) : [];
}

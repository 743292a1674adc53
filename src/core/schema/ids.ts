/** The ids in some data: found by the data's schema, so that no other word is taken for one. */
import { z } from "zod";
import { hostIdSchema, idSchema } from "./param";
import { shapeOf, unwrapped } from "./shape";

/** Where in what a schema describes there may be ids; null where there are none. */
type Way =
  | { kind: "id" }
  | { kind: "each"; of: Way }
  | { kind: "tuple"; of: readonly (Way | null)[] }
  | { kind: "object"; of: [name: string, way: Way][] }
  /** One of several sorts, by what a property says. */
  | { kind: "sorts"; by: string; bare: z.ZodType; of: Map<unknown, Way | null> };

const known = new WeakMap<z.ZodType, Way | null>();

function wayIn(schema: z.ZodType): Way | null {
  const bare = unwrapped(schema);
  let way = known.get(bare);
  if (way === undefined) {
    // Until it is known of what is in it, which may be of the same sort again.
    known.set(bare, null);
    known.set(bare, (way = found(bare)));
  }
  return way;
}

function found(bare: z.ZodType): Way | null {
  if (bare === idSchema || bare === hostIdSchema) return { kind: "id" };
  if (bare instanceof z.ZodArray || bare instanceof z.ZodRecord) {
    const of = wayIn((bare instanceof z.ZodArray ? bare.element : bare.valueType) as z.ZodType);
    return of && { kind: "each", of };
  }
  if (bare instanceof z.ZodTuple) {
    const of = (bare.def.items as z.ZodType[]).map(wayIn);
    return of.some(Boolean) ? { kind: "tuple", of } : null;
  }
  if (bare instanceof z.ZodObject) return fieldsOf(bare.shape as Record<string, z.ZodType>);
  return bare instanceof z.ZodDiscriminatedUnion
    ? { kind: "sorts", by: bare.def.discriminator, bare, of: new Map() }
    : null;
}

function fieldsOf(shape: Record<string, z.ZodType>): Way | null {
  const of = Object.entries(shape).flatMap(([name, part]): [string, Way][] => {
    const way = wayIn(part);
    return way ? [[name, way]] : [];
  });
  return of.length > 0 ? { kind: "object", of } : null;
}

/** The same data with other ids; what has none stays the same object. */
export const withIds = <T>(schema: z.ZodType, value: T, change: (id: string) => string): T =>
  changed(wayIn(schema), value, change) as T;

/** Visits all ids. */
export function eachId(schema: z.ZodType, value: unknown, visit: (id: string) => void): void {
  withIds(schema, value, (id) => {
    visit(id);
    return id;
  });
}

function changed(way: Way | null, value: unknown, change: (id: string) => string): unknown {
  if (way === null) return value;
  if (way.kind === "id") return typeof value === "string" ? change(value) : value;
  if (typeof value !== "object" || value === null) return value;
  if (way.kind === "sorts") return changed(sortOf(way, value as Record<string, unknown>), value, change);
  if (Array.isArray(value)) {
    const of = (i: number) => (way.kind === "each" ? way.of : way.kind === "tuple" ? way.of[i] : null);
    const now = value.map((one: unknown, i) => changed(of(i), one, change));
    return now.some((one, i) => one !== value[i]) ? now : value;
  }
  const parts = way.kind === "each" ? Object.keys(value).map((name) => [name, way.of] as const) : way.kind === "object" ? way.of : []; // prettier-ignore
  let now = value as Record<string, unknown>;
  for (const [name, of] of parts) {
    const part = (value as Record<string, unknown>)[name];
    const other = changed(of, part, change);
    if (other !== part) now = { ...now, [name]: other };
  }
  return now;
}

function sortOf({ by, bare, of }: Extract<Way, { kind: "sorts" }>, value: Record<string, unknown>): Way | null {
  let way = of.get(value[by]);
  if (way === undefined) {
    const shape = shapeOf(bare, value);
    of.set(value[by], (way = shape && fieldsOf(shape)));
  }
  return way;
}

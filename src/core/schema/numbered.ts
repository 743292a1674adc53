/** Lists whose items have numbers of their own, which they keep when others come, go and change places. */
import { z } from "zod";

/** What numbered items have besides: a number that no other of the list has. */
export const numberSchema = z
  .number()
  .int()
  .min(0)
  .max(2 ** 28);

export interface Numbered {
  id: number;
}

/** The number for a further item. */
export const nextNumber = (items: readonly Partial<Numbered>[]): number =>
  items.reduce((next, { id = -1 }) => Math.max(next, id + 1), 0);

/** The items with numbers; those that have none get the next free ones in their order. */
function withNumbers<T extends Partial<Numbered>>(items: readonly T[]): (T & Numbered)[] {
  let next = nextNumber(items);
  // Written first, as it is when it is read.
  return items.map((item) => {
    const id = item.id ?? next++;
    return Object.assign({ id }, item, { id });
  });
}

/** The items of two lists put together, or of one of which a part was repeated: what came later has other numbers. */
export function distinct<T extends Numbered>(items: readonly T[]): T[] {
  const seen = new Set<number>();
  let next = nextNumber(items);
  return items.map((item) => {
    const isNew = !seen.has(item.id);
    seen.add(item.id);
    return isNew ? item : { ...item, id: next++ };
  });
}

/** A list of items with an `id: numberSchema.optional()`, which all have one when they have been read. */
export const numbered = <T extends z.ZodType<Partial<Numbered>>>(list: z.ZodArray<T>) =>
  list.transform((items, context) => {
    const seen = new Set<number>();
    items.forEach(({ id }, i) => {
      if (id === undefined) return;
      if (seen.has(id)) context.addIssue({ code: "custom", path: [i, "id"], message: `${id} is used twice` });
      seen.add(id);
    });
    return withNumbers(items as z.output<T>[]);
  });

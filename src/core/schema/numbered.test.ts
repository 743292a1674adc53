import fc from "fast-check";
import { z } from "zod";
import { distinct, nextNumber, numbered, numberSchema } from ".";

const list = numbered(z.array(z.object({ id: numberSchema.optional(), name: z.string() })));
const items = fc.uniqueArray(fc.record({ id: fc.option(fc.nat(50), { nil: undefined }), name: fc.string() }), {
  comparator: (a, b) => a !== undefined && a === b,
  selector: ({ id }) => id,
});

test("whatever has no number gets one, whatever has one keeps it, and no two are alike; two alike are refused", () => {
  fc.assert(
    fc.property(items, (given) => {
      const read = list.parse(given);
      expect(new Set(read.map(({ id }) => id)).size).toBe(given.length);
      read.forEach((item, i) => expect(item).toEqual({ ...given[i], id: given[i].id ?? item.id }));
      expect(list.parse(read)).toEqual(read);
      expect(read.map(({ id }) => id)).not.toContain(nextNumber(read));
      // Put together with itself, what came first keeps its number.
      const twice = distinct([...read, ...read]);
      expect(twice.slice(0, read.length)).toEqual(read);
      expect(new Set(twice.map(({ id }) => id)).size).toBe(twice.length);
      if (read.length > 0) expect(list.safeParse([...read, read[0]]).success).toBe(false);
    }),
  );
});

import fc from "fast-check";
import { evenly } from "../../math/testing";
import { makeLine } from "../../line/testing";
import { dressing, evaluate, field, seen, straight, surroundings } from "../testing";
import { keepAmount, keepRule } from "./keep";
import type { Spacing } from "./schema";

const AMOUNTS: readonly Spacing["amount"][] = ["distance", "count", "density"];

test("over a surface the kind of amount changes, and what is there stays as nearly as can be", () => {
  const meadow = { ...surroundings([]), surfaces: new Map([["field", { mesh: field(30, () => 0), ground: true }]]) };
  const pattern = fc.constantFrom("even", "random", "square", "hexagonal");
  fc.assert(
    fc.property(pattern, fc.integer({ min: 400, max: 1500 }), fc.constantFrom(...AMOUNTS), (pattern, count, amount) => {
      const at = (spacing: object) => {
        const made = dressing({ where: { kind: "over", surfaces: ["field"] }, spacing } as never);
        return { spacing: made.spacing, placed: seen(made, meadow, false) };
      };
      const first = at({ pattern, amount: "count", count });
      const there = first.placed.count;
      const kept = keepAmount(first.spacing, amount, first.placed, false);
      const next = at({ ...first.spacing, ...kept });
      // At the rim there is room for a few more; what is random is so many on average; what is even or in rows comes to a whole number of rows.
      const slack = { even: 0.08, random: 0.25, square: 0.1, hexagonal: 0.1 }[pattern];
      expect(Math.abs(next.placed.count - there)).toBeLessThanOrEqual(slack * there);
      const back = at({ ...next.spacing, ...keepAmount(next.spacing, "count", next.placed, false) });
      expect(back.placed.count).toBe(next.placed.count);
    }),
    { numRuns: 25 },
  );
});

test("along a line so many by distance are so many by count, by parts and by list, and the other way round", () => {
  const by = fc.constantFrom<Spacing["by"]>("distance", "count", "divide", "list");
  fc.assert(
    fc.property(evenly(3, 90), fc.integer({ min: 2, max: 80 }), by, by, (long, n, from, to) => {
      const line = surroundings([straight(long)]);
      const at = (spacing: object) => {
        const made = dressing({ where: { lines: ["line"] }, spacing } as never);
        return { spacing: made.spacing, placed: evaluate(made, line) };
      };
      const first = at({ by: "count", count: n });
      const one = at({ ...first.spacing, ...keepRule(first.spacing, from, first.placed) });
      const two = at({ ...one.spacing, ...keepRule(one.spacing, to, one.placed) });
      expect([one.placed.count, two.placed.count]).toEqual([n, n]);
    }),
    { numRuns: 60 },
  );
});

test("a count is kept whatever it is slid by, between whatever insets", () => {
  const inset = evenly(0, 3);
  fc.assert(
    fc.property(inset, inset, evenly(-15, 15), (fromStart, fromEnd, slide) => {
      const made = dressing({
        where: { lines: ["line"] },
        spacing: { by: "count", count: 24, fromStart, fromEnd, slide },
      } as never);
      const { at, count } = evaluate(made, surroundings([straight(10)]));
      expect(count).toBe(24);
      // Where there is room for the slide, all of them are moved by it.
      const [first, last] = [fromStart + slide, 10 - fromEnd + slide];
      if (first >= 0 && last <= 10)
        expect([at[0], at[23]]).toEqual([expect.closeTo(first, 4), expect.closeTo(last, 4)]);
      expect(at.every((place) => place >= 0 && place <= 10)).toBe(true);
      // Pressed together at an end they still stand apart, as long as any of the row is on the line.
      if (first < 9.9 && last > 0.1) expect(at.every((place, i) => i === 0 || place > at[i - 1])).toBe(true);
    }),
  );
});

test("along several lines, together or each by itself, closed ones too, the count stays", () => {
  const by = fc.constantFrom<Spacing["by"]>("distance", "count", "divide");
  const long = evenly(4, 30);
  fc.assert(
    fc.property(
      long,
      fc.boolean(),
      fc.boolean(),
      fc.integer({ min: 3, max: 40 }),
      by,
      by,
      (long, both, closed, n, from, to) => {
        const knots = [[0, 0, 0], [long, 0, 0], [long, 0, long], [0, 0, long]] as const; // prettier-ignore
        const ring = makeLine({ id: "one", kind: "polyline", closed, knots });
        const other = makeLine({ id: "two", number: 2, kind: "polyline", closed, knots: knots.map(([x, y, z]) => [x, y + 1, z] as const) }); // prettier-ignore
        const around = surroundings([ring, other]);
        const at = (spacing: object) => {
          const made = dressing({ where: { lines: ["one", "two"] }, spacing } as never);
          return { spacing: made.spacing, placed: evaluate(made, around) };
        };
        // Two open lines are counted as one where they are said to be.
        const first = at({ by: "count", count: n, together: both && !closed });
        const one = at({ ...first.spacing, ...keepRule(first.spacing, from, first.placed) });
        const two = at({ ...one.spacing, ...keepRule(one.spacing, to, one.placed) });
        expect([one.placed.count, two.placed.count]).toEqual([first.placed.count, first.placed.count]);
      },
    ),
    { numRuns: 60 },
  );
});

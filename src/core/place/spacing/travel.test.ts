/** Travel along a line. */
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { GuideLine, type Line } from "../../line";
import { anyLine, makeLine } from "../../line/testing";
import { placeOfKey } from "../keys";
import { FLAG, NO_PROP } from "../slots";
import { place, straight } from "../testing";
import type { Placements } from "../placements";

type Input = NonNullable<Parameters<typeof place>[0]>;
type Spacing = NonNullable<Input["spacing"]>;

const by = evenly(-40, 40);
const rules = fc.constantFrom<Spacing>(
  { by: "distance", distance: 0.7 },
  { by: "count", count: 7 },
  { by: "divide", parts: 6 },
  { by: "list", list: [0.5, 1, 3.2] },
  { by: "density", distance: 0.8 },
  { by: "end", gap: 0.3 },
);
/** Where those that stand are, by the numbers of their slots. */
const where = (p: Placements): Map<number, number> =>
  new Map(
    Array.from(p.at, (at, i) => [placeOfKey(p.key[i]), at, p.prop[i]] as const)
      .filter(([, , prop]) => prop !== NO_PROP)
      .map(([number, at]) => [number, at]),
  );
const ring = makeLine({ kind: "circle", knots: [[0, 0, 0]], radius: 1.5 });
const mod = (x: number, n: number) => x - Math.floor(x / n) * n;

test("metres that speed adds up to, and shares of the line, count as if they had been set by hand", () => {
  fc.assert(
    fc.property(rules, by, evenly(-3, 3), fc.constantFrom(ring, straight(6)), (spacing, metres, rounds, line) => {
      const { length } = new GuideLine(line).curve;
      const by = place({ spacing: { ...spacing, travel: 0.3, gone: { metres, rounds } } }, [line]);
      const set = place({ spacing: { ...spacing, travel: 0.3 + metres + rounds * length } }, [line]);
      expect([...by.key]).toEqual([...set.key]);
      by.at.forEach((at, i) => expect(Math.abs(at - set.at[i]) % length).toBeLessThan(1e-4));
    }),
  );
});

test("round a closed line all go on by so much and keep their numbers; once round is where they began", () => {
  const round = 2 * Math.PI * 1.5;
  fc.assert(
    fc.property(rules, by, (spacing, by) => {
      const at = (travel: number) => where(place({ spacing: { ...spacing, travel } }, [ring]));
      const [rest, gone, again] = [at(0), at(by), at(by + round)];
      expect([...gone.keys()].sort()).toEqual([...rest.keys()].sort());
      for (const [number, place] of gone) {
        const apart = mod(place - rest.get(number)! - by, round);
        // What lies end to end is a chord; its middle is as far on everywhere on a circle.
        expect(Math.min(apart, round - apart)).toBeLessThan(1e-5);
        const later = mod(again.get(number)! - place, round);
        expect(Math.min(later, round - later)).toBeLessThan(1e-5);
      }
    }),
  );
});

test("on an open line each goes on by so much as long as it is on it, and keeps its number; evenly spaced ones keep their distance", () => {
  fc.assert(
    fc.property(rules, by, evenly(0, 0.2), (spacing, by, more) => {
      const at = (travel: number) => where(place({ spacing: { ...spacing, travel } }, [straight(6)]));
      const [before, after] = [at(by), at(by + more)];
      let moved = 0;
      for (const [number, place] of after) {
        expect(place).toBeGreaterThanOrEqual(-1e-6);
        expect(place).toBeLessThanOrEqual(6 + 1e-6);
        const was = before.get(number);
        if (was === undefined || place < was - 1e-9) continue;
        moved++;
        expect(place - was).toBeCloseTo(more, 5);
      }
      expect(moved).toBeGreaterThanOrEqual(before.size - 2);
      if (spacing.by !== "distance" && spacing.by !== "count") return;
      const step = spacing.by === "count" ? 1 : 0.7;
      const places = [...after.values()].sort((a, b) => a - b);
      places.slice(1).forEach((place, i) => expect(place - places[i]).toBeCloseTo(step, 5));
      expect(places.length).toBeGreaterThanOrEqual(Math.floor(6 / step));
    }),
  );
});

test("together they stay at the end, or turn back there: all of them, their distances kept, however far they would go", () => {
  const ends = fc.constantFrom("stay" as const, "back" as const);
  fc.assert(
    fc.property(
      rules,
      ends,
      by,
      fc.constantFrom(0, 1.1),
      evenly(0, 3.5),
      (spacing, travelEnds, by, fromStart, fromEnd) => {
        const all = { ...spacing, fromStart, fromEnd, travelEnds };
        const what = { entries: [{ prop: "oar" }, { prop: "buoy", count: 2 }] };
        const at = (travel: number) => place({ what, spacing: { ...all, travel } }, [straight(6)]);
        const [rest, gone] = [at(0), at(by)].map(where);
        expect([...gone.keys()]).toEqual([...rest.keys()]);
        const shifts = [...gone].map(([number, place]) => place - rest.get(number)!);
        for (const shift of shifts) expect(shift).toBeCloseTo(shifts[0], 5);
        const room = 6 - fromEnd - Math.max(...rest.values());
        expect(shifts[0]).toBeLessThanOrEqual(room + 1e-5);
        if (by > 0 && by < room - 0.5) expect(shifts[0]).toBeCloseTo(by, 5);
        if (travelEnds === "stay" && by > 6) expect(Math.max(...[...at(by).at])).toBeGreaterThan(5 - fromEnd);
      },
    ),
  );
});

test("where there is room for another behind those that go together, none comes in", () => {
  const what = { entries: [{ prop: "oar" }, { prop: "buoy", count: 2 }] };
  const spacing = { by: "end", gap: 0.3, fromEnd: 2.2, travel: 9, travelEnds: "stay" } as const;
  const p = place({ what, spacing }, [straight(6)]);
  expect(Array.from(p.key, placeOfKey)).toEqual([0, 1, 2]);
  expect(p.at[2]).toBeCloseTo(6 - 2.2 - 0.2, 5);
});

test("who travels keeps prop, size, turn and peg; corners and ends belong to the place; whatever line it is, nothing is out of place", () => {
  const varied: Input = {
    what: { entries: [{ prop: "buoy", count: 2 }, { prop: "oar" }] },
    variation: { sizeOn: true, turnOn: true, turnUp: [-1, 1] },
  };
  fc.assert(
    fc.property(anyLine, rules, by, (line: Line, spacing, by) => {
      const { length } = new GuideLine(line).curve;
      fc.pre(length > 0.5 && length < 60);
      const at = (travel: number) => place({ ...varied, spacing: { ...spacing, travel } }, [line]);
      const [before, after] = [at(by), at(by + 0.05)];
      const known = new Map(Array.from(before.key, (key, i) => [key, i]));
      after.key.forEach((key, i) => {
        expect(Number.isFinite(after.position[3 * i])).toBe(true);
        const j = known.get(key);
        if (j === undefined || after.prop[i] === NO_PROP || before.prop[j] === NO_PROP) return;
        expect([after.prop[i], after.scale[3 * i]]).toEqual([before.prop[j], before.scale[3 * j]]);
      });
    }),
  );
  const pegged = { ...varied, gaps: { chance: 0.3 }, spacing: { by: "count" as const, count: 5 } };
  const blanks = (travel: number) => {
    const p = place({ ...pegged, spacing: { ...pegged.spacing, travel } }, [ring]);
    return Array.from(p.flags, (flags, i) => [placeOfKey(p.key[i]), flags & FLAG.blank]).sort();
  };
  expect(blanks(1.234)).toEqual(blanks(0));
});

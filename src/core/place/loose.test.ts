import fc from "fast-check";
import { evenly } from "../math/testing";

import { addedOn, BOUNDS, evaluate, type Around, dressing, field, surroundings } from "./testing";
import type { Placements } from "./placements";
import type { Vec3 } from "../math";

const HILLS = field(30, (x, z) => Math.sin(0.5 * x) + 0.6 * Math.cos(0.4 * z) - 2, "hills");
const AROUND: Around = { ...surroundings([]), surfaces: new Map([["hills", { mesh: HILLS, ground: true }]]) };

const points = fc.array(fc.tuple(evenly(-10, 10), evenly(1, 5), evenly(-10, 10)), { minLength: 1, maxLength: 12 });

const loose = (at: readonly Vec3[], fit: object = {}): Placements =>
  evaluate(
    dressing(
      {
        where: { kind: "loose" },
        fit,
        pegs: addedOn("loose", ...at.map((point) => ({ point, prop: "buoy" }))),
      },
      [],
    ),
    AROUND,
  );

const positionOf = (p: Placements, i: number): Vec3 =>
  [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]) as unknown as Vec3;

test("loose placements stand where they were put; dropped each by itself they stand on the ground", () => {
  fc.assert(
    fc.property(points, (at) => {
      const free = loose(at);
      expect(free.count).toBe(at.length);
      at.forEach((point, i) => expect(positionOf(free, i)).toEqual(point.map((x) => expect.closeTo(x, 4))));
      const dropped = loose(at, { drop: "down", dropBy: "pivot" });
      at.forEach(([x, , z], i) => {
        const [a, b, c] = positionOf(dropped, i);
        expect(Math.hypot(a - x, c - z)).toBeLessThan(1e-4);
        const met = { triangle: -1, x: 0, y: 0, z: 0 };
        HILLS.tree.first(a, 20, c, 0, -1, 0, met);
        expect(Math.abs(met.y - b)).toBeLessThan(1e-4);
      });
    }),
    { numRuns: 40 },
  );
});

test("dropped as a group they keep their arrangement, and the first that touches holds the others up", () => {
  fc.assert(
    fc.property(points, (at) => {
      const one = loose(at, { drop: "down", dropBy: "pivot" });
      const group = loose(at, { drop: "down", dropBy: "pivot", dropAs: "group" });
      const falls = at.map(([, y], i) => positionOf(group, i)[1] - y);
      expect(Math.max(...falls) - Math.min(...falls)).toBeLessThan(1e-4);
      const gaps = at.map((_, i) => positionOf(group, i)[1] - positionOf(one, i)[1]);
      expect(Math.min(...gaps)).toBeCloseTo(0, 3);
    }),
    { numRuns: 40 },
  );
});

test("one after the other, each comes to lie on those put down before it, however high it was held", () => {
  const heights = fc.array(evenly(1, 9), { minLength: 2, maxLength: 8 });
  const tall = BOUNDS.get("buoy")!.max[1] - BOUNDS.get("buoy")!.min[1];
  fc.assert(
    fc.property(heights, fc.constantFrom("lowest", "footprint"), (ys, dropBy) => {
      // A pile, and beside it one that nothing lies under.
      const at = [...ys.map((y): Vec3 => [2, y, 1]), [9, 4, 9] as Vec3];
      const fit = { drop: "down", dropBy };
      const alone = loose(at, fit);
      const pile = loose(at, { ...fit, dropAs: "turn" });
      at.forEach((_, i) => {
        const on = i < ys.length ? i * tall : 0;
        expect(positionOf(pile, i)[1]).toBeCloseTo(positionOf(alone, i)[1] + on, 4);
      });
    }),
    { numRuns: 20 },
  );
});

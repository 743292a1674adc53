import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { inserted, withPoint, type Point } from "./curve-points";

const share = evenly(0, 1);
const density = evenly(0, 10);
const points = fc
  .array(fc.tuple(share, density), { minLength: 1, maxLength: 8 })
  .map((list) => list.sort((a, b) => a[0] - b[0]) as Point[]);
const rising = (list: readonly Point[]) => list.every(([at], i) => i === 0 || list[i - 1][0] <= at);

test("a point that is dragged anywhere stays between its neighbours, and no density lies below zero", () => {
  const wild = evenly(-5, 5);
  fc.assert(
    fc.property(points, fc.nat(), wild, wild, (list, n, x, y) => {
      const index = n % list.length;
      const moved = withPoint(list, index, [x, y]);
      expect(rising(moved)).toBe(true);
      expect(moved[index][0]).toBeGreaterThanOrEqual(0);
      expect(moved[index][0]).toBeLessThanOrEqual(1);
      expect(moved[index][1]).toBe(Math.max(0, y));
      expect(moved.filter((_, i) => i !== index)).toEqual(list.filter((_, i) => i !== index));
    }),
  );
});

test("a new point comes where its share belongs, and can be dragged on from there", () => {
  fc.assert(
    fc.property(points, share, density, (list, x, y) => {
      const { points: more, index } = inserted(list, [x, y]);
      expect(more).toHaveLength(list.length + 1);
      expect(more[index]).toEqual([x, y]);
      expect(rising(more)).toBe(true);
    }),
  );
});

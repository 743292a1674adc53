import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { FEWEST, MOST, paceAfter } from "./pace";

const triangles = fc.integer({ min: FEWEST, max: MOST });
const ms = evenly(0.1, 60_000);

test("a slow frame never leads to more, a quick one never to less, and neither beyond the limits", () => {
  fc.assert(
    fc.property(triangles, triangles, ms, fc.boolean(), (limit, drawn, took, more) => {
      const next = paceAfter(limit, drawn, took, more);
      expect(next).toBeGreaterThanOrEqual(FEWEST);
      expect(next).toBeLessThanOrEqual(MOST);
      if (took > 220) expect(next).toBeLessThanOrEqual(limit);
      else expect(next).toBeGreaterThanOrEqual(limit);
      if (!more) expect(next).toBeLessThanOrEqual(limit);
    }),
  );
});

test("on a machine whose frames take as long as their triangles it settles, and then stays", () => {
  fc.assert(
    fc.property(evenly(100, 1e6), fc.integer({ min: 1e6, max: 5e7 }), (perMs, wanted) => {
      let limit = 2_000_000;
      const settled: number[] = [];
      for (let frame = 0; frame < 40; frame++) {
        const drawn = Math.min(limit, wanted);
        limit = paceAfter(limit, drawn, drawn / perMs, wanted > limit);
        if (frame >= 30) settled.push(limit);
      }
      expect(new Set(settled).size).toBe(1);
      const drawn = Math.min(limit, wanted);
      // Smooth, or as little as is drawn anywhere; and not less than it could be.
      expect(drawn / perMs <= 220 || drawn === FEWEST).toBe(true);
      expect(drawn === wanted || limit === MOST || drawn / perMs >= 40 || limit < 2 * FEWEST).toBe(true);
    }),
  );
});

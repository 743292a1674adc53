import fc from "fast-check";
import { quatAt, rotate } from "@/core/math";
import { evenly } from "@/core/math/testing";
import type { PropBounds } from "@/core/mesh";
import { place } from "@/core/place/testing";
import { fittedTo, footprintsOf, middleOf, neighboursOf, placementAt } from "./model";

const turn = evenly(-3, 3);
const across = evenly(-2, 2);
const BOUNDS = new Map<string, PropBounds>([
  ["buoy", { min: [-0.2, 0, -0.2], max: [0.2, 1, 0.2] }],
  ["oar", { min: [-0.05, -0.6, -0.5], max: [0.05, 0, 0.7] }],
]);

const scattered = (up: number, aside: number) =>
  place({
    what: { entries: [{ prop: "buoy" }, { prop: "oar" }] },
    spacing: { distance: 1.7 },
    stance: { turnUp: up },
    fit: { across: aside },
    variation: { sizeOn: true, size: [0.5, 1.5] },
  });

test("a footprint is as large as its prop's box in its size, turned as the prop is; who points at its middle means it", () => {
  fc.assert(
    fc.property(turn, across, (up, aside) => {
      const p = scattered(up, aside);
      const corners = footprintsOf(p, BOUNDS);
      for (let i = 0; i < p.count; i++) {
        const { min, max } = BOUNDS.get(p.props[p.prop[i]])!;
        const at = (k: number) => [corners[8 * i + 2 * (k % 4)], corners[8 * i + 2 * (k % 4) + 1]];
        const side = (k: number) => Math.hypot(at(k)[0] - at(k + 1)[0], at(k)[1] - at(k + 1)[1]);
        expect(side(0)).toBeCloseTo(p.scale[3 * i] * (max[0] - min[0]), 4);
        expect(side(1)).toBeCloseTo(p.scale[3 * i + 2] * (max[2] - min[2]), 4);
        // Front left and back right, in the prop's own sense.
        for (const [k, box] of [
          [0, max],
          [2, min],
        ] as const) {
          const [x, , z] = rotate(quatAt(p.rotation, i), [p.scale[3 * i] * box[0], 0, p.scale[3 * i + 2] * box[2]]);
          expect(at(k)[0]).toBeCloseTo(p.origin[0] + p.position[3 * i] + x, 4);
          expect(at(k)[1]).toBeCloseTo(p.origin[2] + p.position[3 * i + 2] + z, 4);
        }
        expect(placementAt(p, corners, ...middleOf(corners, i), 0)).toBe(i);
      }
      expect(placementAt(p, corners, 500, 500, 5)).toBe(-1);
    }),
  );
});

test("how far neighbours are apart is what comparing all with all finds, and every one of them is in the chart", () => {
  fc.assert(
    fc.property(across, fc.integer({ min: 1, max: 5 }), (aside, rows) => {
      const p = place({
        spacing: { distance: 0.9 },
        fit: { rows, rowDistance: 0.4 },
        variation: { positionOn: true, across: [0, Math.abs(aside)] },
      });
      const far = (i: number, j: number) =>
        Math.hypot(...[0, 1, 2].map((k) => p.position[3 * i + k] - p.position[3 * j + k]));
      const nearest = Array.from({ length: p.count }, (_, i) =>
        Math.min(...Array.from({ length: p.count }, (_, j) => (i === j ? Infinity : far(i, j)))),
      ).sort((a, b) => a - b);
      const found = neighboursOf(p)!;
      expect(found.least).toBeCloseTo(nearest[0], 5);
      expect(found.most).toBeCloseTo(nearest[nearest.length - 1], 5);
      expect(found.median).toBeCloseTo(nearest[nearest.length >> 1], 5);
      expect(found.bins.reduce((sum, { count }) => sum + count, 0)).toBe(p.count);
    }),
  );
});

test("at first all of a box is seen, whatever its shape; a blank has a point for a footprint", () => {
  fc.assert(
    fc.property(evenly(0.01, 1e4), evenly(0.01, 1e4), (wide, deep) => {
      const view = fittedTo(
        [
          [3, -5],
          [3 + wide, deep - 5],
        ],
        780,
        150,
      );
      expect(view.scale * wide).toBeLessThan(780);
      expect(view.scale * deep).toBeLessThan(150);
      expect(Math.max((view.scale * wide) / 780, (view.scale * deep) / 150)).toBeGreaterThan(0.7);
    }),
  );
  const p = place({ what: { entries: [{ prop: null }] } });
  const corners = footprintsOf(p, BOUNDS);
  expect(corners.slice(0, 2)).toEqual(corners.slice(4, 6));
  expect(neighboursOf(p)).toBeNull();
});

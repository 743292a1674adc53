import fc from "fast-check";
import { distance, squaredToSegment, subtract, vectorAt } from "../math";
import { curveOf, placeOn, pointsInStep, polygonOf, seenPoints, spanMiddles, taggedSpans } from ".";
import { anyLine, makeLine } from "./testing";

test("a polygon's points lie on the curve at the arc lengths that they have, in order, and end where it ends", () => {
  fc.assert(
    fc.property(anyLine, (line) => {
      const curve = curveOf(line);
      const { points, at } = polygonOf(line, curve, null);
      expect(points).toHaveLength(at.length);
      expect(at.at(-1)).toBe(curve.length);
      const slack = 1e-6 * Math.max(1, curve.length);
      at.forEach((s, i) => {
        if (i > 0) expect(s).toBeGreaterThanOrEqual(at[i - 1]);
        expect(distance(points[i], placeOn(curve, s))).toBeLessThanOrEqual(slack);
      });
      if (curve.closed) expect(points.at(-1)).toEqual(points[0]);
    }),
    { numRuns: 60 },
  );
});

test("long lines have points enough for each span and no more than for drawing; straight spans have their ends", () => {
  const zigzag = (count: number) => Array.from({ length: count }, (_, i) => [i, 0, i % 2] as const);
  const smooth = (count: number) => makeLine({ kind: "smooth", knots: zigzag(count) });
  const pointsOf = (line: ReturnType<typeof smooth>) => polygonOf(line, curveOf(line), null).points.length;
  expect([3, 200, 3000].map((count) => pointsOf(smooth(count)))).toEqual([65, 199 * 21 + 1, 2999 * 4 + 1]);
  expect(pointsOf(makeLine({ kind: "polyline", knots: zigzag(50) }))).toBe(50);
});

test("middles lie halfway from knot to knot; a tagged span goes from its knot to the next, round a closed line too", () => {
  const corners = [
    [0, 0, 0],
    [4, 0, 0],
    [4, 0, 4],
    [0, 0, 4],
  ] as const;
  const open = makeLine({ kind: "smooth", knots: corners });
  const curve = curveOf(open);
  const middles = spanMiddles(open, curve);
  expect(middles).toHaveLength(3);
  middles.forEach((middle, i) =>
    expect(distance(middle, placeOn(curve, (curve.knotAt[i] + curve.knotAt[i + 1]) / 2))).toBeLessThan(1e-9),
  );
  const square = makeLine({ kind: "polyline", knots: corners, closed: true });
  expect(spanMiddles(square, curveOf(square))).toEqual([
    [2, 0, 0],
    [4, 0, 2],
    [2, 0, 4],
    [0, 0, 2],
  ]);
  const tagged = { ...square, knots: square.knots.map((knot, i) => (i === 3 ? { ...knot, tag: "gate" } : knot)) };
  const [gate, ...more] = taggedSpans(tagged, polygonOf(tagged, curveOf(tagged), null));
  expect(more).toEqual([]);
  expect(gate).toEqual({
    tag: "gate",
    points: [
      [0, 0, 4],
      [0, 0, 0],
    ],
    middle: [0, 0, 2],
  });
});

test("what is seen of a polygon begins and ends where it does, has only points of it, and leaves none far beside", () => {
  fc.assert(
    fc.property(anyLine, (line) => {
      const { points } = polygonOf(line, curveOf(line), null);
      const seen = seenPoints(points);
      expect([seen[0], seen.at(-1)]).toEqual([points[0], points.at(-1)]);
      let k = 0;
      const extent = Math.max(...points.map((p) => Math.hypot(...p.map((x, i) => x - points[0][i]))));
      for (const point of points) {
        if (point === seen[k + 1]) k++;
        const [a, b] = [seen[k], seen[Math.min(k + 1, seen.length - 1)]];
        const far = squaredToSegment(...subtract(point, a), ...subtract(b, a));
        expect(Math.sqrt(far)).toBeLessThanOrEqual(1e-3 * extent);
      }
      expect(k).toBe(seen.length - 1);
    }),
  );
  const coil = makeLine({ kind: "coil", knots: [[0, 0, 0]], radius: 0.1, endRadius: 0.1, turns: 40 }); // prettier-ignore
  const { points } = polygonOf(coil, curveOf(coil), null);
  expect(seenPoints(points).length).toBeLessThan(points.length / 2);
});

test("one line at several moments has as many points in each, on the line as it is then, from end to end", () => {
  fc.assert(
    fc.property(fc.array(anyLine, { minLength: 2, maxLength: 4 }), (lines) => {
      const moments = lines.map((line) => polygonOf(line, curveOf(line), null));
      const most = Math.max(...moments.map(({ points }) => points.length));
      pointsInStep(moments).forEach((frame, k) => {
        expect(frame.length).toBe(3 * most);
        const { curve, points } = moments[k];
        const slack = 1e-6 * Math.max(1, curve.length);
        const at = (i: number) => vectorAt(frame, i);
        expect(distance(at(0), points[0])).toBeLessThan(slack);
        expect(distance(at(most - 1), points.at(-1)!)).toBeLessThan(slack);
        // As far along as in the finest: never back, and nowhere off by more than the way from one point to the next.
        for (let i = 1; i < most; i++) {
          const finest = moments.find((one) => one.points.length === most)!;
          const step = ((finest.at[i] - finest.at[i - 1]) / finest.curve.length) * curve.length;
          if (points.length !== most) expect(distance(at(i - 1), at(i))).toBeLessThan(step + slack);
        }
      });
    }),
    { numRuns: 40 },
  );
});

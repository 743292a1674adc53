import fc from "fast-check";
import { evenly } from "../math/testing";
import { curveOf } from ".";
import { distance, dot, vectorAt } from "../math";
import { anyLine } from "./testing";

const share = evenly(-0.2, 1.2);
const step = fc.oneof(fc.constant(0), evenly(1e-6, 0.5));

test("chords join the curve's points at both ends of each stretch, on lines of every kind and past their ends", () => {
  fc.assert(
    fc.property(anyLine, fc.array(fc.tuple(share, step), { minLength: 1, maxLength: 30 }), (line, stretches) => {
      const curve = curveOf(line);
      const n = stretches.length;
      const spans = Float64Array.from(stretches.flatMap(([at, by]) => [at * curve.length, (at + by) * curve.length]));
      const [middle, direction] = [new Float64Array(3 * n), new Float64Array(3 * n)];
      curve.chords(spans, n, middle, direction);
      const lengths = new Float64Array(n);
      curve.chordLengths(spans, n, lengths);
      const [ends, tangent] = [new Float64Array(6 * n), new Float64Array(6 * n)];
      curve.sample(spans, 2 * n, ends, tangent);
      for (let i = 0; i < n; i++) {
        const [a, b] = [vectorAt(ends, 2 * i), vectorAt(ends, 2 * i + 1)];
        const halfway = a.map((value, k) => (value + b[k]) / 2) as [number, number, number];
        expect(distance(vectorAt(middle, i), halfway)).toBeLessThanOrEqual(1e-9 * Math.max(1, curve.length));
        const along = vectorAt(direction, i);
        expect(dot(along, along)).toBeCloseTo(1, 9);
        const apart = distance(a, b);
        expect(Math.abs(lengths[i] - apart)).toBeLessThanOrEqual(1e-9 * Math.max(1, curve.length));
        // How exactly a direction is known depends on how far the ends are apart.
        if (apart > 1e-6 * curve.length) {
          const reached = along.map((value, k) => a[k] + apart * value) as [number, number, number];
          expect(distance(reached, b)).toBeLessThanOrEqual(1e-8 * Math.max(1, curve.length));
        } else if (stretches[i][1] === 0) {
          expect(dot(along, vectorAt(tangent, 2 * i))).toBeCloseTo(1, 6);
        }
      }
    }),
    { numRuns: 300 },
  );
});

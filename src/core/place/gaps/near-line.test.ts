import fc from "fast-check";
import { evenly } from "../../math/testing";
import { curveOf, squaredToChain } from "../../line";
import { anyLine } from "../../line/testing";
import { NearLine } from "./near-line";

test("a line is as far as its nearest piece, up to the reach, however long pieces are against that", () => {
  const at = evenly(-12, 12);
  fc.assert(
    fc.property(
      anyLine,
      fc.integer({ min: 1, max: 40 }),
      evenly(0.1, 8),
      at,
      at,
      at,
      (line, pieces, reach, x, y, z) => {
        const curve = curveOf(line);
        const near = new NearLine(curve, pieces, reach);
        const points = new Float64Array(3 * (pieces + 1));
        curve.sample(Float64Array.from({ length: pieces + 1 }, (_, i) => (curve.length * i) / pieces), pieces + 1, points, null); // prettier-ignore
        const wanted = Math.min(reach, Math.sqrt(squaredToChain(points, x, y, z)));
        expect(near.distance(x, y, z)).toBeCloseTo(wanted, 9);
      },
    ),
    { numRuns: 300 },
  );
});

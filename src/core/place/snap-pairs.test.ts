import fc from "fast-check";
import { distance, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { pairsOfSnaps } from "./snap-pairs";
import { place } from "./testing";

const side = evenly(0, 4);
const spots = fc.array(fc.tuple(side, side, side), { minLength: 3, maxLength: 14 });

test("joined to the nearest, each has the one that is nearest to it, if that is within reach, and each pair is one", () => {
  fc.assert(
    fc.property(spots, evenly(0.5, 4), (at: Vec3[], within) => {
      const placements = place({ spacing: { by: "count", count: at.length } });
      const { pairs, left } = pairsOfSnaps({ partner: "nearest", within }, placements, (i) => [at[i], at[i]]);
      const wanted = at.flatMap((spot, i) => {
        const others = at.flatMap((other, j): [number, number][] => (j === i ? [] : [[distance(spot, other), j]]));
        const [away, j] = others.reduce((least, one) => (one[0] < least[0] ? one : least));
        return away <= within ? [String([Math.min(i, j), Math.max(i, j)])] : [];
      });
      const joined = pairs.map(({ from, to }) => String([at.indexOf(from), at.indexOf(to)].sort((a, b) => a - b)));
      const numbered = pairs.map(({ from, to }) =>
        String([from, to].map((end) => at.findIndex((spot) => distance(spot, end) < 1e-9)).sort((a, b) => a - b)),
      );
      expect(joined).toHaveLength(pairs.length);
      expect(numbered.sort()).toEqual([...new Set(wanted)].sort());
      expect(left).toBe(0);
    }),
  );
});

import fc from "fast-check";
import { evenly } from "../../math/testing";
import { facetsOf } from "../../mesh";
import { lyingOver } from "./footprints";

/** A level square of one metre about a place, as it is compared. */
function square(i: number, [x, z]: readonly [number, number]) {
  const [a, b, c, d] = [[-0.5, -0.5], [-0.5, 0.5], [0.5, 0.5], [0.5, -0.5]].map(([u, v]) => [x + u, 0, z + v]); // prettier-ignore
  const corners = Float64Array.from([a, b, c, a, c, d].flat());
  const normals = facetsOf({ position: corners, index: Uint32Array.of(0, 1, 2, 3, 4, 5) }).normal;
  return { i, corners, normals, least: [x - 0.5, 0, z - 0.5], most: [x + 0.5, 0, z + 0.5], reach: Math.SQRT2 };
}

test("those that lie over each other are told, in whatever order they come, and no others", () => {
  const spot = fc.tuple(evenly(0, 6), evenly(0, 3));
  fc.assert(
    fc.property(fc.array(spot, { minLength: 2, maxLength: 20 }), (spots) => {
      const told = [...lyingOver(spots.map((at, i) => square(i, at)))].map((pair) =>
        String(pair.sort((a, b) => a - b)),
      );
      // The middle of a triangle of the one lies within the other.
      const wanted = spots.flatMap(([x, z], i) =>
        spots.flatMap(([u, v], j) => {
          const [dx, dz] = [x - u, z - v];
          const over = [-1, 1].some((way) => [dx + way / 6, dz - way / 6].every((by) => Math.abs(by) < 0.5));
          return j > i && over ? [String([i, j])] : [];
        }),
      );
      expect(told.sort()).toEqual(wanted.sort());
    }),
  );
});

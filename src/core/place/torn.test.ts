import fc from "fast-check";
import { evenly } from "../math/testing";
import { spreadFor } from "./spacing/laid-out";
import { tornBeside } from "./torn";

/** Greater than any grid and without a divisor: every so many-th place is another one until all have been. */
const PRIME = 7919;

/** A flat grid, stretched on its surface by so much each way, and so much farther apart from a column on; in no order. */
function grid(columns: number, rows: number, stretch: readonly [number, number], gap: number) {
  const all = columns * rows;
  const spread = spreadFor(all);
  for (let n = 0; n < all; n++) {
    const i = (n * PRIME) % all;
    const [column, row] = [n % columns, Math.floor(n / columns)];
    spread.flat!.set([0.1 * column, 0.2 * row], 2 * i);
    const x = stretch[0] * 0.1 * column + (2 * column >= columns ? gap : 0);
    spread.position.set([x, 0, stretch[1] * 0.2 * row], 3 * i);
  }
  const torn = tornBeside(spread);
  return torn && torn.map((_, n) => torn[(n * PRIME) % all]);
}

test("however a sheet is stretched each way it is whole; where it is torn those beside it are apart by as much", () => {
  fc.assert(
    fc.property(
      evenly(0.1, 10),
      evenly(0.1, 10),
      fc.integer({ min: 8, max: 40 }),
      evenly(2, 5),
      (x, y, columns, gap) => {
        expect(grid(columns, 3, [x, y], 0)).toBeNull();
        const torn = grid(columns, 3, [x, y], gap)!;
        const beside = [Math.ceil(columns / 2) - 1, Math.ceil(columns / 2)];
        torn.forEach((by, i) => {
          if (beside.includes(i % columns)) expect(by).toBeCloseTo(gap, 4);
        });
        expect(Math.max(...torn)).toBeCloseTo(gap, 4);
        expect(torn.filter((by) => by > 0).length).toBeLessThanOrEqual(4 * 3);
      },
    ),
  );
});

import fc from "fast-check";
import { evenly } from "../math/testing";
import { spreadFor } from "./spacing/laid-out";
import { tornBeside } from "./torn";

/** A flat grid, stretched on its surface by so much each way, and so much farther apart from a column on. */
function grid(columns: number, rows: number, stretch: readonly [number, number], gap: number) {
  const spread = spreadFor(columns * rows);
  for (let i = 0; i < columns * rows; i++) {
    const [column, row] = [i % columns, Math.floor(i / columns)];
    spread.flat!.set([0.1 * column, 0.2 * row], 2 * i);
    const x = stretch[0] * 0.1 * column + (2 * column >= columns ? gap : 0);
    spread.position.set([x, 0, stretch[1] * 0.2 * row], 3 * i);
  }
  return tornBeside(spread);
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

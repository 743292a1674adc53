import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { FLAG } from "@/core/place";
import { place, straight } from "@/core/place/testing";
import { fitted, MARGIN, rowBoxes, rowsOf, RULER, slotAt, spreadOf } from "./model";

const loose = { variation: { positionOn: true, along: [-1, 1] as [number, number] }, gaps: { chance: 0.3 } };
const two = [straight(12, { id: "a" }), straight(8, { id: "b", number: 2 })];

test("rows hold every slot of their line once, blank ones too, in order of arc length", () => {
  const p = place({ ...loose, where: { lines: ["a", "b"] } }, two);
  const rows = rowsOf(p);
  expect(rows.map(({ line, length }) => [line, length])).toEqual([
    ["a", 12],
    ["b", 8],
  ]);
  rows.forEach((row, index) => {
    const own = Array.from({ length: p.count }, (_, i) => i).filter((i) => p.line[i] === index);
    expect([...row.order].sort((a, b) => a - b)).toEqual(own);
    for (let k = 1; k < row.order.length; k++)
      expect(p.at[row.order[k]]).toBeGreaterThanOrEqual(p.at[row.order[k - 1]]);
  });
});

test("the spread counts every gap between standing neighbours once, and blanks make gaps wider", () => {
  const even = place({ spacing: { distance: 0.5 } });
  const spread = spreadOf(even, rowsOf(even))!;
  expect([spread.least, spread.median, spread.most].map((gap) => Number(gap.toFixed(4)))).toEqual([0.5, 0.5, 0.5]);
  expect(spread.bins.reduce((sum, { count }) => sum + count, 0)).toBe(even.count - 1);

  const gappy = place({ spacing: { distance: 0.5 }, gaps: { chance: 0.4 } });
  const standing = Array.from(gappy.flags).filter((flags) => !(flags & FLAG.blank)).length;
  const wider = spreadOf(gappy, rowsOf(gappy))!;
  expect(wider.bins.reduce((sum, { count }) => sum + count, 0)).toBe(standing - 1);
  expect(wider.most).toBeGreaterThan(0.9);

  const one = place({ spacing: { by: "count", count: 1 } });
  expect(spreadOf(one, rowsOf(one))).toBeNull();
});

test("a slot is found at its own place, within the slack beside it, and not beyond", () => {
  const p = place({ spacing: { distance: 1 } });
  const [row] = rowsOf(p);
  for (const i of row.order) {
    expect(slotAt(p, row, p.at[i], 0)).toBe(i);
    expect(slotAt(p, row, p.at[i] + 0.25, 0.1)).toBe(i);
  }
  expect(slotAt(p, row, 0.5, 0.1)).toBe(-1);
});

test("the whole line fits between the margins, whatever its length", () => {
  fc.assert(
    fc.property(evenly(1e-3, 1e5), fc.integer({ min: 200, max: 3000 }), (length, width) => {
      const { scale, from } = fitted(length, width);
      expect(-from * scale).toBeCloseTo(MARGIN, 6);
      expect((length - from) * scale).toBeCloseTo(width - MARGIN, 3);
    }),
  );
  expect(fitted(0, 0).scale).toBeGreaterThan(0);
});

test("rows lie below the ruler and below each other, and many of them keep a height to see props in", () => {
  for (const [rows, height] of [
    [1, 172],
    [3, 172],
    [40, 172],
  ]) {
    const boxes = rowBoxes(Array(rows).fill(12), height);
    expect(boxes).toHaveLength(rows);
    expect(boxes[0].top).toBe(RULER);
    for (let i = 1; i < rows; i++) expect(boxes[i].top).toBeCloseTo(boxes[i - 1].top + boxes[i - 1].height);
    if (rows > 1) expect(boxes[0].height).toBeGreaterThanOrEqual(44);
  }
  // The row of tall props gets more room than that of flat ones, and all is used where there is enough.
  const [flat, tall] = rowBoxes([4, 90], 272);
  expect(tall.height).toBeGreaterThan(flat.height + 60);
  expect(tall.top + tall.height).toBeCloseTo(272, 9);
});

import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { distance, type Vec3 } from "@/core/math";
import { makeLine } from "@/core/line/testing";
import { markPositions, taggedSpans, tagsOf } from "../state/guides";
import { atDistance, onGrid, snapTargets } from "./snap";

const coordinate = evenly(-50, 50);
const place = fc.tuple(coordinate, coordinate, coordinate);
const line = makeLine({
  kind: "polyline",
  knots: [
    [0, 0, 0],
    [6, 0, 0],
    [6, 0, 3],
  ],
  marks: 3,
});

test("a typed distance is kept to, in the direction of the pointer", () => {
  fc.assert(
    fc.property(place, place, evenly(0.01, 100), (from, to, metres) => {
      const moved = atDistance(from, to, metres);
      expect(distance(from, moved)).toBeCloseTo(metres, 6);
      const far = distance(from, to);
      if (far > 1e-3) expect(Math.abs(distance(moved, to) - Math.abs(far - metres))).toBeLessThan(1e-6);
    }),
  );
});

test("on the grid a place is moved by no more than half a step each way, and never up or down", () => {
  fc.assert(
    fc.property(place, fc.constantFrom(0.1, 0.25, 1, 3), (at, step) => {
      const [x, y, z] = onGrid(at, step);
      expect(y).toBe(at[1]);
      for (const [value, old] of [
        [x, at[0]],
        [z, at[2]],
      ]) {
        expect(Math.abs(value - old)).toBeLessThanOrEqual(step / 2 + 1e-9);
        expect(Math.abs(value / step - Math.round(value / step))).toBeLessThan(1e-6);
      }
    }),
  );
});

test("knots, ends and marks of other lines are caught on; of the line itself only knots that stay", () => {
  expect(markPositions(line)).toEqual(
    [
      [0, 0, 0],
      [3, 0, 0],
      [6, 0, 0],
      [6, 0, 3],
    ].map(near),
  );
  const names = snapTargets([line]).map(({ what }) => what);
  expect(names.filter((what) => what.startsWith("an end"))).toHaveLength(2);
  expect(names.filter((what) => what.startsWith("a mark"))).toHaveLength(4);
  const own = snapTargets([line], { line: line.id, knots: new Set([0, 2]) });
  expect(own.map(({ what }) => what)).toEqual(["knot 2 of Line"]);
});

test("spans with a tag are pieces of the line from their knot to the next", () => {
  const knots = line.knots.map((knot, i) => ({ ...knot, ...(i < 2 && { tag: ["wall", "gate"][i] }) }));
  const tagged = { ...line, knots };
  expect(tagsOf(tagged)).toEqual(["gate", "wall"]);
  const [wall, gate] = taggedSpans(tagged);
  expect([wall.tag, wall.points[0], wall.points.at(-1)]).toEqual(["wall", near([0, 0, 0]), near([6, 0, 0])]);
  expect([gate.tag, gate.middle]).toEqual(["gate", near([6, 0, 1.5])]);
});

function near(position: readonly number[]): Vec3 {
  return position.map((x) => expect.closeTo(x, 6)) as unknown as Vec3;
}

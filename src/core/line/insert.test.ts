import fc from "fast-check";
import { evenly } from "../math/testing";
import { distance, type Vec3 } from "../math";
import type { Curve } from "./curve";
import { curveOf } from "./kinds";
import { withKnotAt } from "./insert";
import { lineSchema, type KnottedLine } from "./schema";

function curvePoint(curve: Curve, at: number): Vec3 {
  const position = new Float64Array(3);
  curve.sample(Float64Array.of(at), 1, position, null);
  return [position[0], position[1], position[2]];
}

const coordinate = fc.integer({ min: -10_000, max: 10_000 }).map((x) => x / 1000);
const vector = fc.tuple(coordinate, coordinate, coordinate);
const knot = fc.record(
  {
    position: vector,
    join: fc.constantFrom("smooth", "corner", "free"),
    before: vector,
    after: vector,
    tag: fc.constantFrom("gate", "wall"),
  },
  { requiredKeys: ["position"] },
);

const linesOf = (...kinds: KnottedLine["kind"][]) =>
  fc
    .record({
      kind: fc.constantFrom(...kinds),
      closed: fc.boolean(),
      knots: fc.array(knot, { minLength: 2, maxLength: 6 }),
    })
    // Two knots do not close; a third one does, and that is another line.
    .filter(({ closed, knots }) => !closed || knots.length > 2)
    .map((described) => lineSchema.parse({ id: "l", name: "L", number: 1, ...described }) as KnottedLine);
const lines = linesOf("bezier", "polyline", "smooth", "hanging");

test("a knot inserted where a line runs lies on it, in the order of arc length, and its span's tag holds for both parts", () => {
  fc.assert(
    fc.property(lines, evenly(0.01, 0.99), (line, share) => {
      const curve = curveOf(line);
      fc.pre(curve.length > 0.1);
      const at = share * curve.length;
      const { line: made, knot } = withKnotAt(line, at);
      expect(made.knots).toHaveLength(line.knots.length + 1);
      expect(distance(made.knots[knot].position, curvePoint(curve, at))).toBeLessThan(1e-9);
      expect(made.knots[knot].tag).toBe(line.knots[knot - 1].tag);
      expect(made.knots.filter((_, i) => i !== knot).map(({ position }) => position)).toEqual(
        line.knots.map(({ position }) => position),
      );
    }),
  );
});

test("a Bézier line keeps its shape: every place of it stays where it was", () => {
  fc.assert(
    fc.property(linesOf("bezier"), evenly(0.02, 0.98), (line, share) => {
      const before = curveOf(line);
      fc.pre(before.length > 0.5);
      const after = curveOf(withKnotAt(line, share * before.length).line);
      expect(Math.abs(after.length - before.length)).toBeLessThan(1e-5 * before.length);
      for (let k = 0; k <= 10; k++) {
        const at = (before.length * k) / 10;
        expect(distance(curvePoint(after, at), curvePoint(before, at))).toBeLessThan(2e-5 * before.length);
      }
    }),
  );
});

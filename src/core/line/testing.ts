/** Arbitrary lines for property tests: every kind, with awkward ones among them. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { lineSchema, type Line } from "./schema";
import type { Vec3 } from "../math";

const coordinate = evenly(-20, 20).map((x) => Math.round(x * 1000) / 1000);
const position = fc.tuple(coordinate, coordinate, coordinate);

export const makeLine = (line: { kind: Line["kind"]; knots: readonly Vec3[] } & Record<string, unknown>): Line =>
  lineSchema.parse({ id: "line", number: 1, name: "Line", ...line, knots: line.knots.map((p) => ({ position: p })) });

/** Bent into a ring now and then. */
const ring = fc.constantFrom(false, false, false, true);

const metres = evenly(0.05, 10);

/** Knots of which some are doubled. */
const knots = fc
  .array(fc.tuple(position, fc.integer({ min: 0, max: 9 })), { minLength: 2, maxLength: 8 })
  .map((list) => list.flatMap(([p, twice]): Vec3[] => (twice === 0 ? [p, p] : [p])));

/** Smooth lines alone. */
export const smoothLine = (more: { closed: fc.Arbitrary<boolean>; ring: fc.Arbitrary<boolean> }): fc.Arbitrary<Line> =>
  fc.record({ kind: fc.constant("smooth" as const), knots, ...more }).map(makeLine);

/** Bézier lines alone. */
export const bezierLine = (closed: fc.Arbitrary<boolean>): fc.Arbitrary<Line> =>
  fc
    .record({
      knots,
      closed,
      handles: fc.array(fc.tuple(fc.constantFrom("smooth", "corner", "free"), position, position), { maxLength: 8 }),
    })
    .map(({ knots: positions, closed, handles }) => {
      const line = makeLine({ kind: "bezier", knots: positions, closed });
      const knotted = line.knots.map((knot, i) => {
        if (!handles[i]) return knot;
        const [join, before, after] = handles[i];
        return { ...knot, join, before, after };
      });
      return lineSchema.parse({ ...line, knots: knotted });
    });

export const anyLine: fc.Arbitrary<Line> = fc.oneof(
  fc
    .record({
      kind: fc.constant("polyline" as const),
      knots,
      closed: fc.boolean(),
      cornerRadius: fc.constantFrom(0, 0, 0.5, 30),
    })
    .map(makeLine),
  smoothLine({ closed: fc.boolean(), ring }),
  bezierLine(fc.boolean()),
  fc
    .record({
      kind: fc.constant("hanging" as const),
      knots,
      ring,
      by: fc.constantFrom("sag", "length"),
      sag: evenly(0, 10),
      length: evenly(0.1, 200),
    })
    .map(makeLine),
  fc
    .record({
      kind: fc.constantFrom("circle", "ellipse", "arc", "rectangle", "coil"),
      ring,
      knots: fc.tuple(position),
      heading: evenly(-4, 4),
      lean: evenly(-2, 2),
      radius: metres,
      endRadius: metres,
      length: metres,
      width: metres,
      corner: metres,
      height: evenly(-5, 5),
      turns: evenly(0.1, 4),
      sweep: evenly(0.1, 6.2),
    })
    .map((numbers) => makeLine(numbers as never)),
);

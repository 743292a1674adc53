import fc from "fast-check";
import { evenly } from "../math/testing";
import { asKind, joined, reversed, splitAt } from "./convert";
import { curveOf, hasKnots, lineSchema, type Knot, type KnottedLine, type Line, type LineKind } from ".";
import { distance, dot, vectorAt, type Vec3 } from "../math";
import { anyLine, makeLine } from "./testing";

const sizeM = evenly(0.1, 50);
const angle = evenly(-3, 3);
const shape = (numbers: Record<string, unknown> & { kind: LineKind }) => makeLine({ knots: [[3, 1, -2]], ...numbers });

function at(line: Line, share: number): { position: Vec3; tangent: Vec3 } {
  const curve = curveOf(line);
  const [position, tangent] = [new Float64Array(3), new Float64Array(3)];
  curve.sample(Float64Array.of(share * curve.length), 1, position, tangent);
  return { position: vectorAt(position, 0), tangent: vectorAt(tangent, 0) };
}

const close = (value: number, expected: number, share = 1e-6) =>
  expect(Math.abs(value - expected)).toBeLessThan(share * Math.max(1, Math.abs(expected)));

describe("lines described by numbers", () => {
  test("a circle has its length, and every place on it is a radius away from its middle, however it leans", () => {
    fc.assert(
      fc.property(sizeM, angle, angle, evenly(0, 1), (radius, heading, lean, share) => {
        const line = shape({ kind: "circle", radius, heading, lean });
        close(curveOf(line).length, 2 * Math.PI * radius);
        const { position, tangent } = at(line, share);
        close(distance(position, [3, 1, -2]), radius);
        close(dot(tangent, [position[0] - 3, position[1] - 1, position[2] + 2]) / radius, 0, 5e-6);
      }),
    );
  });

  test("an arc is as long as radius times sweep, and is symmetric about its heading", () => {
    fc.assert(
      fc.property(sizeM, evenly(0.01, 2 * Math.PI), (radius, sweep) => {
        const line = shape({ kind: "arc", radius, sweep });
        close(curveOf(line).length, radius * sweep);
        close(at(line, 0).position[2], at(line, 1).position[2]);
        close(at(line, 0.5).position[2], -2 - radius);
      }),
    );
  });

  test("a rounded rectangle has its length, and corners wider than it is become its ends", () => {
    fc.assert(
      fc.property(sizeM, sizeM, evenly(0, 30), (length, width, corner) => {
        const r = Math.min(corner, length / 2, width / 2);
        const curve = curveOf(shape({ kind: "rectangle", length, width, corner }));
        close(curve.length, 2 * (length + width) - 8 * r + 2 * Math.PI * r);
        expect(curve.closed).toBe(true);
      }),
    );
  });

  test("an ellipse's length is between that of its two circles, and the known one for half axes 1 and 2", () => {
    close(curveOf(shape({ kind: "ellipse", length: 4, width: 2 })).length, 9.688448220547675);
    close(curveOf(shape({ kind: "ellipse", length: 6, width: 6 })).length, 6 * Math.PI);
  });

  test("a coil has a helix's length, begins and ends at its radii, and rises to its height", () => {
    fc.assert(
      fc.property(sizeM, evenly(-5, 20), evenly(0.2, 12), (radius, height, turns) => {
        const line = shape({ kind: "coil", radius, endRadius: radius, height, turns });
        close(curveOf(line).length, Math.hypot(2 * Math.PI * radius * turns, height));
        close(at(line, 1).position[1] - at(line, 0).position[1], height);
        const cone = shape({ kind: "coil", radius, endRadius: 0.5 * radius, height, turns });
        const { position } = at(cone, 1);
        close(Math.hypot(position[0] - 3, position[2] + 2), 0.5 * radius);
      }),
      { numRuns: 25 },
    );
  });
});

describe("rounded corners", () => {
  const corner = (cornerRadius: number, extra: Record<string, unknown> = {}) =>
    makeLine({
      kind: "polyline",
      cornerRadius,
      knots: [
        [0, 0, 0],
        [4, 0, 0],
        [4, 0, 2],
      ],
      ...extra,
    });

  test("a right angle is cut by its arc, and the line touches the arc without a kink", () => {
    fc.assert(
      fc.property(evenly(0.01, 2), (radius) => {
        const curve = curveOf(corner(radius));
        close(curve.length, 6 - 2 * radius + (Math.PI / 2) * radius);
        for (const share of [(4 - radius) / curve.length, 1 - (2 - radius) / curve.length]) {
          const [a, b] = [at(corner(radius), share - 1e-7), at(corner(radius), share + 1e-7)];
          expect(dot(a.tangent, b.tangent)).toBeGreaterThan(1 - 1e-6);
        }
      }),
    );
  });

  test("a side too short for the radius gives all it has; one knot can have a radius of its own; none is a plain corner", () => {
    close(curveOf(corner(50)).length, curveOf(corner(2)).length);
    expect(curveOf(corner(0)).length).toBe(6);
    const own = corner(0);
    const withOwn: Line = { ...own, knots: own.knots.map((knot, i) => (i === 1 ? { ...knot, radius: 1 } : knot)) };
    close(curveOf(withOwn).length, curveOf(corner(1)).length);
  });

  test("on a closed line all corners are rounded, and neighbours never overlap", () => {
    const square = makeLine({
      kind: "polyline",
      closed: true,
      cornerRadius: 9,
      knots: [
        [0, 0, 0],
        [4, 0, 0],
        [4, 0, 4],
        [0, 0, 4],
      ],
    });
    close(curveOf(square).length, 4 * Math.PI);
  });
});

describe("lines made of lines", () => {
  const kinds = ["polyline", "smooth", "hanging", "circle", "ellipse", "arc", "rectangle", "coil"] as const;
  const knotted = anyLine.filter((line): line is KnottedLine => hasKnots(line) && !line.ring);

  test("every line can become every kind and keeps its id, number and name", () => {
    fc.assert(
      fc.property(anyLine, fc.constantFrom(...kinds), (line, kind) => {
        const other = asKind(line, kind);
        expect([other.kind, other.id, other.number, other.name]).toEqual([kind, line.id, line.number, line.name]);
        expect(Number.isFinite(curveOf(other).length)).toBe(true);
      }),
    );
  });

  test("a shape that gets knots stays where it was, to a hundredth of its size", () => {
    for (const kind of ["circle", "ellipse", "arc", "coil"] as const) {
      const line = shape({ kind });
      const smooth = asKind(line, "smooth");
      const length = curveOf(line).length;
      close(curveOf(smooth).length, length, 0.01);
      for (const share of [0.1, 0.37, 0.8]) {
        expect(distance(at(smooth, share).position, at(line, share).position)).toBeLessThan(0.02 * length);
      }
    }
  });

  test("run the other way a line has the same length and its ends exchanged; twice, it is as before", () => {
    fc.assert(
      fc.property(knotted, (line) => {
        const back = reversed(line);
        expect(Math.abs(curveOf(back).length - curveOf(line).length)).toBeLessThan(1e-5 * (1 + curveOf(line).length));
        expect(back.knots[0].position).toEqual(line.knots[line.knots.length - 1].position);
        // A Bézier line's handles are written down as they are seen: see its own tests.
        if (line.kind !== "bezier") expect(reversed(back)).toEqual(line);
      }),
    );
  });

  test("split and joined again, an open line is as it was", () => {
    fc.assert(
      fc.property(knotted, fc.nat(), (line, n) => {
        fc.pre(line.knots.length > 2 && !(line.kind !== "hanging" && line.closed));
        const parts = splitAt(line, 1 + (n % (line.knots.length - 2)), { id: "second", number: 9, name: "Second" });
        expect(parts).toHaveLength(2);
        const [first, second] = parts as [KnottedLine, KnottedLine];
        expect(second).toMatchObject({ id: "second", number: 9, name: "Second" });
        expect(first.knots[first.knots.length - 1]).toEqual(second.knots[0]);
        const positions = (knots: KnottedLine["knots"]) => knots.map((knot) => knot.position);
        expect([...first.knots, ...second.knots.slice(1)]).toEqual(line.knots);
        expect(positions(joined(first, second).knots)).toHaveLength(line.knots.length);
      }),
    );
  });

  test("a closed line split at a knot is opened there, and an open one cannot be cut at its ends", () => {
    const knots: Vec3[] = [
      [0, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
    ];
    const ring = makeLine({ kind: "polyline", closed: true, knots }) as KnottedLine;
    const [opened] = splitAt(ring, 1, ring)!;
    expect(opened.knots.map((knot) => knot.position)).toEqual([knots[1], knots[2], knots[0], knots[1]]);
    expect(curveOf(opened).length).toBeCloseTo(curveOf(ring).length, 9);
    const open = makeLine({ kind: "polyline", knots }) as KnottedLine;
    expect([splitAt(open, 0, open), splitAt(open, 2, open)]).toEqual([null, null]);
  });

  test("lines join at whichever ends are nearest", () => {
    const line = (from: number, to: number) =>
      makeLine({
        kind: "polyline",
        knots: [
          [from, 0, 0],
          [to, 0, 0],
        ],
      }) as KnottedLine;
    const xs = (a: KnottedLine, b: KnottedLine) => joined(a, b).knots.map((knot) => knot.position[0]);
    expect(xs(line(0, 1), line(1, 2))).toEqual([0, 1, 2]);
    expect(xs(line(0, 1), line(3, 2))).toEqual([0, 1, 2, 3]);
    expect(xs(line(1, 2), line(0, 1))).toEqual([0, 1, 2]);
    expect(xs(line(1, 2), line(1, 0))).toEqual([0, 1, 2]);
  });

  test("a line that is turned round to be joined keeps its shape: handles, rolls and tags go with it", () => {
    const knot = (x: number, more: Partial<Knot> = {}): Knot => ({ id: x, position: [x, 0, 0], ...more });
    const bezier = (...knots: Knot[]) =>
      lineSchema.parse({ id: "l", number: 1, name: "L", kind: "bezier", knots }) as KnottedLine;
    const first = bezier(knot(0, { after: [1, 0, 2], tag: "wall", roll: 0.5 }), knot(4, { before: [-1, 0, 1] }));
    const second = bezier(knot(9, { after: [-1, 1, 0], tag: "gate" }), knot(4, { before: [2, 0, -1], roll: 0.25 }));
    for (const [a, b] of [
      [first, second],
      [reversed(first), second],
      [first, reversed(second)],
      [second, first],
    ]) {
      const made = joined(a, b);
      expect(curveOf(made).length).toBeCloseTo(curveOf(a).length + curveOf(b).length, 5);
      const [from, to] = [a.knots[0], a.knots[1]].map((held) =>
        made.knots.findIndex(({ position: [x] }) => x === held.position[0]),
      );
      expect(to - from).toBe(1);
      const tags = made.knots
        .slice(0, -1)
        .map(({ tag, position: [x] }, i) => [tag, Math.min(x, made.knots[i + 1].position[0])]);
      expect(Object.fromEntries(tags)).toEqual({ wall: 0, gate: 4 });
    }
  });

  test("a line that becomes another kind stays divided, and a shape stays bent into a ring", () => {
    const coil = makeLine({ kind: "coil", knots: [[0, 0, 0]], ring: true, ringRadius: 3, marks: 5 });
    expect(asKind(coil, "arc")).toMatchObject({ ring: true, ringRadius: 3, marks: 5 });
    const knotted = asKind(coil, "smooth");
    // Its knots lie on the ring already.
    expect(knotted).toMatchObject({ ring: false, marks: 5 });
    expect(Math.abs(curveOf(knotted).length / curveOf(coil).length - 1)).toBeLessThan(0.01);
  });
});

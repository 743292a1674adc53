import fc from "fast-check";
import { evenly as numbers } from "../math/testing";
import { asKind, reversed } from "./convert";
import { ChordFinder, curveOf, GuideLine, handlesOf, lineSchema, TOGETHER, type KnottedLine, type Line } from ".";
import { add, cross, distance, dot, lengthOf, quatAt, rotate, scale, subtract, vectorAt, type Vec3 } from "../math";
import { anyLine, bezierLine, makeLine } from "./testing";

function places(line: Line, at: readonly number[], up: "line" | "world" | "roll" = "line") {
  const guide = new GuideLine(line);
  const n = at.length;
  const [position, rotation] = [new Float64Array(3 * n), new Float64Array(4 * n)];
  guide.frames(up, Float64Array.from(at), n, position, rotation);
  return at.map((_, i) => ({
    position: vectorAt(position, i),
    up: rotate(quatAt(rotation, i), [0, 1, 0]),
    forward: rotate(quatAt(rotation, i), [0, 0, 1]),
  }));
}

const evenly = (length: number, n: number) => Array.from({ length: n }, (_, i) => (length * i) / (n - 1));
const coil = (extra: Record<string, unknown> = {}) =>
  makeLine({ kind: "coil", knots: [[0, 1, 0]], radius: 0.4, endRadius: 0.4, height: 6, turns: 9, ...extra });

describe("Bézier", () => {
  const knots: Vec3[] = [
    [0, 0, 0],
    [4, 1, 0],
    [7, 0, 3],
  ];
  const with1 = (knot: Record<string, unknown>) => {
    const line = makeLine({ kind: "bezier", knots });
    return lineSchema.parse({ ...line, knots: line.knots.map((k, i) => (i === 1 ? { ...k, ...knot } : k)) });
  };

  test("goes through its knots, leaving and reaching each along its handles", () => {
    const line = with1({ join: "free", before: [-1, 2, 0], after: [0, 0, 2] });
    const curve = curveOf(line);
    line.knots.forEach(({ position }, i) => expect(distance(curve.evaluate(i).position, position)).toBeLessThan(1e-9));
    expect(distance(scale(curve.evaluate(1).derivative, 1 / 6), [0, 0, 1])).toBeLessThan(1e-9);
    const arriving = curve.evaluate(1 - 1e-9).derivative;
    expect(distance(scale(arriving, 1 / 3), [1, -2, 0])).toBeLessThan(1e-6);
  });

  test("a smooth knot has both handles on one line, each of its own length; a corner has none", () => {
    const number = numbers(-3, 3);
    const vector: fc.Arbitrary<Vec3> = fc.tuple(number, number, number);
    fc.assert(
      fc.property(vector, vector, (before, after) => {
        fc.pre(lengthOf(after) > 1e-3);
        const { knots: held } = with1({ join: "smooth", before, after });
        const handles = handlesOf(held, false, 1);
        expect(lengthOf(cross(handles.before, handles.after))).toBeLessThan(1e-6 * (1 + lengthOf(before)));
        expect(lengthOf(handles.before)).toBeCloseTo(lengthOf(before), 6);
        expect(dot(handles.before, handles.after)).toBeLessThanOrEqual(1e-9);
      }),
    );
    expect(handlesOf(with1({ join: "corner" }).knots, false, 1)).toEqual({ before: [0, 0, 0], after: [0, 0, 0] });
  });

  test("run the other way it is the same curve, its handles, rolls and tags going along", () => {
    fc.assert(
      fc.property(bezierLine(fc.constant(false)), (line) => {
        const turned = reversed(line as KnottedLine);
        const [a, b] = [curveOf(line), curveOf(turned)];
        expect(Math.abs(a.length - b.length)).toBeLessThan(1e-6 * (1 + a.length));
        for (const share of [0.1, 0.4, 0.9]) {
          const [p, q] = [new Float64Array(6), new Float64Array(6)];
          a.sampleAt(share * a.length, p);
          b.sampleAt((1 - share) * b.length, q);
          expect(distance(vectorAt(p, 0), vectorAt(q, 0))).toBeLessThan(1e-4 * (1 + a.length));
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe("bent into a ring", () => {
  test("any open line closes: its end meets its start without a kink, in position and in frame", () => {
    fc.assert(
      fc.property(anyLine, (any) => {
        const open = curveOf({ ...any, ring: false } as Line);
        fc.pre(!open.closed && any.kind !== "polyline" && any.kind !== "bezier");
        const line = { ...any, ring: true } as Line;
        const curve = curveOf(line);
        // Ends that are one point leave no way round, and no ring.
        fc.pre(curve.closed);
        // So near that even a sharp bend is hardly one.
        const step = 1e-8 * curve.length;
        const [before, after] = places(line, [curve.length - step, step]);
        expect(distance(before.position, after.position)).toBeLessThan(3 * step + 1e-6);
        expect(dot(before.forward, after.forward)).toBeGreaterThan(0.999);
        expect(dot(before.up, after.up)).toBeGreaterThan(0.999);
      }),
      { numRuns: 80 },
    );
  });

  test("a coil becomes a garland: it winds round a circle, at its own radius from it, with whole turns", () => {
    const garland = coil({ ring: true, turns: 9.3, ringRadius: 2 });
    const curve = curveOf(garland);
    expect(curve.closed).toBe(true);
    for (const { position } of places(garland, evenly(curve.length, 200))) {
      const [x, y, z] = subtract(position, [0, 1, 0]);
      // The ring lies in the plane of the coil's axis and its start, about its middle.
      expect(Math.abs(Math.hypot(Math.hypot(x, y) - 2, z) - 0.4)).toBeLessThan(1e-4);
    }
    // Nine turns of a helix, about as long as before it was bent.
    expect(curve.length).toBeCloseTo(Math.hypot(9 * 2 * Math.PI * 0.4, 4 * Math.PI), 0);
  });

  test("a straight line becomes a circle of its own length, or of the radius given", () => {
    const straight = makeLine({
      kind: "polyline",
      ring: true,
      knots: [
        [0, 0, 0],
        [6, 0, 0],
      ],
    });
    expect(curveOf(straight).length).toBeCloseTo(6, 5);
    expect(curveOf({ ...straight, ringRadius: 3 } as Line).length).toBeCloseTo(6 * Math.PI, 4);
  });
});

describe("frames", () => {
  /** Up carried along by very many double reflections, a reference of its own. */
  function transported(line: Line, n: number): Vec3[] {
    const curve = curveOf(line);
    const place = new Float64Array(6);
    const at = (s: number) => {
      curve.sampleAt(s, place);
      return { p: vectorAt(place, 0), t: vectorAt(place, 1) };
    };
    let { p, t } = at(0);
    let up = places(line, [0])[0].up;
    const ups = [up];
    for (let i = 1; i <= n; i++) {
      const next = at((curve.length * i) / n);
      const v = subtract(next.p, p);
      const c = dot(v, v);
      const upL = subtract(up, scale(v, (2 / c) * dot(v, up)));
      const tL = subtract(t, scale(v, (2 / c) * dot(v, t)));
      const w = subtract(next.t, tL);
      up = subtract(upL, scale(w, (2 / dot(w, w)) * dot(w, upL)));
      ({ p, t } = next);
      ups.push(up);
    }
    return ups;
  }

  test("the line's own frame agrees with a fine transport on a coil and on smooth lines", () => {
    const smooth = makeLine({
      kind: "smooth",
      knots: [
        [0, 0, 0],
        [3, 2, 1],
        [5, -1, 4],
        [9, 1, 2],
        [12, 3, 5],
      ],
    });
    for (const line of [coil(), smooth]) {
      const { length } = curveOf(line);
      const fine = transported(line, 20_000);
      places(line, evenly(length, 21)).forEach(({ up }, k) => {
        expect(distance(up, fine[k * 1000])).toBeLessThan(2e-5);
      });
    }
  });

  test("double reflection's error falls with the fourth power of the step", () => {
    const line = coil({ turns: 2 });
    const fine = transported(line, 40_000);
    const error = (n: number) => distance(transported(line, n)[n], fine[40_000]);
    const [coarse, half, quarter] = [40, 80, 160].map(error);
    expect(coarse / half).toBeGreaterThan(12);
    expect(half / quarter).toBeGreaterThan(12);
  });
});

describe("straight steps", () => {
  const wave = makeLine({
    kind: "smooth",
    knots: Array.from({ length: 9 }, (_, i): Vec3 => [2 * i, 0, (i % 2) * 1.5]),
  });

  test("many at once are what they are one by one, with gaps between and of any lengths", () => {
    fc.assert(
      fc.property(
        fc.array(numbers(0.02, 0.6), { minLength: 1, maxLength: TOGETHER }),
        numbers(-0.01, 0.2),
        (rooms, gap) => {
          const curve = curveOf(wave);
          const spans = new Float64Array(2 * TOGETHER);
          const found = new ChordFinder(curve).together(0, Float64Array.from(rooms), rooms.length, gap, spans);
          const one = new ChordFinder(curve);
          let from = 0;
          for (let k = 0; k < found; k++) {
            const to = one.next(from, rooms[k], 100);
            expect(Math.abs(spans[2 * k] - from)).toBeLessThan(1e-5);
            expect(Math.abs(spans[2 * k + 1] - to)).toBeLessThan(1e-5);
            from = Math.max(to + gap, from + 0.01 * rooms[k]);
          }
        },
      ),
    );
  });

  test("a step forward and a step back are the same chord", () => {
    const curve = curveOf(wave);
    fc.assert(
      fc.property(numbers(3, 10), numbers(0.05, 0.9), (from, chord) => {
        const chords = new ChordFinder(curve);
        const to = chords.next(from, chord, 50);
        expect(chords.next(to, chord, 50, -1)).toBeCloseTo(from, 4);
      }),
    );
  });
});

describe("marks", () => {
  test("divide an open line into equal parts, ends among them; a closed one from where it is told to", () => {
    const open = new GuideLine(
      makeLine({
        kind: "polyline",
        marks: 4,
        knots: [
          [0, 0, 0],
          [8, 0, 0],
        ] as Vec3[],
      }),
    );
    expect([...open.marks]).toEqual([0, 2, 4, 6, 8]);
    const length = 2 * Math.PI;
    const ring = new GuideLine(makeLine({ kind: "circle", radius: 1, knots: [[0, 0, 0]], marks: 3, marksFrom: 1 }));
    expect(ring.marks).toHaveLength(3);
    expect(ring.marks[0]).toBeCloseTo(1, 5);
    expect(ring.marks[2]).toBeCloseTo(1 + (2 / 3) * length, 5);
  });

  test("so many to a quarter of an ellipse divide each quarter by itself", () => {
    const ellipse = makeLine({
      kind: "ellipse",
      length: 6,
      width: 2,
      knots: [[0, 0, 0]],
      marks: 2,
      marksPer: "quarter",
    });
    const guide = new GuideLine(ellipse);
    expect(guide.marks).toHaveLength(8);
    guide.curve.knotAt.forEach((at, k) => expect(guide.marks[2 * k]).toBeCloseTo(at, 5));
  });
});

test("a smooth line turns at once at a corner, and gently elsewhere", () => {
  const line = makeLine({
    kind: "smooth",
    knots: [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 2],
      [4, 0, 2],
    ],
  });
  const turn = (corner: boolean) => {
    const knots = line.knots.map((knot, i) => (i === 1 ? { ...knot, corner } : knot));
    const curve = curveOf({ ...line, knots } as Line);
    const at = curve.knotAt[1];
    const [a, b] = places({ ...line, knots } as Line, [at - 1e-5, at + 1e-5]);
    return Math.acos(Math.min(1, dot(a.forward, b.forward)));
  };
  expect(turn(false)).toBeLessThan(1e-2);
  expect(turn(true)).toBeGreaterThan(0.5);
});

test("a smooth line with corners, made into Bézier handles, keeps its knots", () => {
  const line = makeLine({ kind: "smooth", knots: [[0, 0, 0] as Vec3, add([0, 0, 0], [1, 2, 3]), [4, 4, 4]] });
  expect(asKind(line, "bezier").knots.map(({ position }) => position)).toEqual(
    line.knots.map(({ position }) => position),
  );
});

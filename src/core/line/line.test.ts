import fc from "fast-check";
import { evenly as numbers } from "../math/testing";
import { CatmullRomCurve3, Vector3 } from "three";
import { curveOf, GuideLine, writeFrames, type Curve, type Line, type UpRule } from ".";
import { cross, distance, dot, lengthOf, quatAt, rotate, subtract, vectorAt, type Vec3 } from "../math";
import { anyLine, makeLine, smoothLine } from "./testing";

function sample(curve: Curve, at: number[]): { position: Vec3[]; tangent: Vec3[] } {
  const position = new Float64Array(3 * at.length);
  const tangent = new Float64Array(3 * at.length);
  curve.sample(Float64Array.from(at), at.length, position, tangent);
  return { position: at.map((_, i) => vectorAt(position, i)), tangent: at.map((_, i) => vectorAt(tangent, i)) };
}

type Rule = Exclude<UpRule, "normal">;

function frames(line: Line, rule: Rule, at: number[]): { across: Vec3; up: Vec3; forward: Vec3; position: Vec3 }[] {
  const guide = new GuideLine(line);
  const position = new Float64Array(3 * at.length);
  const rotation = new Float64Array(4 * at.length);
  writeFrames(guide.curve, guide, rule, Float64Array.from(at), at.length, position, rotation);
  return at.map((_, i) => {
    const q = quatAt(rotation, i);
    return {
      position: vectorAt(position, i),
      across: rotate(q, [1, 0, 0]),
      up: rotate(q, [0, 1, 0]),
      forward: rotate(q, [0, 0, 1]),
    };
  });
}

const evenly = (length: number, n: number) => Array.from({ length: n }, (_, i) => (length * i) / (n - 1));

/** The length of the chords between very many points at equal parameters: a reference from below. */
function denseLength(curve: Curve, from: number, to: number, steps: number): number {
  let sum = 0;
  let last: Vec3 = curve.evaluate(from).position;
  for (let i = 1; i <= steps; i++) {
    const next: Vec3 = curve.evaluate(from + ((to - from) * i) / steps).position;
    sum += distance(last, next);
    last = next;
  }
  return sum;
}

const helix = (radius: number, rise: number, turns: number, n: number) =>
  makeLine({
    kind: "smooth",
    knots: Array.from({ length: n }, (_, i): Vec3 => {
      const angle = (turns * 2 * Math.PI * i) / (n - 1);
      return [radius * Math.cos(angle), (rise * i) / (n - 1), radius * Math.sin(angle)];
    }),
  });

describe("arc length", () => {
  test("the length agrees with a dense polygon through the curve, for lines of every kind", () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const curve = curveOf(line);
        const dense = denseLength(
          curve,
          0,
          curve.spans,
          Math.max(20, Math.min(2000, 20_000 / curve.spans)) * curve.spans,
        );
        expect(dense).toBeLessThanOrEqual(curve.length * (1 + 1e-9) + 1e-9);
        // A rope that hangs straight down turns back in one point, which chords cut off.
        expect(dense).toBeGreaterThanOrEqual(curve.length * (1 - 1e-3));
      }),
      { numRuns: 40 },
    );
  });

  test("the inverse gives back the arc length within 1e-6 of the length, and rises", () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const curve = curveOf(line);
        let last = -1;
        for (const at of evenly(curve.length, 23).slice(0, -1)) {
          const u = curve.parameterAt(at);
          expect(Math.abs(curve.arcLengthTo(u) - at)).toBeLessThanOrEqual(1e-6 * curve.length);
          expect(u).toBeGreaterThanOrEqual(last);
          last = u;
        }
      }),
      { numRuns: 60 },
    );
  });

  test("points at equal arc lengths lie equally far apart along the line", () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const curve = curveOf(line);
        fc.pre(curve.length > 0.1);
        const us = evenly(curve.length * 0.999, 9).map((at) => curve.parameterAt(at));
        for (let i = 1; i < us.length; i++) {
          const part = denseLength(curve, us[i - 1], us[i], 4000);
          expect(Math.abs(part - (curve.length * 0.999) / 8)).toBeLessThan(1e-4 * curve.length);
        }
      }),
      { numRuns: 15 },
    );
  });

  test("the derivative is the limit of differences, and the tangent is its direction", () => {
    fc.assert(
      fc.property(anyLine, numbers(0.05, 0.95), (line, x) => {
        const curve = curveOf(line);
        const u = Math.floor(x * curve.spans) + 0.5;
        fc.pre(u < curve.spans);
        const { derivative } = curve.evaluate(u);
        const h = 1e-5;
        const [before, after] = [curve.evaluate(u - h), curve.evaluate(u + h)];
        const [a, b] = [before.position, after.position];
        // A rope between points above each other is folded where it hangs deepest: there is no derivative in the fold.
        fc.pre(
          dot(before.derivative, after.derivative) >= 0.99 * lengthOf(before.derivative) * lengthOf(after.derivative),
        );
        const size = Math.max(1, lengthOf(derivative));
        for (let k = 0; k < 3; k++) expect(Math.abs((b[k] - a[k]) / (2 * h) - derivative[k])).toBeLessThan(2e-3 * size);
        fc.pre(lengthOf(derivative) > 1e-3);
        const { tangent } = sample(curve, [curve.arcLengthTo(u)]);
        expect(dot(tangent[0], derivative) / lengthOf(derivative)).toBeGreaterThan(1 - 1e-6);
      }),
      { numRuns: 60 },
    );
  });
});

describe("kinds of line", () => {
  test("a smooth line goes through its knots and equals three's centripetal Catmull–Rom curve between them", () => {
    fc.assert(
      fc.property(
        fc.infiniteStream(numbers(-10, 10)),
        fc.integer({ min: 3, max: 9 }),
        fc.boolean(),
        (stream, n, closed) => {
          const knots = Array.from({ length: n }, (_, i): Vec3 => [
            i * 3 + stream.next().value! * 0.1,
            stream.next().value!,
            stream.next().value!,
          ]);
          const curve = curveOf(makeLine({ kind: "smooth", knots, closed }));
          const peer = new CatmullRomCurve3(
            knots.map((k) => new Vector3(...k)),
            closed,
            "centripetal",
          );
          for (let i = 0; i <= 40; i++) {
            const p = peer.getPoint(i / 40);
            expect(distance(curve.evaluate((i / 40) * curve.spans).position, [p.x, p.y, p.z])).toBeLessThan(1e-9);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  test("a rope given by sag hangs exactly that deep below its chord, whatever the heights of its ends", () => {
    fc.assert(
      fc.property(numbers(0.5, 30), numbers(-8, 8), numbers(0.01, 10), (across, rise, sag) => {
        const curve = curveOf(
          makeLine({
            kind: "hanging",
            knots: [
              [1, 2, 3],
              [1 + across, 2 + rise, 3],
            ],
            by: "sag",
            sag,
          }),
        );
        const { position } = sample(curve, evenly(curve.length, 20001));
        const deepest = Math.max(...position.map((p) => 2 + (rise * (p[0] - 1)) / across - p[1]));
        expect(Math.abs(deepest - sag)).toBeLessThan(1e-6 * (1 + sag) * (1 + Math.abs(rise)));
        expect(distance(position[20000], [1 + across, 2 + rise, 3])).toBeLessThan(1e-8);
      }),
      { numRuns: 30 },
    );
  });

  test("a rope given by length has that length and ends at its knots; one that is too short is taut", () => {
    const knots: Vec3[] = [
      [0, 3, 0],
      [6, 3.5, 0],
      [8, 2, 4],
    ];
    const rope = curveOf(makeLine({ kind: "hanging", knots, by: "length", length: 14 }));
    expect(rope.length).toBeCloseTo(14, 9);
    expect(distance(sample(rope, [rope.length]).position[0], knots[2])).toBeLessThan(1e-9);
    expect(distance(sample(rope, [rope.spanAt[1]]).position[0], knots[1])).toBeLessThan(1e-9);
    const taut = curveOf(makeLine({ kind: "hanging", knots, by: "length", length: 3 }));
    expect(taut.length).toBeCloseTo(distance(knots[0], knots[1]) + distance(knots[1], knots[2]), 9);
  });

  test("a rope between two points above each other hangs straight down and comes back up", () => {
    const rope = curveOf(
      makeLine({
        kind: "hanging",
        knots: [
          [1, 5, 1],
          [1, 4, 1],
        ],
        by: "length",
        length: 7,
      }),
    );
    const { position } = sample(rope, evenly(rope.length, 501));
    expect(Math.min(...position.map((p) => p[1]))).toBeCloseTo(1, 1);
    expect(rope.length).toBeCloseTo(7, 6);
    expect(distance(position[500], [1, 4, 1])).toBeLessThan(1e-5);
  });

  test("an open line runs on straight past its ends, a closed one wraps round", () => {
    const open = curveOf(
      makeLine({
        kind: "polyline",
        knots: [
          [0, 0, 0],
          [4, 0, 0],
        ],
      }),
    );
    expect(sample(open, [-1, 6]).position).toEqual([
      [-1, 0, 0],
      [6, 0, 0],
    ]);
    const square = curveOf(
      makeLine({
        kind: "polyline",
        knots: [
          [0, 0, 0],
          [1, 0, 0],
          [1, 0, 1],
          [0, 0, 1],
        ],
        closed: true,
      }),
    );
    expect(distance(sample(square, [4.25]).position[0], [0.25, 0, 0])).toBeLessThan(1e-9);
    expect(distance(sample(square, [-0.25]).position[0], [0, 0, 0.25])).toBeLessThan(1e-9);
  });

  test("a line that is a single point has length zero, a position and finite frames", () => {
    for (const kind of ["polyline", "smooth", "hanging"] as const) {
      for (const knots of [
        [[1, 2, 3]],
        [
          [1, 2, 3],
          [1, 2, 3],
        ],
      ] as Vec3[][]) {
        const line = makeLine({ kind, knots, sag: 0 });
        expect(curveOf(line).length).toBe(0);
        for (const rule of ["world", "plumb", "line"] as const) {
          const [frame] = frames(line, rule, [0]);
          expect(frame.position).toEqual([1, 2, 3]);
          expect(dot(cross(frame.up, frame.forward), frame.across)).toBeCloseTo(1, 9);
        }
      }
    }
  });
});

describe("frames", () => {
  test("are orthonormal and right-handed within 1e-6 everywhere on lines of every kind, with up by every rule", () => {
    fc.assert(
      fc.property(anyLine, fc.constantFrom("world" as const, "plumb" as const, "line" as const), (line, rule) => {
        const { length } = curveOf(line);
        for (const { across, up, forward } of frames(line, rule, evenly(length * 1.1, 60))) {
          expect(Math.abs(dot(across, up))).toBeLessThan(1e-6);
          expect(Math.abs(dot(up, forward))).toBeLessThan(1e-6);
          expect(Math.abs(lengthOf(up) - 1)).toBeLessThan(1e-6);
          expect(dot(cross(up, forward), across)).toBeGreaterThan(1 - 1e-6);
          if (rule === "plumb") expect(up[1]).toBeCloseTo(1, 9);
          else expect(up[1]).toBeGreaterThan(rule === "world" ? -1e-9 : -2);
        }
      }),
      { numRuns: 150 },
    );
  });

  test("the line's own frame does not turn about the tangent: its up changes only along the tangent", () => {
    fc.assert(
      fc.property(smoothLine({ closed: fc.constant(false), ring: fc.constant(false) }), (line) => {
        const { length } = curveOf(line);
        fc.pre(length > 1);
        const step = 1e-5 * length;
        const at = evenly(length * 0.98, 31);
        const before = frames(line, "line", at);
        const after = frames(
          line,
          "line",
          at.map((s) => s + step),
        );
        for (const [i, a] of before.entries()) {
          const b = after[i];
          const turned = dot(subtract(b.up, a.up), a.across);
          const bent = lengthOf(subtract(b.forward, a.forward));
          expect(Math.abs(turned)).toBeLessThan(1e-2 * bent + 1e-7);
        }
      }),
      { numRuns: 30 },
    );
  });

  test("on a helix, up after each turn agrees with a fine numerical transport", () => {
    const line = helix(2, 6, 3, 60);
    const curve = curveOf(line);
    const n = 200_001;
    const { tangent } = sample(curve, evenly(curve.length, n));
    let up = frames(line, "line", [0])[0].up;
    for (let i = 1; i < n; i++) {
      // Project onto the next normal plane: a first-order transport, exact in the limit of small steps.
      const next = subtract(up, [
        tangent[i][0] * dot(up, tangent[i]),
        tangent[i][1] * dot(up, tangent[i]),
        tangent[i][2] * dot(up, tangent[i]),
      ]);
      up = [next[0] / lengthOf(next), next[1] / lengthOf(next), next[2] / lengthOf(next)];
    }
    expect(lengthOf(subtract(up, frames(line, "line", [curve.length])[0].up))).toBeLessThan(1e-4);
  });

  test("on closed lines the own frame comes back to where it began", () => {
    const knots: Vec3[] = [
      [4, 0, 0],
      [2, 3, 3],
      [-3, 1, 4],
      [-4, -2, 0],
      [-1, 4, -4],
      [3, 1, -2],
    ];
    for (const kind of ["smooth", "polyline"] as const) {
      const line = makeLine({ kind, knots, closed: true });
      const { length } = curveOf(line);
      const [start, end] = frames(line, "line", [0, length * (1 - 1e-12)]);
      if (kind === "smooth") expect(lengthOf(subtract(start.up, end.up))).toBeLessThan(1e-5);
      const first = frames(line, "line", [0, length]);
      expect(lengthOf(subtract(first[0].up, first[1].up))).toBeLessThan(1e-12);
    }
  });

  test("a vertical line has the line's own frame as its fallback and keeps it steadily", () => {
    const line = makeLine({
      kind: "polyline",
      knots: [
        [0, 0, 0],
        [3, 0, 0],
        [3, 5, 0],
        [3, 9, 0],
      ],
    });
    const [level, ...rest] = frames(line, "world", [1, 4, 6, 9, 11]);
    expect(level.up[1]).toBeCloseTo(1, 9);
    for (const frame of rest) expect(lengthOf(subtract(frame.up, [-1, 0, 0]))).toBeLessThan(1e-6);
    for (const frame of frames(line, "plumb", [1, 4, 6, 9, 11])) {
      expect(lengthOf(subtract(frame.forward, [1, 0, 0]))).toBeLessThan(1e-6);
    }
  });

  test("where a line turns right back on itself nothing flips over or becomes NaN", () => {
    const line = makeLine({
      kind: "polyline",
      knots: [
        [0, 0, 0],
        [4, 0, 0],
        [1, 0, 0],
        [1, 0, 0],
        [5, 0, 0],
      ],
    });
    for (const rule of ["line", "world"] as const) {
      for (const { up } of frames(line, rule, evenly(11, 45))) expect(up[1]).toBeCloseTo(1, 6);
    }
  });

  test("the frame at a place does not depend on what else is asked", () => {
    const line = helix(1, 2, 2, 12);
    const many = frames(line, "line", evenly(10, 101));
    const one = frames(line, "line", [10 * 0.37]);
    expect(one[0].up).toEqual(many[37].up);
  });
});

import fc from "fast-check";
import { evenly } from "../../math/testing";
import { GuideLine, type Line } from "../../line";
import { anyLine, makeLine } from "../../line/testing";
import { distance, quatAt, rotate, vectorAt, type Vec3 } from "../../math";
import { FIRST_CORNER, placeOfKey } from "../keys";
import { NO_PROP } from "../slots";
import { BOUNDS, dressing, evaluate, place, straight, surroundings } from "../testing";
import { standingAt } from "../standing-at";
import { snapFrame, type SnapPoint } from "../../tie";
import { sizeOf, type PropBounds } from "../../mesh";
import type { Placements } from "../placements";

type Input = Parameters<typeof place>[0];

const ring = (radius: number) => makeLine({ kind: "circle", knots: [[0, 0, 0]], radius });
const square = makeLine({
  kind: "polyline",
  knots: [
    [0, 0, 0],
    [4, 0, 0],
    [4, 0, 4],
    [0, 0, 4],
  ],
  closed: true,
});

/** Where a placement's back and front lie in the world, on the way along its own middle. */
function endsOf(p: Placements, i: number): [back: Vec3, front: Vec3] {
  const prop = p.props[p.prop[i]];
  const { min, max } = BOUNDS.get(prop)!;
  const turn = quatAt(p.rotation, i);
  const at = (z: number): Vec3 => {
    const [x, y, w] = rotate(turn, [0, 0, z * p.scale[3 * i + 2]]);
    const [px, py, pz] = vectorAt(p.position, i);
    return [px + x + p.origin[0], py + y + p.origin[1], pz + w + p.origin[2]];
  };
  return [at(min[2]), at(max[2])];
}

const onTheLine: Input = { stance: { meetsUp: "pivot", up: "line" } };
const waves: fc.Arbitrary<Line> = fc
  .array(fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })), { minLength: 3, maxLength: 7 })
  .map((turns) => makeLine({ kind: "smooth", knots: turns.map(([y, z], i): Vec3 => [5 * i, y, z]) }));

describe("end to end", () => {
  test("each prop begins where the one before it ends, both ends on the line, to a hundredth of a millimetre", () => {
    fc.assert(
      fc.property(waves, (line) => {
        const what = { entries: [{ prop: "oar" }, { prop: "buoy", count: 2 }] };
        const p = place({ ...onTheLine, what, spacing: { by: "end", gap: 0 } }, [line]);
        expect(p.count).toBeGreaterThan(8);
        for (let i = 1; i < p.count; i++) {
          expect(distance(endsOf(p, i - 1)[1], endsOf(p, i)[0])).toBeLessThan(1e-5);
        }
        const { length } = new GuideLine(line).curve;
        const used = Array.from(p.prop).reduce((sum, prop) => sum + sizeOf(BOUNDS.get(p.props[prop])!)[2], 0);
        expect(used).toBeLessThanOrEqual(length);
      }),
      { numRuns: 30 },
    );
  });

  test("a gap lies between them along the line, and below zero they overlap by it", () => {
    for (const gap of [0.25, -0.1]) {
      const p = place({ ...onTheLine, spacing: { by: "end", gap } });
      for (let i = 1; i < p.count; i++) {
        expect(endsOf(p, i)[0][0] - endsOf(p, i - 1)[1][0]).toBeCloseTo(gap, 5);
      }
    }
  });

  test("what is left over is shared among the gaps, split, or taken up by stretching the props, exactly", () => {
    const spacing = { by: "end" as const };
    for (const line of [straight(10.3), ring(2)]) {
      const { length } = new GuideLine(line).curve;
      for (const remainder of ["shared", "stretched"] as const) {
        const p = place({ ...onTheLine, spacing: { ...spacing, remainder } }, [line]);
        const ends = Array.from({ length: p.count }, (_, i) => endsOf(p, i));
        const last = ends[p.count - 1][1];
        const goal: Vec3 = line.kind === "circle" && remainder === "stretched" ? ends[0][0] : [length, 0, 0];
        if (line.kind !== "circle" || remainder === "stretched") expect(distance(last, goal)).toBeLessThan(1e-5);
        const gaps = ends.slice(1).map(([back], i) => distance(ends[i][1], back));
        expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(1e-5);
        expect(p.scale[2] === 1).toBe(remainder === "shared");
        expect([p.scale[0], p.scale[1]]).toEqual([1, 1]);
      }
    }
    const centred = place({ ...onTheLine, spacing: { ...spacing, remainder: "centred" } }, [straight(10.3)]);
    const [front, back] = [endsOf(centred, 0)[0][0], 10.3 - endsOf(centred, centred.count - 1)[1][0]];
    expect(front).toBeCloseTo(back, 5);
  });

  test("a blank takes the room of the prop before it, and a longer line leaves the beginning as it was", () => {
    const what = { entries: [{ prop: "oar" }, { prop: null }] };
    const [short, long] = [6, 15].map((length) => place({ what, spacing: { by: "end" } }, [straight(length)]));
    for (let i = 1; i < short.count; i++) expect(short.at[i] - short.at[i - 1]).toBeCloseTo(1.2, 5);
    expect([...long.key].slice(0, short.count)).toEqual([...short.key]);
    expect([...long.at].slice(0, short.count)).toEqual([...short.at]);
  });

  test("sliding brings new links in at the front, numbered below zero, without a hole", () => {
    const p = place({ ...onTheLine, spacing: { by: "end", slide: 1.3 } }, [straight(8)]);
    expect(placeOfKey(p.key[0])).toBe(-3);
    for (let i = 1; i < p.count; i++) expect(endsOf(p, i)[0][0]).toBeCloseTo(endsOf(p, i - 1)[1][0], 5);
    const back = place({ ...onTheLine, spacing: { by: "end", slide: -1.3 } }, [straight(8)]);
    expect(placeOfKey(back.key[0])).toBe(4);
  });

  test("on any line whatever nothing hangs or becomes NaN", () => {
    fc.assert(
      fc.property(anyLine, fc.constantFrom("end", "shared", "centred", "stretched"), (line, remainder) => {
        const p = place({ spacing: { by: "end", remainder: remainder as "end" } }, [line]);
        for (const value of [...p.position, ...p.rotation, ...p.scale]) expect(value).not.toBeNaN();
      }),
      { numRuns: 60 },
    );
  });
});

describe("at corners", () => {
  const posts = { entries: [{ prop: "buoy" }], corner: "oar" };

  test("each corner has a slot of its own, numbered by its knot, and the stretches between are filled by themselves", () => {
    const p = place({ what: posts, spacing: { by: "end", anew: true, remainder: "shared" } }, [square]);
    const corners = Array.from(p.key, placeOfKey).filter((slot) => slot >= FIRST_CORNER);
    expect(corners.map((slot) => slot - FIRST_CORNER)).toEqual([0, 1, 2, 3]);
    // A post reaches 0.7 m to one side: a stretch of 4 m keeps 2.6 m, room for six buoys of 0.4 m.
    expect(p.count).toBe(4 + 4 * 6);
    const oars = Array.from(p.prop, (prop) => p.props[prop]).filter((prop) => prop === "oar");
    expect(oars).toHaveLength(4);
  });

  test("only knots at which the line turns by the angle or more count, and a rounded corner is one", () => {
    const bend = (angle: number) => {
      const c: Vec3 = [4 + 4 * Math.cos(angle), 0, 4 * Math.sin(angle)];
      const knots: Vec3[] = [[0, 0, 0], [4, 0, 0], c];
      return makeLine({ kind: "polyline", knots, cornerRadius: 0.5 });
    };
    const count = (angle: number) =>
      place({ what: { ...posts, cornerAngle: 0.5 }, spacing: { distance: 1 } }, [bend(angle)]).key.filter(
        (key) => placeOfKey(key) >= FIRST_CORNER,
      ).length;
    expect([count(0.49), count(0.51), count(-0.6)]).toEqual([0, 1, 1]);
  });
});

describe("by tag", () => {
  const tagged: Line = {
    ...square,
    knots: square.knots.map((knot, i) =>
      i === 1 ? { ...knot, tag: "gate" } : i === 2 ? { ...knot, tag: "open" } : knot,
    ),
  };

  test("on a tagged span stands the prop of its tag, or nothing; elsewhere what the entries say", () => {
    const what = {
      entries: [{ prop: "buoy" }],
      tagged: [
        { tag: "gate", prop: "oar" },
        { tag: "open", prop: null },
      ],
    };
    for (const spacing of [{ distance: 0.5 }, { by: "end" as const }]) {
      const p = place({ what, spacing }, [tagged]);
      for (let i = 0; i < p.count; i++) {
        // End to end it is where a prop begins that says which one it is; a blank is as long as an oar.
        const behind = p.prop[i] === NO_PROP ? 0.6 : p.reach[2 * i];
        const at = "by" in spacing ? p.at[i] - behind + 1e-4 : p.at[i] + 1e-4;
        const wanted = at < 4 || at >= 12 ? "buoy" : at < 8 ? "oar" : undefined;
        expect(p.props[p.prop[i]]).toBe(wanted);
      }
    }
  });
});

describe("density", () => {
  test("twice as dense lies half as far apart, and between two points of the curve it changes evenly", () => {
    const density: [number, number][] = [
      [0, 1],
      [0.5, 1],
      [0.5, 2],
      [1, 2],
    ];
    const p = place({ spacing: { by: "density", distance: 1, density } });
    const gaps = Array.from(p.at)
      .slice(1)
      .map((at, i) => at - p.at[i]);
    expect(gaps.slice(0, 5).every((gap) => Math.abs(gap - 1) < 1e-4)).toBe(true);
    expect(gaps.slice(5).every((gap) => Math.abs(gap - 0.5) < 1e-4)).toBe(true);
    expect(p.count).toBe(16);
  });

  test("the number of slots up to any place is the integral of the density, to less than one", () => {
    const point = fc.tuple(evenly(0, 1), evenly(0, 5));
    fc.assert(
      fc.property(fc.array(point, { minLength: 1, maxLength: 6 }), (curve) => {
        const density = [...curve].sort(([a], [b]) => a - b);
        const p = place({ spacing: { by: "density", distance: 0.4, density } });
        const at = (s: number): number => {
          const x = s / 10;
          const i = density.findIndex(([share]) => share >= x);
          if (i < 0) return density[density.length - 1][1];
          if (i === 0) return density[0][1];
          const [[x0, y0], [x1, y1]] = [density[i - 1], density[i]];
          return x1 > x0 ? y0 + ((y1 - y0) * (x - x0)) / (x1 - x0) : y1;
        };
        let integral = 0;
        let next = 0;
        for (let k = 0; k < 20_000; k++) {
          integral += (at((k + 0.5) / 2000) / 0.4) * (1 / 2000);
          while (next < p.count && p.at[next] < (k + 1) / 2000) next++;
          if (k % 500 === 0) expect(Math.abs(next - integral - 0.5)).toBeLessThan(1.1);
        }
      }),
      { numRuns: 40 },
    );
  });
});

test("slid along, each touches the next, and in front of the first there is no room for the one that comes before it", () => {
  const what = { entries: [{ prop: "oar" }, { prop: "buoy" }] };
  fc.assert(
    fc.property(evenly(0, 4), (slide) => {
      const p = place({ what, spacing: { by: "end", slide } });
      const ends = (i: number) => [p.at[i] - p.reach[2 * i], p.at[i] + p.reach[2 * i + 1]];
      const long = { oar: 0, buoy: 0 };
      for (let i = 0; i < p.count; i++) {
        long[p.props[p.prop[i]] as keyof typeof long] = ends(i)[1] - ends(i)[0];
        if (i > 0) expect(ends(i)[0]).toBeCloseTo(ends(i - 1)[1], 5);
        if (i > 0) expect(p.prop[i]).not.toBe(p.prop[i - 1]);
      }
      const before = p.props[p.prop[0]] === "oar" ? long.buoy : long.oar;
      expect(ends(0)[0]).toBeGreaterThan(-1e-5);
      expect(ends(0)[0]).toBeLessThan(before + 1e-5);
      expect(ends(p.count - 1)[1]).toBeLessThan(10 + 1e-5);
    }),
  );
});

test("kept inside the ends nothing sticks out, whatever is placed", () => {
  const what = { entries: [{ prop: "oar" }, { prop: "buoy" }] };
  for (const spacing of [{ distance: 0.9 }, { by: "count" as const, count: 7 }, { by: "divide" as const, parts: 5 }]) {
    const p = place({ what, spacing: { ...spacing, inside: true } });
    for (let i = 0; i < p.count; i++) {
      expect(p.at[i] - p.reach[2 * i]).toBeGreaterThan(-1e-5);
      expect(p.at[i] + p.reach[2 * i + 1]).toBeLessThan(10 + 1e-5);
    }
  }
});

test("all lines as one are counted through: the distance goes on from the end of one to the start of the next", () => {
  const lines = [straight(2.5, { id: "a" }), straight(4, { id: "b", number: 2 })];
  const where = { lines: ["a", "b"] };
  const p = place({ where, spacing: { distance: 1, together: true } }, lines);
  expect(Array.from(p.at, (at) => Number(at.toFixed(4)))).toEqual([0, 1, 2, 0.5, 1.5, 2.5, 3.5]);
  const what = {
    entries: [
      { prop: "buoy", count: 4 },
      { prop: "oar", count: 3 },
    ],
  };
  const sequence = place({ where, what, spacing: { distance: 1, together: true } }, lines);
  expect(Array.from(sequence.prop, (prop) => sequence.props[prop])).toEqual([
    ...new Array<string>(4).fill("buoy"),
    ...new Array<string>(3).fill("oar"),
  ]);
});

test("as one, what travels comes in at the start again, in order and none twice, and a sequence goes on end to end as well", () => {
  const [a, b] = [2.5, 4];
  const lines = [straight(a, { id: "a" }), straight(b, { id: "b", number: 2 })];
  const where = { lines: ["a", "b"] };
  fc.assert(
    fc.property(evenly(-20, 20), fc.integer({ min: 2, max: 9 }), (travel, count) => {
      const step = (a + b) / (count - 1);
      const all = Array.from({ length: count }, (_, k) => k * step + travel);
      const round = all.map((at) => at - count * step * Math.floor(at / (count * step)));
      fc.pre(round.every((at) => [0, a, a + b, count * step].every((end) => Math.abs(at - end) > 1e-4)));
      const p = place({ where, spacing: { by: "count", count, together: true, travel } }, lines);
      const wanted = round.filter((at) => at < a + b).sort((one, other) => one - other);
      expect(Array.from(p.at, (at, i) => at + a * p.line[i])).toEqual(wanted.map((at) => expect.closeTo(at, 6)));
    }),
    { numRuns: 40 },
  );
  const what = { entries: [{ prop: "buoy" }, { prop: "oar", count: 2 }] };
  const p = place({ where, what, spacing: { by: "end", together: true } }, lines);
  expect(p.line.indexOf(1) % 3).not.toBe(0);
  const wanted = Array.from({ length: p.count }, (_, i) => (i % 3 === 0 ? "buoy" : "oar"));
  expect(Array.from(p.prop, (prop) => p.props[prop])).toEqual(wanted);
});

test("begun anew at corners, the prop for the first slot stands once, at the line's start, and the one for the last once, at its end", () => {
  const line = makeLine({
    kind: "polyline",
    knots: [
      [0, 0, 0],
      [5, 0, 0],
      [5, 0, 5],
      [0, 0, 5],
    ],
  });
  const p = place(
    { spacing: { by: "end", anew: true }, what: { entries: [{ prop: "buoy" }], first: "oar", last: "oar" } },
    [line],
  );
  const order = Array.from({ length: p.count }, (_, i) => i).sort((a, b) => p.at[a] - p.at[b]);
  expect(order.length).toBeGreaterThan(20);
  const oars = order.flatMap((i, k) => (p.props[p.prop[i]] === "oar" ? [k] : []));
  expect(oars).toEqual([0, order.length - 1]);
});

describe("one each", () => {
  const box = (length: number): PropBounds => ({ min: [-0.1, 0, -0.3 * length], max: [0.1, 0.2, 0.7 * length] });
  const near = evenly(0.3, 9);
  const spanned = (more: object, line: Line, length: number, snaps: readonly SnapPoint[] = []) =>
    evaluate(dressing({ what: { entries: [{ prop: "beam" }] }, spacing: { by: "each", ...more } }, [line]), {
      ...surroundings([line]),
      bounds: new Map([["beam", box(length)]]),
      snaps: new Map([["beam", snaps]]),
    });
  const snap = (name: string, position: Vec3): SnapPoint => ({
    name,
    position,
    direction: [0, 1, 0],
    free: true,
    own: true,
  });

  test("spans its line, whatever that and the prop are long: stretched, by its ends, or in as many as fit best", () => {
    fc.assert(
      fc.property(near, near, evenly(-0.3, 0.3), (long, length, z) => {
        const line = straight(long);
        const whole = spanned({}, line, length);
        expect([whole.count, whole.scale[2]]).toEqual([1, expect.closeTo(long / length, 4)]);
        expect([...whole.reach].reduce((a, b) => a + b, 0)).toBeCloseTo(long, 4);
        const [a, b] = [snap("a", [0.05, 0.1, z * length]), snap("b", [0.05, 0.1, 0.6 * length])];
        const hung = spanned({ each: "snaps", eachFrom: "a", eachTo: "b" }, line, length, [a, b]);
        const curve = new GuideLine(line).curve;
        [a, b].forEach((one, k) => {
          const { position } = snapFrame(standingAt(hung, 0), one);
          const end = curve.evaluate(k * curve.spans).position;
          expect(Math.hypot(...position.map((x, axis) => x - end[axis]))).toBeLessThan(1e-5);
        });
        const many = spanned({ each: "repeated" }, line, length);
        expect(many.count).toBe(Math.max(1, many.count));
        expect(many.count * length * many.scale[2]).toBeCloseTo(long, 4);
        expect(Math.abs(many.scale[2] - 1)).toBeLessThanOrEqual(many.count === 1 ? Infinity : 0.51);
      }),
    );
  });

  test("is cut where its line ends, though Fit cuts nothing", () => {
    const p = spanned({ each: "cut" }, straight(2.5), 1);
    expect(p.count).toBe(3);
    expect(p.shapes).not.toBeNull();
  });
});

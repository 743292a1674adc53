import fc from "fast-check";
import { evenly } from "../../math/testing";
import { makeLine } from "../../line/testing";
import { FLAG } from "../slots";
import { all, place, straight } from "../testing";
import { tintsBetween, TINTS } from "./variation";
import type { Placements } from "../placements";

const many = { by: "count" as const, count: 8000 };
const line = [straight(8000)];
const across = (p: Placements) => Array.from({ length: p.count }, (_, i) => -(p.origin[2] + p.position[3 * i + 2]));
const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const spread = (values: readonly number[]) => Math.sqrt(mean(values.map((value) => (value - mean(values)) ** 2)));

describe("ranges", () => {
  const shifted = (positionSpread: "even" | "bell", positionStep = 0, range: [number, number] = [-0.4, 0.6]) =>
    across(
      place(
        {
          spacing: many,
          variation: { positionOn: true, along: [0, 0], up: [0, 0], across: range, positionSpread, positionStep },
        },
        line,
      ),
    );

  test("an even spread has the range's own mean and deviation; a bell's is half as wide; both keep to the range", () => {
    const [even, bell] = [shifted("even"), shifted("bell")];
    for (const values of [even, bell]) {
      expect(Math.min(...values)).toBeGreaterThanOrEqual(-0.4 - 1e-4);
      expect(Math.max(...values)).toBeLessThanOrEqual(0.6 + 1e-4);
      expect(mean(values)).toBeCloseTo(0.1, 1);
    }
    expect(spread(even)).toBeCloseTo(1 / Math.sqrt(12), 2);
    expect(spread(bell)).toBeCloseTo(1 / Math.sqrt(48), 2);
  });

  test("in steps only whole steps from the lower end are drawn, each about as often", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 7 }), (parts) => {
        const step = 1 / parts;
        const drawn = shifted("even", step, [0, 1]);
        const counts = new Array<number>(parts + 1).fill(0);
        for (const value of drawn) {
          const k = Math.round(value / step);
          expect(Math.abs(value - k * step)).toBeLessThan(1e-3);
          counts[k]++;
        }
        for (const count of counts) expect(count / drawn.length).toBeCloseTo(1 / (parts + 1), 1);
      }),
      { numRuns: 6 },
    );
  });

  test("quarter turns are four", () => {
    const p = place(
      {
        spacing: many,
        variation: {
          turnOn: true,
          turnAlong: [0, 0],
          turnAcross: [0, 0],
          turnUp: [0, 1.5 * Math.PI],
          turnStep: Math.PI / 2,
        },
      },
      line,
    );
    const turns = new Set(all(p).map(({ rotation }) => rotation.map((x) => Math.abs(x).toFixed(4)).join()));
    expect(turns.size).toBeLessThanOrEqual(4);
    expect(turns.size).toBeGreaterThan(1);
  });

  test("width, height and depth are drawn each for itself", () => {
    const p = place({ spacing: many, variation: { sizeOn: true, size: [1, 1], height: [0.5, 2] } }, line);
    for (let i = 0; i < p.count; i++) expect([p.scale[3 * i], p.scale[3 * i + 2]]).toEqual([1, 1]);
    const heights = Array.from({ length: p.count }, (_, i) => p.scale[3 * i + 1]);
    expect(mean(heights)).toBeCloseTo(1.25, 1);
  });
});

test("the chance of a mirror image is kept, more of it only adds some, and nothing else is dealt anew", () => {
  const mirrored = (mirror: number) => place({ spacing: many, variation: { turnOn: true, mirror } }, line);
  const [few, more] = [mirrored(0.2), mirrored(0.6)];
  const flagged = (p: Placements) => Array.from(p.flags, (flags) => (flags & FLAG.mirrored) !== 0);
  expect(flagged(few).filter(Boolean).length / few.count).toBeCloseTo(0.2, 1);
  flagged(few).forEach((is, i) => is && expect(flagged(more)[i]).toBe(true));
  expect([...more.rotation]).toEqual([...few.rotation]);
});

test("tints go evenly from one colour to the other, and each placement has one of them", () => {
  const tints = tintsBetween("#000000", "#ff8000");
  expect([tints[0], tints[TINTS - 1]]).toEqual(["#000000", "#ff8000"]);
  const p = place({ spacing: many, variation: { tintOn: true, tintFrom: "#000000", tintTo: "#ff8000" } }, line);
  expect(p.tints).toEqual(tints);
  expect(new Set(p.tint).size).toBe(TINTS);
  expect(place({ spacing: many }, line).tints).toEqual(["#ffffff"]);
});

describe("wander", () => {
  const wandering = (over: number, most: number, lines = line, seed = 1) =>
    place(
      { spacing: { distance: 0.1 }, variation: { seed, wanderOn: true, wanderAcross: most, wanderOver: over } },
      lines,
    );

  test("moves sideways by no more than it may, and neighbours together", () => {
    const p = wandering(2, 0.5, [straight(300)]);
    const values = across(p);
    expect(Math.max(...values.map(Math.abs))).toBeLessThanOrEqual(0.5 + 1e-4);
    expect(Math.max(...values)).toBeGreaterThan(0.3);
    expect(Math.min(...values)).toBeLessThan(-0.3);
    // The quintic ease is steepest half way: 15/8 of the mean slope, from one end of the range to the other.
    for (let i = 1; i < values.length; i++) {
      expect(Math.abs(values[i] - values[i - 1])).toBeLessThan(((15 / 8) * 1.0 * 0.1) / 2 + 1e-3);
    }
  });

  test("rows of one line wander together, so they stay as far apart", () => {
    const p = place(
      {
        spacing: { distance: 1 },
        fit: { rows: 2, rowDistance: 0.8 },
        variation: { wanderOn: true, wanderAcross: 0.3 },
      },
      [straight(40)],
    );
    const values = across(p);
    for (let i = 0; i < 41; i++) expect(values[41 + i] - values[i]).toBeCloseTo(0.8, 4);
  });

  test("round a closed line the wave closes too; a longer line leaves its beginning as it was", () => {
    const ring = makeLine({ kind: "circle", knots: [[0, 0, 0]], radius: 5 });
    const p = wandering(2.3, 0.5, [ring]);
    const out = Array.from({ length: p.count }, (_, i) =>
      Math.hypot(p.origin[0] + p.position[3 * i], p.origin[2] + p.position[3 * i + 2]),
    );
    expect(Math.abs(out[0] - out[out.length - 1])).toBeLessThan(0.06);
    const [short, long] = [across(wandering(2, 0.5, [straight(10)])), across(wandering(2, 0.5, [straight(30)]))];
    expect(long.slice(0, short.length)).toEqual(short);
  });
});

test("no parameter of Variation re-deals another: whatever is switched on or set, the other draws stay", () => {
  const range = fc
    .tuple(evenly(-0.3, 0.3), evenly(-0.3, 0.3))
    .map(([a, b]): [number, number] => [Math.min(a, b), Math.max(a, b)]);
  fc.assert(
    fc.property(range, range, fc.boolean(), fc.boolean(), evenly(0, 1), (a, b, on, tint, mirror) => {
      const base = { turnOn: true, turnUp: [-0.5, 0.5] as [number, number], sizeOn: true };
      const spacing = { distance: 0.5 };
      const plain = place({ spacing, variation: base });
      const other = place({
        spacing,
        variation: { ...base, positionOn: true, along: [0, 0], across: a, up: b, wanderOn: on, tintOn: tint, mirror },
        gaps: { chance: mirror },
      });
      expect([...other.rotation]).toEqual([...plain.rotation]);
      expect([...other.scale]).toEqual([...plain.scale]);
    }),
  );
});

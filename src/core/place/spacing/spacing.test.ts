import fc from "fast-check";
import { evenly } from "../../math/testing";
import { GuideLine, type Line } from "../../line";
import { anyLine, makeLine } from "../../line/testing";
import { distance, vectorAt, type Vec3 } from "../../math";
import { placeOfKey } from "../keys";
import { dressing, place, straight } from "../testing";
import { joinedRow, NO_ROW, placeIn } from "./row";
import { rowOn } from "./spacing";
import type { Placements } from "../placements";

const ats = (p: Placements) => Array.from(p.at, (at) => Number(at.toFixed(4)));
const numbers = (p: Placements) => Array.from(p.key, placeOfKey);
const positions = (p: Placements): Vec3[] =>
  Array.from({ length: p.count }, (_, i) => {
    const [x, y, z] = vectorAt(p.position, i);
    return [x + p.origin[0], y + p.origin[1], z + p.origin[2]];
  });
const ring = (radius: number) => makeLine({ kind: "circle", knots: [[0, 0, 0]], radius });

describe("begun anew at corners", () => {
  test("every stretch goes as far as the room kept at its corners, however short it is, and to the very ends of an open line", () => {
    const { spacing } = dressing({ spacing: { by: "divide", parts: 1, anew: true } });
    const between = (closed: boolean, corners: readonly number[]) => {
      const row = rowOn({ length: 3, closed } as never, spacing, undefined, {}, corners.map((at) => ({ at })) as never, 0.1); // prettier-ignore
      return Array.from({ length: row.count }, (_, i) => Number(placeIn(row, i).toFixed(6)));
    };
    expect(between(false, [1, 1.8])).toEqual([0, 0.9, 1.1, 1.7, 1.9, 3]);
    expect(between(false, [0, 1.8, 3])).toEqual([0.1, 1.7, 1.9, 2.9]);
    expect(between(true, [0.5, 2.8])).toEqual([0.6, 2.7, 2.9, 3.4]);
    expect(between(true, [0, 2])).toEqual([0.1, 1.9, 2.1, 2.9]);
  });

  test("all of it has halted once every stretch has", () => {
    const joined = (...halted: boolean[]) =>
      joinedRow(halted.map((is) => ({ ...NO_ROW, count: 1, halted: is }))).halted;
    expect([joined(true, false), joined(true, true), joined(false), joined()]).toEqual([false, true, false, false]);
  });
});

describe("divided into parts", () => {
  test("every cut has a slot; every k-th from the j-th on when asked; a closed line has no last cut beside the first", () => {
    expect(ats(place({ spacing: { by: "divide", parts: 5 } }))).toEqual([0, 2, 4, 6, 8, 10]);
    expect(ats(place({ spacing: { by: "divide", parts: 5, every: 2, begin: 1 } }))).toEqual([2, 6, 10]);
    expect(ats(place({ spacing: { by: "divide", parts: 4, fromStart: 1, fromEnd: 1 } }))).toEqual([1, 3, 5, 7, 9]);
    expect(ats(place({ spacing: { by: "divide", parts: 5, begin: 9 } }))).toEqual([]);
    const round = place({ spacing: { by: "divide", parts: 12 } }, [ring(1)]);
    expect(round.count).toBe(12);
    expect(round.at[11]).toBeCloseTo((11 / 12) * 2 * Math.PI, 5);
  });
});

describe("at knots", () => {
  test("slots lie on the knots and are numbered by them, on lines of every kind that has some", () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const { curve } = new GuideLine(line);
        fc.pre(curve.length > 1e-3);
        const p = place({ spacing: { by: "knots" } }, [line]);
        expect(p.count).toBe(curve.knotAt.length);
        expect(numbers(p)).toEqual(Array.from({ length: p.count }, (_, i) => i));
        if ((line.kind !== "smooth" && line.kind !== "hanging") || line.ring) return;
        positions(p).forEach((position, i) => {
          const scale = 1 + Math.max(...line.knots[i].position.map(Math.abs), curve.length);
          expect(distance(position, line.knots[i].position)).toBeLessThan(1e-5 * scale);
        });
      }),
    );
  });

  test("a round corner has its slot in the middle of its arc, a shape at its quarters or corners", () => {
    const knots: Vec3[] = [
      [0, 0, 0],
      [4, 0, 0],
      [4, 0, 4],
    ];
    const [, corner] = positions(
      place({ spacing: { by: "knots" } }, [makeLine({ kind: "polyline", knots, cornerRadius: 1 })]),
    );
    expect(distance(corner, [3 + Math.SQRT1_2, 0, 1 - Math.SQRT1_2])).toBeLessThan(1e-5);
    const quarters = positions(place({ spacing: { by: "knots" } }, [ring(2)]));
    expect(quarters.map((p) => p.map((x) => Math.round(x * 1e4) / 1e4 + 0))).toEqual([
      [2, 0, 0],
      [0, 0, -2],
      [-2, 0, 0],
      [0, 0, 2],
    ]);
    const box = makeLine({ kind: "rectangle", knots: [[0, 0, 0]], length: 4, width: 2, corner: 0 });
    expect(ats(place({ spacing: { by: "knots" } }, [box]))).toEqual([0, 4, 6, 10].map((at) => expect.closeTo(at, 3)));
  });

  test("an inset takes away the knots that lie in it, and the others keep their numbers", () => {
    const line = makeLine({ kind: "polyline", knots: [0, 1, 3, 6, 10].map((x): Vec3 => [x, 0, 0]) });
    const p = place({ spacing: { by: "knots", fromStart: 0.5, fromEnd: 2 } }, [line]);
    expect([ats(p), numbers(p)]).toEqual([
      [1, 3, 6],
      [1, 2, 3],
    ]);
  });
});

describe("at a list of places", () => {
  test("they count from the inset on, in whatever order they were written; what lies past the end is left out", () => {
    const p = place({ spacing: { by: "list", list: [3.5, 0, 1.2, 99], fromStart: 1 } });
    expect([ats(p), numbers(p)]).toEqual([
      [1, 2.2, 4.5],
      [0, 1, 2],
    ]);
    expect(ats(place({ spacing: { by: "list", list: [] } }))).toEqual([]);
    expect(ats(place({ spacing: { by: "list", list: [0, 1, 9.5], slide: 1 } }))).toEqual([1, 2]);
  });
});

describe("measured straight", () => {
  const waves: fc.Arbitrary<Line> = fc
    .array(fc.tuple(fc.integer({ min: -2, max: 2 }), fc.integer({ min: -2, max: 2 })), { minLength: 3, maxLength: 8 })
    .map((turns) => makeLine({ kind: "smooth", knots: turns.map(([y, z], i): Vec3 => [4 * i, y, z]) }));

  test("each slot is as far from the next as the crow flies, to a millionth", () => {
    fc.assert(
      fc.property(waves, evenly(0.3, 3), (line, step) => {
        const spacing = { distance: step, measure: "straight" as const };
        const places = positions(place({ spacing }, [line]));
        expect(places.length).toBeGreaterThan(2);
        for (let i = 1; i < places.length; i++) {
          expect(Math.abs(distance(places[i - 1], places[i]) - step)).toBeLessThan(2e-6 * Math.max(1, step) + 4e-6);
        }
        // Never fewer than along the line would give with room to spare: a chord is no longer than its arc.
        const along = place({ spacing: { distance: step } }, [line]).count;
        expect(places.length).toBeLessThanOrEqual(along);
      }),
    );
  });

  test("six steps of its radius go round a circle, and the sixth ends where the first began", () => {
    const p = place({ spacing: { distance: 2, measure: "straight" } }, [ring(2)]);
    expect(p.count).toBe(6);
    expect(positions(p)[3][0]).toBeCloseTo(-2, 4);
  });

  test("a step wider than the whole line leaves one slot at its start", () => {
    expect(ats(place({ spacing: { distance: 50, measure: "straight" } }, [straight(10)]))).toEqual([0]);
    expect(place({ spacing: { distance: 50, measure: "straight" } }, [ring(2)]).count).toBe(1);
  });
});

test("a slot keeps its number, and so its key, when the line is lengthened, in every way of spacing from the start", () => {
  for (const spacing of [
    { by: "distance" as const, distance: 0.7 },
    { by: "distance" as const, distance: 0.7, measure: "straight" as const },
    { by: "list" as const, list: [0.5, 1, 4] },
  ]) {
    const [short, long] = [place({ spacing }, [straight(5)]), place({ spacing }, [straight(9)])];
    expect([...long.key].slice(0, short.count)).toEqual([...short.key]);
    expect(ats(long).slice(0, short.count)).toEqual(ats(short));
  }
});

test("insets that leave one place of a line leave one slot there, however it is divided; one cut beyond the last leaves none", () => {
  const spacing = { by: "divide" as const, parts: 5, fromStart: 2, fromEnd: 1 };
  expect(ats(place({ spacing }, [straight(3)]))).toEqual([2]);
  expect(ats(place({ spacing: { ...spacing, begin: 6 } }, [straight(3)]))).toEqual([]);
  expect(ats(place({ spacing }, [straight(8)]))).toEqual([2, 3, 4, 5, 6, 7]);
});

import fc from "fast-check";
import { evenly } from "../../math/testing";
import { makeLine } from "../../line/testing";
import { placeOfKey } from "../keys";
import { FLAG } from "../slots";
import { pegsOn, place, straight } from "../testing";
import type { Placements } from "../placements";

const isBlank = (p: Placements) => Array.from(p.flags, (flags) => (flags & FLAG.blank) !== 0);
const many = { by: "count" as const, count: 6000 };
const long = [straight(6000)];

describe("runs", () => {
  const runs = (runEvery: number, runLength: [number, number]) =>
    isBlank(place({ spacing: many, gaps: { runsOn: true, runEvery, runLength } }, long));

  test("begin at about one slot in so many, and none is shorter than it may be", () => {
    const blank = runs(40, [3, 5]);
    let lengths: number[] = [];
    blank.forEach((is, i) => {
      if (is && !blank[i - 1]) lengths.push(0);
      if (is) lengths[lengths.length - 1]++;
    });
    expect(Math.abs(lengths.length - 6000 / 40)).toBeLessThan(40);
    // The last may end with the line; two may have run together.
    lengths = lengths.slice(0, -1);
    expect(Math.min(...lengths)).toBeGreaterThanOrEqual(3);
    expect(lengths.filter((length) => length > 5).length).toBeLessThan(lengths.length / 4);
  });

  test("a rarer run takes none that was not there before, and longer ones only grow", () => {
    const [rare, frequent] = [runs(60, [2, 2]), runs(20, [2, 2])];
    rare.forEach((is, i) => is && expect(frequent[i]).toBe(true));
    const longer = runs(60, [4, 4]);
    rare.forEach((is, i) => is && expect(longer[i]).toBe(true));
  });
});

describe("stretches held open", () => {
  test("keep all slots between their ends blank, and no others; pegs stand in them all the same", () => {
    fc.assert(
      fc.property(evenly(0, 10), evenly(0, 10), (a, b) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const pegs = pegsOn({ slot: 7, at: 3.5 });
        const p = place({ spacing: { distance: 0.5 }, gaps: { stretches: [{ line: "line", from, to }] }, pegs });
        isBlank(p).forEach((blank, i) => {
          const inside = p.at[i] >= from - 1e-6 && p.at[i] <= to + 1e-6;
          if (Math.abs(p.at[i] - from) < 1e-5 || Math.abs(p.at[i] - to) < 1e-5) return;
          expect(blank).toBe(inside && placeOfKey(p.key[i]) !== 7);
        });
      }),
    );
  });

  test("run through the start of a closed line", () => {
    const ring = makeLine({ kind: "circle", knots: [[0, 0, 0]], radius: 10 / (2 * Math.PI) });
    const stretches = [{ line: "line", from: 8.9, to: 11.1 }];
    const p = place({ spacing: { by: "count", count: 10 }, gaps: { stretches } }, [ring]);
    expect(isBlank(p)).toEqual([true, true, false, false, false, false, false, false, false, true]);
  });
});

describe("keeping off other lines", () => {
  const walkway = makeLine({
    kind: "polyline",
    id: "walk",
    number: 2,
    knots: [
      [4, 0, -3],
      [4, 0, 3],
    ],
  });

  test("every foot nearer to one than the distance is blank, and none farther off", () => {
    const waves = makeLine({
      kind: "smooth",
      id: "walk",
      number: 2,
      knots: [
        [1, 0, -3],
        [5, 0, 2],
        [7, 0, -1],
        [9, 0, 3],
      ],
    });
    for (const line of [walkway, waves]) {
      const p = place(
        {
          where: { lines: ["line"] },
          spacing: { distance: 0.05 },
          fit: { rows: 3, rowDistance: 0.7 },
          gaps: { avoid: ["walk"], avoidBy: 0.6 },
        },
        [straight(10), line],
      );
      const along = place({ where: { lines: ["walk"] }, spacing: { distance: 0.002 } }, [line]);
      const blanks = isBlank(p);
      for (let i = 0; i < p.count; i += 3) {
        let nearest = Infinity;
        for (let k = 0; k < along.count; k++) {
          const d = [0, 1, 2].map(
            (c) => p.origin[c] + p.position[3 * i + c] - along.origin[c] - along.position[3 * k + c],
          );
          nearest = Math.min(nearest, Math.hypot(...d));
        }
        if (Math.abs(nearest - 0.6) > 5e-3) expect(blanks[i]).toBe(nearest < 0.6);
      }
    }
  });

  test("a line that is gone, or a distance of nothing, keeps nothing off", () => {
    expect(place({ gaps: { avoid: ["gone"] } }).blanks).toBe(0);
    const both = [straight(10), walkway];
    expect(place({ where: { lines: ["line"] }, gaps: { avoid: ["walk"], avoidBy: 0 } }, both).blanks).toBe(0);
  });
});

describe("how many", () => {
  test("no more than so many stand, and lowering the number takes some away without dealing anew", () => {
    const standing = (atMost: number) =>
      isBlank(place({ spacing: { by: "count", count: 200 }, gaps: { atMost } })).map((blank) => !blank);
    const [ten, sixty] = [standing(10), standing(60)];
    expect(ten.filter(Boolean)).toHaveLength(10);
    expect(sixty.filter(Boolean)).toHaveLength(60);
    ten.forEach((is, i) => is && expect(sixty[i]).toBe(true));
  });

  test("what is pegged stands, and counts among those that may", () => {
    const pegs = pegsOn({ slot: 3, turn: 0.1 }, { slot: 50, turn: 0.1 });
    const p = place({ spacing: { by: "count", count: 200 }, gaps: { atMost: 10 }, pegs });
    const standing = isBlank(p).flatMap((blank, i) => (blank ? [] : [i]));
    expect(standing).toHaveLength(10);
    expect(standing).toEqual(expect.arrayContaining([3, 50]));
  });

  test("chance leaves at least so many, whatever the chance; a stretch held open still holds", () => {
    const spacing = { by: "count" as const, count: 100 };
    const p = place({ spacing, gaps: { chance: 1, atLeast: 30 } });
    expect(p.count - p.blanks).toBe(30);
    const stretches = [{ line: "line", from: 0, to: 10 }];
    const none = place({ spacing, gaps: { chance: 1, atLeast: 30, stretches } });
    expect(none.blanks).toBe(100);
  });
});

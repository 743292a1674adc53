import fc from "fast-check";
import { evenly } from "../math/testing";
import { quatAt, rotate, vectorAt } from "../math";
import { makeLine } from "../line/testing";

import {
  ADDED,
  FIRST_CORNER,
  FIRST_ROW,
  hexOf,
  keyOfHex,
  lineKey,
  lineNumberOfKey,
  MAX_ROWS,
  placeOfKey,
  rowOfKey,
} from "./keys";
import { MAX_LINE_NUMBER } from "../line";
import type { Pegs } from "./pegs";
import { FLAG, NO_PROP } from "./slots";
import { Placing, all, BOUNDS, described, dressing, pegsOn, place, straight, surroundings } from "./testing";
import type { Placements } from "./placements";

const ats = (p: Placements) => Array.from(p.at, (at) => Math.round(at * 1e4) / 1e4);
const everything = {
  what: {
    order: "mixed" as const,
    entries: [
      { prop: "buoy", weight: 2 },
      { prop: "oar", weight: 1 },
    ],
  },
  variation: { seed: 5, positionOn: true, turnOn: true, sizeOn: true },
  gaps: { chance: 0.3 },
};

describe("spacing", () => {
  test("slots lie the given distance apart along the line, on lines of any shape", () => {
    fc.assert(
      fc.property(evenly(0.05, 3), evenly(0, 2), (distance, inset) => {
        const line = makeLine({
          kind: "smooth",
          knots: [
            [0, 0, 0],
            [5, 1, 0],
            [6, 0, 7],
            [0, 0, 9],
          ],
        });
        const p = place({ spacing: { distance, fromStart: inset, remainder: "end" } }, [line]);
        for (let i = 0; i < p.count; i++) expect(p.at[i]).toBeCloseTo(inset + i * distance, 3);
        expect(p.lineLengths[0] - p.at[p.count - 1]).toBeLessThan(distance + 1e-3);
      }),
    );
  });

  test("what is left over stays at the end, is shared out, or is split", () => {
    const at = (remainder: "end" | "shared" | "centred") => ats(place({ spacing: { distance: 3, remainder } }));
    expect(at("end")).toEqual([0, 3, 6, 9]);
    expect(at("shared")).toEqual([0, 3.3333, 6.6667, 10]);
    expect(at("centred")).toEqual([0.5, 3.5, 6.5, 9.5]);
  });

  test("a count gives just that many from inset to inset, and all round a closed line", () => {
    expect(ats(place({ spacing: { by: "count", count: 4, fromStart: 1, fromEnd: 3 } }))).toEqual([1, 3, 5, 7]);
    expect(ats(place({ spacing: { by: "count", count: 1 } }))).toEqual([5]);
    const ring = makeLine({
      kind: "polyline",
      knots: [
        [0, 0, 0],
        [1, 0, 0],
        [1, 0, 1],
        [0, 0, 1],
      ],
      closed: true,
    });
    expect(ats(place({ spacing: { by: "count", count: 8 } }, [ring]))).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5]);
    expect(ats(place({ spacing: { distance: 1.1, remainder: "shared" } }, [ring]))).toEqual([0, 1.3333, 2.6667]);
  });

  test("a distance that divides the line to within rounding loses no slot", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 1000 }), (parts, thousandths) => {
        const distance = thousandths / 1000;
        const p = place({ spacing: { distance } }, [straight(parts * distance)]);
        expect(p.count).toBe(parts + 1);
      }),
    );
  });

  test("sliding moves each slot by that much and keeps its number, and what leaves one end makes room at the other", () => {
    const still = place({ spacing: { distance: 1, remainder: "end" } });
    const slid = place({ spacing: { distance: 1, slide: 0.4, remainder: "end" } });
    expect(ats(slid)).toEqual([0.4, 1.4, 2.4, 3.4, 4.4, 5.4, 6.4, 7.4, 8.4, 9.4]);
    expect(Array.from(slid.key)).toEqual(Array.from(still.key).slice(0, 10));
    expect(ats(place({ spacing: { distance: 1, slide: 1.4, remainder: "end" } }))[0]).toBe(0.4);
    expect(place({ spacing: { distance: 1, slide: 1.4, remainder: "end" } }).count).toBe(10);
  });

  test("insets longer than the line leave no slot, and more slots than can be numbered are counted as missing", () => {
    expect(place({ spacing: { distance: 1, fromStart: 6, fromEnd: 6 } }).count).toBe(0);
    const many = place({ spacing: { distance: 0.0001, remainder: "end" } }, [straight(100)]);
    expect(many.count + many.missing).toBe(1_000_001);
    expect(many.missing).toBeGreaterThan(0);
  });
});

describe("what", () => {
  test("a sequence repeats its counts from the line's start", () => {
    const p = place({
      what: {
        entries: [
          { prop: "buoy", count: 3 },
          { prop: "oar", count: 1 },
        ],
      },
      spacing: { distance: 1 },
    });
    expect(all(p).map((one) => one.prop)).toEqual(Array.from({ length: 11 }, (_, i) => (i % 4 === 3 ? "oar" : "buoy")));
  });

  test("a weighted mix keeps its shares, and raising a weight only moves slots to that prop", () => {
    const mix = (weight: number) =>
      all(
        place({
          what: {
            order: "mixed",
            entries: [
              { prop: "buoy", weight: 1 },
              { prop: "oar", weight },
            ],
          },
          spacing: { by: "count", count: 20_000 },
        }),
      );
    const [one, three] = [mix(1), mix(3)];
    const share = (list: typeof one) => list.filter((item) => item.prop === "oar").length / list.length;
    expect(Math.abs(share(one) - 0.5)).toBeLessThan(0.02);
    expect(Math.abs(share(three) - 0.75)).toBeLessThan(0.02);
    one.forEach((item, i) => item.prop === "oar" && expect(three[i].prop).toBe("oar"));
  });

  test("entries of props that are gone are passed over, and nothing is placed when none is left", () => {
    expect(place({ what: { entries: [{ prop: "gone" }, { prop: "oar" }] } }).props).toEqual(["oar"]);
    const none = place({ what: { entries: [{ prop: "gone" }] } });
    expect(none.blanks).toBe(none.count);
  });
});

describe("nothing re-deals what it is not about", () => {
  const spacing = { distance: 0.5, remainder: "end" as const };

  test("lengthening a line leaves its beginning as it was", () => {
    const short = all(place({ ...everything, spacing }, [straight(10)]));
    const long = all(place({ ...everything, spacing }, [straight(17.3)]));
    expect(long.slice(0, short.length)).toEqual(short);
  });

  test("adding a line, also in front, leaves the others as they were", () => {
    const a = straight(6, { id: "a", number: 3 });
    const b = straight(8, { id: "b", number: 7 });
    const alone = all(place({ ...everything, spacing }, [a]));
    const both = place({ ...everything, spacing }, [b, a]);
    const ofA = all(both).filter((_, i) => both.lines[both.line[i]] === "a");
    expect(ofA).toEqual(alone);
  });

  test("a higher chance of blanks only adds blanks and changes no turn, size or prop", () => {
    const few = all(place({ ...everything, spacing, gaps: { chance: 0.2 } }));
    const more = all(place({ ...everything, spacing, gaps: { chance: 0.5 } }));
    few.forEach((one, i) => {
      expect({ ...more[i], flags: 0 }).toEqual({ ...one, flags: 0 });
      if (one.flags & FLAG.blank) expect(more[i].flags & FLAG.blank).toBeTruthy();
    });
    expect(more.filter((one) => one.flags & FLAG.blank).length).toBeGreaterThan(
      few.filter((one) => one.flags & FLAG.blank).length,
    );
  });

  test("switching one variation on or changing its range leaves the other draws alone", () => {
    const turns = (p: Placements) => all(p).map((one) => one.rotation);
    const sizes = (p: Placements) => all(p).map((one) => one.scale);
    const base = place({ spacing, variation: { turnOn: true, sizeOn: true } });
    const moved = place({
      spacing,
      variation: { turnOn: true, sizeOn: true, positionOn: true, across: [-3, 3], along: [0, 0] },
    });
    expect(turns(moved)).toEqual(turns(base));
    expect(sizes(moved)).toEqual(sizes(base));
    const turned = place({ spacing, variation: { turnOn: true, sizeOn: true, turnUp: [-1, 1] } });
    expect(sizes(turned)).toEqual(sizes(base));
    expect(turns(turned)).not.toEqual(turns(base));
  });

  test("draws stay within their ranges and fill them", () => {
    const p = place({ spacing: { by: "count", count: 5000 }, variation: { sizeOn: true, size: [0.5, 2] } });
    const sizes = all(p).map((one) => one.scale);
    expect(Math.min(...sizes)).toBeGreaterThanOrEqual(0.5);
    expect(Math.max(...sizes)).toBeLessThanOrEqual(2);
    expect(Math.max(...sizes) - Math.min(...sizes)).toBeGreaterThan(1.49);
  });
});

describe("stance and fit", () => {
  test("the same numbers mean the same on a line that runs any other way", () => {
    const input = {
      stance: { turnUp: 0.3, turnAcross: 0.2 },
      fit: { along: 0.1, across: 0.5, up: 0.25 },
      spacing: { distance: 1 },
    };
    const east = place(input, [straight(5)]);
    const north = place(input, [
      makeLine({
        kind: "polyline",
        knots: [
          [0, 0, 0],
          [0, 0, -5],
        ],
      }),
    ]);
    for (let i = 0; i < east.count; i++) {
      // East turned a quarter about up is north: (x, y, z) becomes (z, y, -x).
      const [x, y, z] = vectorAt(east.position, i).map((v, k) => v + east.origin[k]);
      const [nx, ny, nz] = vectorAt(north.position, i).map((v, k) => v + north.origin[k]);
      expect([nx, ny, nz].map((v) => v.toFixed(5))).toEqual([z, y, -x].map((v) => (v + 0).toFixed(5)));
    }
  });

  test("what stands has its bottom on the line, what hangs has its top there, also when turned and scaled", () => {
    for (const [meetsUp, height] of [
      ["bottom", 0],
      ["top", 1],
    ] as const) {
      const p = place({
        stance: { meetsUp, turnAlong: 0.4, turnUp: 1 },
        variation: { sizeOn: true },
        spacing: { distance: 1 },
      });
      for (let i = 0; i < p.count; i++) {
        const contact = rotate(quatAt(p.rotation, i), [0, height * p.scale[3 * i], 0]);
        expect(p.origin[0] + p.position[3 * i] + contact[0]).toBeCloseTo(i, 5);
        expect(p.origin[1] + p.position[3 * i + 1] + contact[1]).toBeCloseTo(0, 5);
      }
    }
  });

  test("forward is along the line, across is to its left, offsets go that way", () => {
    const p = place({ spacing: { distance: 5 }, fit: { across: 2, up: 3 } });
    expect(rotate(quatAt(p.rotation, 0), [0, 0, 1])[0]).toBeCloseTo(1);
    // Along +X with up +Y, left is −Z.
    expect(p.origin[2] + p.position[2]).toBeCloseTo(-2);
    expect(p.origin[1] + p.position[1]).toBeCloseTo(3);
  });

  test("plumb stays upright on a slope, world leans with it", () => {
    const slope = makeLine({
      kind: "polyline",
      knots: [
        [0, 0, 0],
        [4, 3, 0],
      ],
    });
    const up = (rule: "world" | "plumb") =>
      rotate(quatAt(place({ stance: { up: rule } }, [slope]).rotation, 0), [0, 1, 0]);
    expect(up("plumb")[1]).toBeCloseTo(1);
    expect(up("world")[1]).toBeCloseTo(0.8);
  });

  test("far from the origin positions keep a tenth of a millimetre", () => {
    const far = makeLine({
      kind: "polyline",
      knots: [
        [1e6, 0, -2e6],
        [1e6 + 10, 0, -2e6],
      ],
    });
    const p = place({ spacing: { distance: 0.1 } }, [far]);
    for (let i = 0; i < p.count; i++)
      expect(Math.abs(p.origin[0] + p.position[3 * i] - (1e6 + i * 0.1))).toBeLessThan(1e-4);
  });
});

describe("pegs", () => {
  const pegs = pegsOn({ slot: 2, at: 2.75 }, { slot: 4, prop: "oar" }, { slot: 5, removed: true });
  const spacing = { distance: 1 };

  test("moved, swapped and removed placements stay so, and the others do not notice", () => {
    const free = place({ ...everything, spacing, what: { entries: [{ prop: "buoy" }] } });
    const p = place({ ...everything, spacing, what: { entries: [{ prop: "buoy" }] }, pegs });
    expect(p.at[2]).toBeCloseTo(2.75);
    expect(p.props[p.prop[4]]).toBe("oar");
    expect(p.flags[5] & FLAG.blank).toBeTruthy();
    for (const i of [0, 1, 3, 6, 7, 8, 9, 10]) expect(described(p, i)).toEqual(described(free, i));
  });

  test("rules leave pegs alone: no chance of blank, no other distance takes them away", () => {
    const p = place({ ...everything, gaps: { chance: 1 }, spacing: { distance: 1.3, remainder: "end" }, pegs });
    expect(p.at[2]).toBeCloseTo(2.75);
    expect(p.flags[2] & FLAG.blank).toBeFalsy();
    expect(p.blanks).toBe(p.count - 2);
  });

  test("a peg beyond a shortened line is held at its end", () => {
    const p = place({ spacing: { distance: 1 }, pegs: pegsOn({ slot: 1, at: 9 }) }, [straight(4)]);
    expect(p.at[1]).toBeCloseTo(4);
  });
});

test("what a peg swaps in samples nothing anew, also where props are laid by their lengths", () => {
  const placing = new Placing();
  const around = surroundings([straight(10)]);
  const of = (pegs: Pegs) =>
    dressing({ what: { entries: [{ prop: "buoy" }] }, spacing: { by: "end", gap: 0.1 }, pegs });
  placing.evaluate(of({}), around);
  placing.evaluate(of(pegsOn({ slot: 2, prop: "oar" })), around);
  expect(placing.ran).toContain("pegs");
  expect(placing.ran).not.toContain("spacing");
});

test("a key tells its line, row and slot, for every one that there can be, also as text", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: MAX_LINE_NUMBER }),
      fc.integer({ min: 0, max: MAX_ROWS }),
      fc.oneof(
        fc.integer(FIRST_ROW),
        fc.integer({ min: FIRST_CORNER, max: FIRST_CORNER + 1e6 }),
        fc.integer({ ...ADDED }),
      ),
      (line, row, slot) => {
        const key = lineKey(line, slot, row);
        expect([lineNumberOfKey(key), rowOfKey(key), placeOfKey(key)]).toEqual([line, row, slot]);
        expect(hexOf(key)).toMatch(/^[0-9a-f]{16}$/);
        expect(keyOfHex(hexOf(key))).toBe(key);
      },
    ),
  );
});

describe("remembering", () => {
  test("an edit computes its own step and those after it, and gives what a fresh evaluation gives", () => {
    const lines = [straight(10)];
    const placing = new Placing();
    const around = surroundings(lines);
    const before = dressing({ ...everything, spacing: { distance: 0.5 }, pegs: pegsOn({ slot: 3, at: 1.7 }) });
    placing.evaluate(before, around);
    const three = (name: string) => [0, 1, 2].map((axis) => `${name} ${axis}`);
    const chance = [...three("shift"), "held in place", ...three("turn"), "size", "sizes", "gaps"];
    const following = ["spacing", "rows", "pegs", "frames", "scale", "stand", "mirror flags", "plain tints", "density"];
    const edits: [object, string[]][] = [
      [{}, []],
      [{ name: "Other" }, []],
      [{ variation: { ...before.variation, turnUp: [-1, 1] } }, ["turn 2", "stand"]],
      [{ variation: { ...before.variation, turnUp: [-1, 1], seed: 6 } }, ["what", "stance", ...following, ...chance]],
      [{ gaps: { ...before.gaps, chance: 0.9 } }, ["gaps", "mirror flags"]],
      [{ fit: { ...before.fit, across: 1 } }, ["frames", "stand"]],
      [{ what: { ...before.what, own: [{ prop: "buoy", size: 2, turn: 1 }] } }, ["stance", "scale", "stand"]],
      [{ pegs: pegsOn({ slot: 3, turn: 1 }) }, ["pegs", "turned by hand", ...following.slice(3), ...chance]],
    ];
    let now = before;
    for (const [edit, steps] of edits) {
      now = { ...structuredClone(now), ...edit };
      const result = placing.evaluate(now, around);
      expect(placing.ran.filter((step) => !steps.includes(step))).toEqual([]);
      if (steps.length < 4) expect([...placing.ran].sort()).toEqual([...steps].sort());
      expect(result).toEqual(place({ ...now }, lines));
    }
  });
});

test("what is beyond its line at the moment stands nowhere, on no row and on no level; those that are on it stand at once", () => {
  const spacing = { by: "count" as const, count: 11, travel: 3.5 };
  const first = { what: { entries: [{ prop: "buoy" }], first: "oar" } };
  const alone = place({ ...first, spacing });
  const shown = (p: Placements, of: (i: number) => boolean) =>
    Array.from({ length: p.count }, (_, i) => i).filter((i) => of(i) && p.prop[i] !== NO_PROP).map((i) => [p.at[i], p.props[p.prop[i]]]); // prettier-ignore
  const wanted = shown(alone, () => true);
  expect(wanted.length).toBeLessThan(alone.count);
  const rows = place({ ...first, spacing, fit: { rows: 2 } });
  for (const row of [0, 1]) expect(shown(rows, (i) => rows.row[i] === row)).toEqual(wanted);
  const rack = place({ ...first, spacing, where: { lines: ["line"], stacked: true, levels: 2, deep: [1, 1], high: [1, 1] } }); // prettier-ignore
  for (const level of [0, 1]) expect(shown(rack, (i) => rack.stacked!.level[i] === level).length).toBe(wanted.length);
});

test("a peg stretches its prop in its own directions, besides all else that sizes it, where it stands, and leaves others alone", () => {
  const times = evenly(0.2, 4);
  fc.assert(
    fc.property(fc.tuple(times, times, times), fc.boolean(), fc.boolean(), (stretch, sizeOn, added) => {
      const peg = { slot: added ? ADDED.min : 4, ...(added && { added, at: 4.5, prop: "buoy" }) };
      const [plain, stretched] = [peg, { ...peg, stretch }].map((one) =>
        place({ spacing: { distance: 1 }, stance: { meetsUp: "top" }, variation: { sizeOn }, pegs: pegsOn(one) }),
      );
      for (let i = 0; i < plain.count; i++) {
        const own = placeOfKey(plain.key[i]) === peg.slot ? stretch : [1, 1, 1];
        own.forEach((factor, k) => expect(stretched.scale[3 * i + k] / plain.scale[3 * i + k]).toBeCloseTo(factor, 5));
        // Its top stays where it hung.
        const top = (p: Placements) => p.position[3 * i + 1] + p.scale[3 * i + 1] * BOUNDS.get("buoy")!.max[1];
        expect(top(stretched)).toBeCloseTo(top(plain), 5);
      }
    }),
    { numRuns: 40 },
  );
});

test("a peg turns its prop about its own up, besides all else that turns it, and leaves all others alone", () => {
  const angle = evenly(-3, 3);
  fc.assert(
    fc.property(angle, fc.boolean(), fc.boolean(), (turn, turnOn, added) => {
      const peg = { slot: added ? ADDED.min : 4, turn, ...(added && { added, at: 4.5, prop: "buoy" }) };
      const [plain, turned] = [{ ...peg, turn: undefined }, peg].map((one) =>
        place({ spacing: { distance: 1 }, variation: { turnOn }, pegs: pegsOn(one) }),
      );
      const at = turned.key.findIndex((key) => placeOfKey(key) === peg.slot);
      for (let i = 0; i < turned.count; i++) {
        const [a, b] = [quatAt(plain.rotation, i), quatAt(turned.rotation, i)];
        if (i !== at) expect(b).toEqual(a);
        else {
          for (const axis of [0, 1, 2]) {
            const own: [number, number, number] = [axis === 0 ? 1 : 0, axis === 1 ? 1 : 0, axis === 2 ? 1 : 0];
            const [c, s] = [Math.cos(turn), Math.sin(turn)];
            const wanted = rotate(a, [own[0] * c + own[2] * s, own[1], own[2] * c - own[0] * s]);
            // Turns about along and across come before it, and they are small.
            rotate(b, own).forEach((x, k) => expect(Math.abs(x - wanted[k])).toBeLessThan(turnOn ? 0.45 : 1e-5));
          }
        }
      }
    }),
    { numRuns: 40 },
  );
});

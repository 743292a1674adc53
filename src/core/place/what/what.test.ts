import fc from "fast-check";
import { placeOfKey } from "../keys";
import { FLAG, NO_PROP } from "../slots";
import { place, straight } from "../testing";
import type { Placements } from "../placements";

type What = NonNullable<Parameters<typeof place>[0]["what"]>;

/** What stands in each slot; null for a blank. */
const taken = (p: Placements) => Array.from(p.prop, (index) => (index === NO_PROP ? null : p.props[index]));
const along = (what: What, length = 40, spacing = {}) =>
  place({ what, spacing: { distance: 1, ...spacing } }, [straight(length)]);

const mix: What = {
  order: "mixed",
  entries: [
    { prop: "buoy", weight: 3 },
    { prop: "oar", weight: 1 },
    { prop: null, weight: 2 },
  ],
};

test("a blank in the sequence takes its turn like any prop, and its slots are flagged blank", () => {
  const p = along({ entries: [{ prop: "buoy", count: 2 }, { prop: null }, { prop: "oar" }] }, 6);
  expect(taken(p)).toEqual(["buoy", "buoy", null, "oar", "buoy", "buoy", null]);
  expect(Array.from(p.flags, (flags) => (flags & FLAG.blank) !== 0)).toEqual(taken(p).map((prop) => prop === null));
  expect(p.blanks).toBe(2);
});

test("a blank in a mix takes its share", () => {
  const p = along(mix, 5000);
  expect(p.blanks / p.count).toBeCloseTo(2 / 6, 1);
  expect(taken(p).filter((prop) => prop === "buoy").length / p.count).toBeCloseTo(3 / 6, 1);
});

describe("not the same twice in a row", () => {
  test("no two neighbours are the same, whatever the seed, and every entry still comes", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 999_999 }), (seed) => {
        const p = place({ what: { ...mix, noRepeat: true }, variation: { seed } }, [straight(200)]);
        const row = taken(p);
        for (let i = 1; i < row.length; i++) expect(row[i]).not.toBe(row[i - 1]);
        expect(new Set(row)).toEqual(new Set(["buoy", "oar", null]));
      }),
    );
  });

  test("two props alternate, one alone is repeated", () => {
    const two = taken(
      along({ order: "mixed", noRepeat: true, entries: [{ prop: "buoy" }, { prop: "oar", weight: 9 }] }, 5),
    );
    expect(two).toEqual(["buoy", "oar", "buoy", "oar", "buoy", "oar"]);
    expect(new Set(taken(along({ order: "mixed", noRepeat: true, entries: [{ prop: "oar" }] }, 5)))).toEqual(
      new Set(["oar"]),
    );
  });

  test("a longer line leaves its beginning as it was", () => {
    const [short, long] = [20, 60].map((length) => taken(along({ ...mix, noRepeat: true }, length)));
    expect(long.slice(0, short.length)).toEqual(short);
  });
});

describe("special props", () => {
  const plain: What = { entries: [{ prop: "buoy" }] };

  test("stand in the first, the last and every nth slot of each line, and nowhere else", () => {
    const lines = [straight(9, { id: "a" }), straight(4, { id: "b", number: 2 })];
    const p = place(
      { where: { lines: ["a", "b"] }, what: { ...plain, first: "oar", last: "oar", nthProp: "oar", nth: 4 } },
      lines,
    );
    const oars = Array.from(p.prop, (prop, i) =>
      p.props[prop] === "oar" ? [p.line[i], placeOfKey(p.key[i])] : [],
    ).filter((at) => at.length > 0);
    expect(oars).toEqual([
      [0, 0],
      [0, 3],
      [0, 7],
      [0, 9],
      [1, 0],
      [1, 3],
      [1, 4],
    ]);
  });

  test("every nth keeps its slots when the row slides, also below zero", () => {
    const nth: What = { ...plain, nthProp: "oar", nth: 3 };
    const p = along(nth, 20, { slide: 5.4 });
    expect(placeOfKey(p.key[0])).toBeLessThan(0);
    Array.from(p.key, placeOfKey).forEach((number, i) => {
      expect(p.props[p.prop[i]]).toBe((number + 300) % 3 === 2 ? "oar" : "buoy");
    });
  });

  test("one that the scene does not have is passed over", () => {
    expect(new Set(taken(along({ ...plain, first: "gone", nthProp: "gone", nth: 2 })))).toEqual(new Set(["buoy"]));
  });
});

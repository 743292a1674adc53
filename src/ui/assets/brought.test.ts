import { MENDS, oddityOf, propSchema, type Brought } from "@/core/scene";
import { broughtFacts, mendedSentences, UNITS } from "./brought";

const isOdd = (metres: number): boolean =>
  oddityOf({ bounds: { min: [0, 0, 0], max: [0, metres, 0] }, prepared: propSchema.shape.prepared.parse({}) }, null) !==
  null;

const brought = (what: Partial<Brought>): Brought => ({
  parts: 1,
  materials: 2,
  textures: 0,
  clips: [],
  empties: [],
  mended: [],
  ...what,
});

test("everything that can be put right when a file comes in is told in a sentence of its own, with the part's name", () => {
  const sentences = MENDS.flatMap((what) => mendedSentences(brought({ mended: [{ what, part: "Sail" }] })));
  expect(new Set(sentences).size).toBe(MENDS.length);
  for (const sentence of sentences) expect(sentence).toMatch(/^(“Sail”|The mesh|The file uses “Sail”).*\.$/);
  expect(mendedSentences(brought({ mended: [{ what: "moving", part: "" }] }))[0]).toMatch(/^The file has motion/);
});

test("facts are counted in words, and what is far too large or small is remarked on until its unit is right", () => {
  expect(broughtFacts(brought({ parts: 1, textures: 3 }))).toBe("1 part · 2 materials · 3 textures");
  expect(broughtFacts(brought({ textures: 0 }))).toBe("1 part · 2 materials");
  expect([0.001, 1, 59, 61].map(isOdd)).toEqual([true, false, false, true]);
  // A two-metre prop made in another unit looks odd, and is two metres again with that unit's factor.
  for (const { size } of UNITS) {
    const asMade = 2 / size;
    expect([isOdd(asMade), isOdd(asMade * size)]).toEqual([true, false]);
    expect(propSchema.shape.prepared.safeParse({ size }).success).toBe(true);
  }
});

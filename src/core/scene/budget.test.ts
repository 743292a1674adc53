/** What smoothed copies come to counts as they will be made, whatever they are copies of; copies in a circle come to nothing. */
import fc from "fast-check";
import { madeMesh, madeSchema, smoothedTriangles, type Made } from "../made";
import { overBudget } from "./budget";

const copy = (id: string, of: string | null, rounds = 1) => ({ id, made: madeSchema.parse({ kind: "smoothed", of, rounds }), triangles: 0 }); // prettier-ignore
const file = (id: string, triangles: number) => ({ id, made: null, triangles });
const over = (surfaces: { id: string; made: Made | null; triangles: number }[]) => overBudget({ surfaces, lines: [] });

test("a copy has as many triangles as are told", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 5 }), (rounds) => {
      const box = madeMesh(madeSchema.parse({ kind: "box" }), new Map())!;
      const mesh = madeMesh(copy("c", "box", rounds).made, new Map(), box)!;
      expect(smoothedTriangles(12, rounds)).toBe(mesh.index.length / 3);
    }),
  );
  expect([smoothedTriangles(250_000, 5), smoothedTriangles(250_001, 5), smoothedTriangles(3e6, 1)]).toEqual([1e6, 250_001, 3e6]); // prettier-ignore
});

test("copies of one surface, and copies of copies, come to no more than is let be; circles end", () => {
  const copies = (n: number) => Array.from({ length: n }, (_, k) => copy(`c${k}`, "rock"));
  expect(over([file("rock", 250_000), ...copies(8)])).toBeNull();
  expect(over([...copies(9), file("rock", 250_000)])).toContain("9,000,000 triangles");
  // Each four times the one before, up to a million.
  const chain = Array.from({ length: 4000 }, (_, k) => copy(`c${k}`, k === 0 ? "rock" : `c${k - 1}`));
  expect(over([file("rock", 1), ...chain])).toMatch(/^made surfaces would come to 1,0\d\d,\d{3},\d{3} triangles/);
  expect(over([file("rock", 0), ...chain])).toBeNull();
  expect(over([copy("a", "b"), copy("b", "a"), copy("c", "c"), copy("d", null), copy("e", "gone")])).toBeNull();
});

/** What is bent over a surface that bends too much for it, or that ends under it, is told of: from where on, and by how much. */
import { addedKey, dressingSchema, hexOf } from "@/core/place";
import { spoken } from "@/core/check";
import { lattice } from "@/core/mesh/unroll/testing";
import { surfaceSchema, type Surface } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "./engine";

const ASSET = "c".repeat(64);
/** Of a ball of 0.5 m. */
const BALL = lattice(40, 64, (u, v) => {
  const [a, b] = [2 * Math.PI * u, Math.PI * v];
  return [0.5 * Math.sin(b) * Math.sin(a), 0.5 * Math.cos(b), 0.5 * Math.sin(b) * Math.cos(a)];
});

/** What is found on a buoy, 0.4 m across as it is, so many times as large. */
function found(surface: object, dressing: object): string[] {
  const engine = new Engine();
  engine.learn(ASSET, { position: Float32Array.from(BALL[0]), index: BALL[1], attributes: [] });
  const own = { id: "crest", name: "Crest", stance: { up: "normal" }, fit: { bend: true } };
  const scene = {
    ...harbourScene(),
    dressings: [dressingSchema.parse({ ...own, ...dressing })],
    surfaces: [surfaceSchema.parse({ id: "on", name: "On", ...surface }) as Surface],
  };
  const [{ findings }] = engine.evaluate(scene);
  return findings.filter(({ check }) => check === "bent-badly").map(({ message }) => spoken(message, (id) => id));
}

test("a prop folds over itself where it would meet itself on the other side of a ball, and not before", () => {
  const pinned = (size: number) => {
    const peg = { on: "on", point: [0.25, 0.01, 0.433], prop: "buoy", size, added: true };
    return found(
      { asset: ASSET },
      {
        where: { kind: "pinned", surfaces: ["on"] },
        what: { entries: [{ prop: "buoy" }] },
        pegs: { [hexOf(addedKey(1))]: peg },
      },
    );
  };
  // Its corners are 0.57 m away, and then 3.4 m; half way round are 1.57 m.
  expect(pinned(2)).toEqual([]);
  const [folded] = pinned(12);
  expect(folded).toContain("folds over itself");
  // The mesh has poles, past which straight ways do not all lead.
  const from = Number(/from ([\d.]+) m/.exec(folded)![1]);
  expect(from).toBeGreaterThan(1);
  expect(from).toBeLessThan(Math.PI / 2);
});

test("a prop may hang over the rim of what it is wrapped round, but not by most of it", () => {
  const wrapped = (size: number) =>
    found(
      { made: { kind: "bumps", width: 2, depth: 2, height: 0 } },
      {
        where: { kind: "wrapped", surfaces: ["on"], patch: { layout: { by: "number", columns: 1, rows: 1 } } },
        what: { entries: [{ prop: "buoy" }], own: [{ prop: "buoy", size }] },
      },
    );
  expect(wrapped(6)).toEqual([]); // 2.4 m across on 2 m
  // 8 m across on 2 m: its corners are 3 m beyond in both directions.
  expect(wrapped(20)).toEqual([expect.stringContaining("reaches beyond the surface by up to 4.2")]);
});

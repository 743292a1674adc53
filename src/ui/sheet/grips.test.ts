/** What is taken hold of on the sheet: knots follow over the surface, a corner sizes about the middle, and nothing else is near. */
import { dressingSchema, hexOf } from "@/core/place";
import { surfaceSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { makeLine } from "@/core/line/testing";
import { Engine } from "@/engine/engine";
import { produce } from "immer";
import { dragGrip, gripAt, sizeCorner, stretchSides } from "./grips";
import { footprintsOf } from "./model";
import type { SheetScene } from "./sheet-scene";

const START: Scene = {
  ...harbourScene(),
  lines: [makeLine({ id: "rope", number: 1, kind: "polyline", knots: [[0, 0, 0], [1, 0, 1]] })], // prettier-ignore
  surfaces: [surfaceSchema.parse({ id: "deck", name: "Deck", made: { kind: "bumps", width: 6, depth: 6, height: 0 } })],
  dressings: [
    dressingSchema.parse({
      id: "crest",
      name: "Crest",
      where: { kind: "wrapped", surfaces: ["deck"], patch: { layout: { by: "number", columns: 3, rows: 1 } } },
      what: { entries: [{ prop: "buoy" }] },
      spacing: {},
    }),
  ],
};

function seen(scene: Scene, selected: number[] = []): SheetScene {
  const [{ placements }] = new Engine().evaluate(scene);
  const bounds = new Map(scene.props.map(({ id, bounds: own }) => [id, own]));
  const toWorld = (x: number, z: number) =>
    Math.abs(x) > 3 || Math.abs(z) > 3 ? null : { point: [x, 0, z], field: "deck" };
  return {
    placements,
    corners: footprintsOf(placements, bounds),
    selected: new Set(selected.map((i) => placements.key[i])),
    charts: { toWorld },
    knots: scene.lines[0].knots.map(({ position: point }, knot) => ({
      line: "rope",
      knot,
      at: [point[0], point[2]],
      point,
    })),
  } as unknown as SheetScene;
}

test("a knot goes where the surface is, and stays where there is none", () => {
  const sight = seen(START);
  const grip = gripAt(sight, START.dressings[0], [1.02, 0.97], 100)!;
  expect(grip).toMatchObject({ kind: "knot", line: "rope", knot: 1 });
  expect(gripAt(sight, START.dressings[0], [1.02, 0.97], 200)).toBeNull();
  const to = (x: number, z: number) => produce(START, (draft) => dragGrip(draft, sight, "crest", grip, [x, z])).lines[0].knots.map(({ position }) => position); // prettier-ignore
  expect(to(2.5, -1)).toEqual([[0, 0, 0], [2.5, 0, -1]]); // prettier-ignore
  expect(to(9, 0)).toEqual([[0, 0, 0], [1, 0, 1]]); // prettier-ignore
});

test("the one that is selected is sized by its corner, about its middle; at its own size again it has no peg", () => {
  const none = seen(START);
  expect(none.placements.count).toBe(3);
  expect([sizeCorner(none, 100), sizeCorner(seen(START, [0, 1]), 100)]).toEqual([null, null]);
  const sight = seen(START, [1]);
  const { at, key } = sizeCorner(sight, 100)!;
  const grip = gripAt(sight, START.dressings[0], at, 100)!;
  const times = (share: number, from: Scene) =>
    produce(from, (draft) => {
      if (grip.kind !== "size") throw new Error("it sizes");
      const [x, z] = grip.middle;
      dragGrip(draft, sight, "crest", grip, [x + share * (at[0] - x), z + share * (at[1] - z)]);
    });
  // Where it is so small that there would be nothing left to drag it by, it has none.
  expect([sizeCorner(sight, 50), gripAt(sight, START.dressings[0], at, 50)]).toEqual([null, null]);
  const larger = times(2.5, START);
  expect(larger.dressings[0].pegs[hexOf(key)]).toMatchObject({ on: "deck", size: 2.5 });
  const [was, now] = [START, larger].map((scene) => new Engine().evaluate(scene)[0].placements);
  expect([0, 1, 2].map((i) => now.scale[3 * i] / was.scale[3 * i])).toEqual([1, 2.5, 1]);
  expect([...now.position]).toEqual([...was.position]);
  // Taken hold of again it goes on from there.
  const more = seen(larger, [1]);
  const second = gripAt(more, larger.dressings[0], sizeCorner(more, 100)!.at, 100)!;
  const to = sizeCorner(more, 100)!.at.map((value, k) => value + (value - (second.kind === "size" ? second.middle[k] : 0))) as [number, number]; // prettier-ignore
  const twice = produce(larger, (draft) => dragGrip(draft, more, "crest", second, to));
  expect(twice.dressings[0].pegs[hexOf(key)].size).toBe(5);
  expect(times(1, larger).dressings[0].pegs).toEqual({});
  const stretched = stretchSides(sight, 100).map(({ side }) => {
    const held = gripAt(sight, START.dressings[0], side, 100)!;
    const [x, z] = held.kind === "stretch" ? held.middle : [NaN, NaN];
    // Only what goes towards that side counts.
    const to = [x + 3 * (side[0] - x) - (side[1] - z), z + 3 * (side[1] - z) + (side[0] - x)] as const;
    return produce(START, (draft) => dragGrip(draft, sight, "crest", held, to)).dressings[0].pegs[hexOf(key)];
  });
  expect(stretched.map(({ stretch }) => stretch)).toEqual([[3, 1, 1], [1, 1, 3]]); // prettier-ignore
  const side = stretchSides(sight, 100)[0];
  const asItWas = gripAt(sight, START.dressings[0], side.side, 100)!;
  const back = produce(START, (draft) => {
    for (const times of [2, 1]) {
      const to = side.middle.map((value, k) => value + times * (side.side[k] - value)) as [number, number];
      dragGrip(draft, sight, "crest", asItWas, to);
    }
  });
  expect(back.dressings[0].pegs).toEqual({});
  expect(times(1e-9, START).dressings[0].pegs[hexOf(key)].size).toBeGreaterThan(0);
});

/** What is bent over a surface that bends too much for it, or that ends under it, is told of: from where on, and by how much. */
import { addedKey, dressingSchema, FLAG, hexOf } from "@/core/place";
import { spoken } from "@/core/check";
import type { TriangleMesh } from "@/core/mesh";
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

const BALL_MESH: TriangleMesh = { position: Float32Array.from(BALL[0]), index: BALL[1], attributes: [] };

/** What is found on a buoy, 0.4 m across as it is, so many times as large. */
function evaluated(surface: object, dressing: object, mesh: TriangleMesh = BALL_MESH) {
  const engine = new Engine();
  engine.learn(ASSET, mesh);
  const own = { id: "crest", name: "Crest", stance: { up: "normal" }, fit: { bend: true } };
  const scene = {
    ...harbourScene(),
    dressings: [dressingSchema.parse({ ...own, ...dressing })],
    surfaces: [surfaceSchema.parse({ id: "on", name: "On", ...surface }) as Surface],
  };
  return engine.evaluate(scene)[0];
}

function found(surface: object, dressing: object, check = "bent-badly", mesh?: TriangleMesh): string[] {
  const { findings } = evaluated(surface, dressing, mesh);
  return findings.filter((one) => one.check === check).map(({ message }) => spoken(message, (id) => id));
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

test("what is bent over a box's edge breaks there by a right angle, on one side or round a drum it does not", () => {
  const pinned = (made: object, point: number[], size = 2) => {
    const peg = { on: "on", point, prop: "buoy", size, added: true };
    const where = { kind: "pinned", surfaces: ["on"] };
    return found(
      { made, rotation: [0, 0, Math.sin(0.4), Math.cos(0.4)] },
      { where, what: { entries: [{ prop: "buoy" }] }, pegs: { [hexOf(addedKey(1))]: peg } },
    );
  };
  const box = { kind: "box", width: 2, height: 2, depth: 2 };
  // 0.8 m across, 0.2 m from the edge or in the middle of a side.
  expect(pinned(box, [0.8, 2, 0])).toEqual(["1 prop is bent over a crease of up to 90°, and breaks there."]);
  expect(pinned(box, [0.5, 2, 0])).toEqual([]);
  expect(pinned({ kind: "bumps", width: 6, depth: 6, height: 0.4, size: 3 }, [0, 0, 0], 5)).toEqual([]);
});

/** Quads beside each other on their sheet, so many times their breadth apart there, wherever they stand. */
function squares(quads: readonly number[][], apart = 0): TriangleMesh {
  const wide = quads.length + apart * (quads.length - 1);
  const corners = quads.map((_, k) => [0, 0, 1, 0, 1, 1, 0, 1].map((value, c) => (c % 2 === 0 ? (k * (1 + apart) + value) / wide : value))); // prettier-ignore
  return {
    position: Float32Array.from(quads.flat()),
    index: Uint32Array.from(quads.flatMap((_, k) => [0, 1, 2, 0, 2, 3].map((corner) => 4 * k + corner))),
    attributes: [{ name: "TEXCOORD_0", width: 2, array: Float32Array.from(corners.flat()) }],
  };
}

test("a grid that goes on from one part of the sheet to the next is torn there, as far as they are apart; on one part it is whole", () => {
  const grid = (meshes: number[][]) => {
    const layout = { by: "distance", columns: 20, rows: 3, across: 0.2, along: 0.2 };
    const where = { kind: "wrapped", surfaces: ["on"], patch: { layout } };
    const more = {
      where,
      what: { entries: [{ prop: "buoy" }], own: [{ prop: "buoy", size: 0.1 }] },
      fit: { bend: false },
    };
    return found({ asset: ASSET }, more, "torn", squares(meshes));
  };
  const square = (x: number) => [x, 0, 2, x + 2, 0, 2, x + 2, 0, 0, x, 0, 0];
  expect(grid([square(0)])).toEqual([]);
  expect(grid([square(0), square(2)])).toEqual([]);
  const [said] = grid([square(0), square(5)]);
  expect(said).toMatch(/^\d+ props stand beside a tear of the sheet: .* up to 3\.0\d m farther apart/);
});

test("on the sheet two sides that meet in an edge are bent over a crease, and what lies on two parts is pulled apart as far as they are", () => {
  const square = (x: number) => [x, 0, 2, x + 2, 0, 2, x + 2, 0, 0, x, 0, 0];
  const said = (other: number[], right = 0, apart = 0) => {
    const layout = { by: "number", columns: 1, rows: 1 };
    const where = { kind: "wrapped", surfaces: ["on"], wrap: { right }, patch: { layout } };
    const what = { entries: [{ prop: "buoy" }], own: [{ prop: "buoy", size: 4 }] };
    return found({ asset: ASSET }, { where, what }, "bent-badly", squares([square(0), other], apart));
  };
  expect(said(square(2))).toEqual([]);
  const standing = [2, 0, 2, 2, 2, 2, 2, 2, 0, 2, 0, 0];
  expect(said(standing)).toEqual(["1 prop is bent over a crease of up to 90°, and breaks there."]);
  // It ends where the edge is, and where the sheet is cut along it.
  expect(said(standing, 0.8)).toEqual([]);
  const turned = [2, 2, 0, 2, 0, 0, 2, 0, 2, 2, 2, 2];
  expect(said(turned, -1.64, 3)).toEqual([]);
  const [torn] = said(square(5));
  const by = Number(/^1 prop lies over a tear of the sheet, which pulls it apart by up to ([\d.]+) m/.exec(torn)![1]);
  expect(by).toBeGreaterThan(2.9);
  expect(by).toBeLessThan(3.3);
});

test("right on a pole, where triangles have no width, a prop bends as it does beside it", () => {
  const shape = (point: number[]) => {
    const engine = new Engine();
    engine.learn(ASSET, BALL_MESH);
    const peg = { on: "on", point, prop: "buoy", added: true };
    const where = { kind: "pinned", surfaces: ["on"] };
    const own = { id: "crest", name: "Crest", stance: { up: "normal" }, fit: { bend: true } };
    const scene = harbourScene();
    scene.dressings = [dressingSchema.parse({ ...own, where, what: { entries: [{ prop: "buoy" }] }, pegs: { [hexOf(addedKey(1))]: peg } })]; // prettier-ignore
    scene.surfaces = [surfaceSchema.parse({ id: "on", name: "On", asset: ASSET }) as Surface];
    engine.evaluate(scene);
    const { pieces } = engine.placements("crest")!.shapes!;
    // Left, ahead and how high above the foot: on a ball that is told by how far away it is.
    return Array.from({ length: pieces.length / 8 }, (_, k) => [
      Math.hypot(pieces[8 * k], pieces[8 * k + 1]),
      pieces[8 * k + 3],
    ]);
  };
  // Where it begins the mesh leans by 2 to 4°; left flat, its corners would be off by 0.08 m.
  for (const pole of [0.5, -0.5])
    for (const [far, high] of shape([0, pole, 0]))
      expect(Math.abs(high - 0.5 * Math.cos(far / 0.5) + 0.5)).toBeLessThan(0.03);
});

test("reliefs on a ball lie over each other or clear of each other, by their footprints over the surface and not by their boxes", () => {
  // On a ball of half a metre, 0.4 m across each; by the angle between them about the ball's middle.
  const overlap = (angle: number, sizes = [1, 1], turn = 0, bend = true) => {
    const pegs = Object.fromEntries(
      [-angle / 2, angle / 2].map((a, k) => [
        hexOf(addedKey(k + 1)),
        {
          on: "on",
          point: [0.5 * Math.sin(a + 0.4), 0.02, 0.5 * Math.cos(a + 0.4)],
          prop: "buoy",
          size: sizes[k],
          turn,
          added: true,
        },
      ]),
    );
    const where = { kind: "pinned", surfaces: ["on"] };
    return found({ asset: ASSET }, { where, what: { entries: [{ prop: "buoy" }] }, pegs, fit: { bend } }, "reliefs");
  };
  expect(overlap(0.5)).toEqual(["2 props that are bent over the surface lie over each other there."]);
  // 0.4 m over the ball are 0.8 rad; its corners come nearer to each other than its sides.
  expect([overlap(0.74).length, overlap(0.95).length, overlap(1.5).length]).toEqual([1, 0, 0]);
  // A small one in the middle of a large one; the other side of the ball; and what is stiff has a check of its own.
  expect([overlap(0.1, [0.05, 1.5]).length, overlap(Math.PI).length, overlap(0.5, [1, 1], 0, false).length]).toEqual([
    1, 0, 0,
  ]);
  // Turned by an eighth their corners meet where sides did not.
  expect(overlap(0.95, [1, 1], Math.PI / 4).length).toBe(1);
  // On a board that leans, on both of its sides or beside each other on one.
  const board = (points: number[][]) => {
    const pegs = Object.fromEntries(points.map((point, k) => [hexOf(addedKey(k + 1)), { on: "on", point, prop: "buoy", added: true }])); // prettier-ignore
    const made = { kind: "box", width: 4, depth: 4, height: 0.02 };
    return found({ made, rotation: [0, 0, Math.sin(0.4), Math.cos(0.4)] }, { where: { kind: "pinned", surfaces: ["on"] }, what: { entries: [{ prop: "buoy" }] }, pegs }, "reliefs").length; // prettier-ignore
  };
  expect([board([[0, 0.02, 0], [0.1, 0, 0]]), board([[0, 0.02, 0], [0.1, 0.02, 0]]), board([[0, 0, 0], [0.1, 0, 0.1]])]).toEqual([0, 1, 1]); // prettier-ignore
});

test("reliefs that keep clear give way to those before them where they lie over each other, and to no others", () => {
  /** Which of some pins on a ball of half a metre stand, each 0.4 m across, by their angles about its middle. */
  const standing = (angles: number[], fit: object) => {
    const pegs = Object.fromEntries(
      angles.map((a, k) => [
        hexOf(addedKey(k + 1)),
        { on: "on", point: [0.5 * Math.sin(a), 0.02, 0.5 * Math.cos(a)], prop: "buoy", added: true },
      ]),
    );
    const where = { kind: "pinned", surfaces: ["on"] };
    const { placements } = evaluated({ asset: ASSET }, { where, what: { entries: [{ prop: "buoy" }] }, pegs, fit });
    const { flags, key } = placements;
    return angles.map((_, k) => !(flags[key.indexOf(addedKey(k + 1))] & FLAG.blank));
  };
  const clear = { bend: true, clear: "footprint", clearance: 0 };
  // The one in the middle is in the way of both others, or gone before the last.
  expect(standing([0, 0.6, 1.2], clear)).toEqual([true, false, true]);
  expect(standing([0.6, 0, 1.2], clear)).toEqual([true, false, false]);
  expect(standing([0, 0.95], clear)).toEqual([true, true]);
  expect(standing([0, 0.95], { ...clear, clearance: 0.2 })).toEqual([true, false]);
  expect(standing([0, 0.6], { bend: true })).toEqual([true, true]);
  // Pins that are stiff keep clear by their boxes, the earlier one stays.
  expect(standing([0, 0.1], { clear: "box" })).toEqual([true, false]);
});

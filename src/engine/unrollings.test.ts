/** What has been unrolled once is known by the file and its seams: taken in again it is used, and nothing is unrolled anew. */
import { laidSchema, lineSchema, type Line } from "@/core/line";
import { freeMesh } from "@/core/mesh/unroll/testing";
import { dressingSchema } from "@/core/place";
import { surfaceSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "./engine";
import { bytesOfUnrolling, unrollingsOf } from "./unrollings";

const ASSET = "f".repeat(64);
const [POSITION, INDEX] = freeMesh("hull", 1200);
const MESH = { position: Float32Array.from(POSITION), index: INDEX, attributes: [] };

const seam = (at: [number, number, number], follow = "loop"): Line =>
  lineSchema.parse({ id: "cut", name: "Cut", number: 7, kind: "polyline", knots: [{ position: [0, 0, 0] }], laid: laidSchema.parse({ kind: "edges", on: "boat", follow, at }) }); // prettier-ignore

function scene(seams: string[], line: Line | null, asset = ASSET): Scene {
  const where = { kind: "wrapped", surfaces: ["boat"], patch: { layout: { by: "number", columns: 4, rows: 3 } } };
  return {
    ...harbourScene(),
    lines: line ? [line] : [],
    dressings: [dressingSchema.parse({ id: "d", name: "D", where, what: { entries: [{ prop: "buoy" }] } })],
    surfaces: [surfaceSchema.parse({ id: "boat", name: "Boat", asset, laying: { by: "unrolled", seams } })],
  };
}

const engineWith = () => {
  const engine = new Engine();
  engine.learn(ASSET, MESH);
  return engine;
};

test("an engine that is given what another one unrolled places the same and unrolls nothing", () => {
  const first = engineWith();
  const [{ placements }] = first.evaluate(scene([], null));
  const [[name, unrolled], ...more] = first.unrolledSince();
  expect([more, first.unrolledSince(), name]).toEqual([[], [], unrollingsOf(scene([], null)).get("boat")]);
  expect(bytesOfUnrolling(unrolled)).toBe(4 * unrolled.index.length + 8 * unrolled.places.length);

  const second = engineWith();
  second.learnUnrolling(name, structuredClone(unrolled));
  const [{ placements: again }] = second.evaluate(scene([], null));
  expect([...again.position]).toEqual([...placements.position]);
  expect(second.unrolledSince()).toEqual([]);
  const third = engineWith();
  third.learnUnrolling(name, { ...unrolled, places: unrolled.places.map((x) => x * Math.abs(x)) });
  expect([...third.evaluate(scene([], null))[0].placements.position]).not.toEqual([...placements.position]);
});

test("what is unrolled sooner than it is read is not kept", () => {
  const engine = new Engine();
  const [position, index] = freeMesh("hull", 200);
  engine.learn(ASSET, { position: Float32Array.from(position), index, attributes: [] });
  engine.evaluate(scene([], null));
  expect(engine.unrolledSince()).toEqual([]);
});

test("seams and files have names of their own; lines elsewhere, and what leads across faces, make none", () => {
  const name = (seams: string[], line: Line | null, asset?: string) =>
    unrollingsOf(scene(seams, line, asset)).get("boat");
  const plain = name([], null);
  const cut = name(["cut"], seam([0, 0, 0]));
  expect(new Set([plain, cut, name(["cut"], seam([1, 0, 0])), name(["cut"], seam([0, 0, 0], "sharp")), name([], null, "e".repeat(64))]).size).toBe(5); // prettier-ignore
  expect([name(["gone"], null), name([], seam([0, 0, 0]))]).toEqual([plain, plain]);
  const at = (line: Line | null, seams = ["cut"]) => [...engineWith().evaluate(scene(seams, line))[0].placements.position]; // prettier-ignore
  // A rib.
  const v = 3 * Math.floor(0.1 * POSITION.length);
  const middle = seam([POSITION[v], POSITION[v + 1], POSITION[v + 2]]);
  const [whole, halved] = [at(null), at(middle)];
  expect(halved).not.toEqual(whole);
  expect(at(middle, [])).toEqual(whole);
});

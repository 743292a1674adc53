/** What has been unrolled once is known by the file and its seams: taken in again it is used, and nothing is unrolled anew. */
import { laidSchema, lineSchema, type Line } from "@/core/line";
import { freeMesh } from "@/core/mesh/unroll/testing";
import { dressingSchema } from "@/core/place";
import { surfaceSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "./engine";
import { solveAll, Solver } from "./solving";
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

test("what is made here is known by all that it is made of, and is unrolled once as well", () => {
  const round = (knots: [number, number, number][], more: object = {}) =>
    lineSchema.parse({ id: "rib", name: "Rib", number: 1, kind: "polyline", knots: knots.map((position) => ({ position })), ...more }); // prettier-ignore
  const made = (loft: object, lines: Line[], laying: object = { by: "unrolled" }): Scene => {
    const surfaces = [
      { id: "boat", name: "Boat", made: { kind: "loft", lines: ["rib", "keel"], along: 40, between: 20, ...loft }, laying },
      { id: "copy", name: "Copy", made: { kind: "smoothed", of: "boat", rounds: 1 }, laying },
    ]; // prettier-ignore
    return { ...scene([], null), lines, surfaces: surfaces.map((one) => surfaceSchema.parse(one)) };
  };
  const rib = round([[0, 0, 0], [1, 1, 0], [3, 0, 0]]); // prettier-ignore
  const keel = lineSchema.parse({ ...round([[0, 0, 4], [3, 1, 4]]), id: "keel", number: 2 }); // prettier-ignore
  const names = (of: Scene) => ["boat", "copy"].map((id) => unrollingsOf(of).get(id));
  const [plain, copied] = names(made({}, [rib, keel]));
  expect(plain).not.toBe(copied);
  expect(names(made({}, [round([[0, 0, 0], [1, 1, 0], [3, 0, 0]], { name: "Bow", number: 9 }), keel]))).toEqual([plain, copied]); // prettier-ignore
  const others = [
    made({ between: 21 }, [rib, keel]),
    made({}, [round([[0, 0, 0], [1, 1.01, 0], [3, 0, 0]]), keel]), // prettier-ignore
    made({ lines: ["keel", "rib"] }, [rib, keel]),
  ].map(names);
  expect(new Set([plain, copied, ...others.flat()]).size).toBe(8);
  const swags = lineSchema.parse({ id: "rib", name: "Swags", number: 1, kind: "between" });
  expect([names(made({}, [keel])), names(made({}, [swags, keel]))]).toEqual(Array(2).fill([undefined, undefined]));
  // A loft knows how it lies flat unless it is said otherwise.
  expect(names(made({}, [rib, keel], {}))[0]).toBeUndefined();

  const first = new Engine();
  const wrapped = made({}, [rib, keel]);
  const [{ placements }] = first.evaluate(wrapped);
  const [[name, unrolled]] = first.unrolledSince();
  expect(name).toBe(plain);
  expect(placements.count).toBeGreaterThan(0);
  const second = new Engine();
  second.learnUnrolling(name, structuredClone(unrolled));
  expect([...second.evaluate(wrapped)[0].placements.position]).toEqual([...placements.position]);
  expect(second.unrolledSince()).toEqual([]);
});

test("what is joined is known by the job that joined it, and by none as long as it is not", async () => {
  const ring = lineSchema.parse({ id: "rib", name: "Rib", number: 1, kind: "circle", knots: [{ position: [0, 0, 0] }], radius: 2 }); // prettier-ignore
  const tube = surfaceSchema.parse({ id: "boat", name: "Boat", made: { kind: "tube", lines: ["rib"], sides: 16 }, laying: { by: "unrolled" } }); // prettier-ignore
  const all: Scene = { ...scene([], null), lines: [ring], surfaces: [tube] };
  const engine = new Engine();
  engine.evaluate(all);
  expect(engine.unrolledSince().filter(([name]) => !name.includes("null"))).toEqual([]);
  await solveAll(engine, undefined, new Solver());
  engine.evaluate(all);
  const job = engine.solidJob("boat")!.name;
  expect(engine.unrolledSince().map(([name]) => name)).toEqual([unrollingsOf(all, () => job).get("boat")]);
  expect(unrollingsOf(all).size).toBe(0);
});

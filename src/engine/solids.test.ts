/** Tubes, shells and solids: made of lines, surfaces and what dressings place; joined apart from all else, and only what changed. */
import { XMLParser } from "fast-xml-parser";
import { strFromU8, unzipSync } from "fflate";
import { STLLoader } from "three/examples/jsm/loaders/STLLoader.js";
import { writeSolid } from "@/core/files";
import type { TriangleMesh } from "@/core/mesh";
import { dressingSchema } from "@/core/place";
import { makeLine } from "@/core/line/testing";
import { sceneSchema, surfaceSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { troubleSaid, uncreased, volumeOf } from "@/core/solid";
import { Engine } from "./engine";
import { solveAll, Solver, unsolved } from "./solving";

const surface = (id: string, made: object, own: object = {}) =>
  surfaceSchema.parse({ id, name: `the ${id}`, ground: false, made, ...own });
const box = (id: string, side: number, own: object = {}) =>
  surface(id, { kind: "box", width: side, height: side, depth: side }, own);
const tube = (id: string, lines: string[], own: object = {}) =>
  surface(id, { kind: "tube", lines, sides: 24, radius: 0.1, ends: "flat", ...own });
const solid = (id: string, parts: [how: string, of: string][], own: object = {}) =>
  surface(id, { kind: "solid", parts: parts.map(([how, of], k) => ({ id: k, how, of })) }, own);

/** Two ropes that cross at right angles, a box at their crossing, and whatever else is made. */
const scene = (...made: ReturnType<typeof surface>[]): Scene => ({
  ...harbourScene(),
  dressings: [],
  lines: [
    { ...makeLine({ kind: "polyline", knots: [[-2, 0.5, 0], [2, 0.5, 0]] }), id: "east", number: 1 }, // prettier-ignore
    { ...makeLine({ kind: "polyline", knots: [[0, 0.5, -2], [0, 0.5, 2]] }), id: "south", number: 2 }, // prettier-ignore
  ],
  surfaces: [box("crate", 1), ...made],
});

/** The volumes of all that is made of bodies, once it is joined, by ids. */
async function volumes(engine: Engine, of: Scene, solver = new Solver()): Promise<Record<string, number>> {
  engine.evaluate(of);
  await solveAll(engine, undefined, solver);
  const meshes = [...engine.solids.keys()].map((id) => [id, engine.madeMesh(id) as TriangleMesh | null] as const);
  return Object.fromEntries(meshes.map(([id, mesh]) => [id, mesh ? volumeOf(uncreased(mesh)) : 0]));
}

/** A regular polygon's share of its circle. */
const ROUND = (24 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 24);
const bar = (length: number) => Math.PI * 0.01 * ROUND * length;

it("joins what meets and takes out what is cut, wherever parts stand, and solids of solids", async () => {
  const all = scene(
    tube("cross", ["east", "south"]),
    solid("pierced", [["join", "crate"], ["cut", "cross"]], { position: [9, 0, 0] }), // prettier-ignore
    solid("core", [["join", "crate"], ["common", "pierced"]]), // prettier-ignore
    solid("far", [["join", "pierced"], ["join", "crate"]]), // prettier-ignore
  );
  const found = await volumes(new Engine(), all);
  // Two cylinders that cross share 16 r³ / 3, polygons a little less.
  const crossing = (16 / 3) * 0.001;
  expect(found.cross).toBeCloseTo(2 * bar(4) - crossing, 3);
  expect(found.pierced).toBeCloseTo(1 - (2 * bar(1) - crossing), 3);
  expect(found.core).toBeCloseTo(0, 6);
  expect(found.far).toBeCloseTo(1 + found.pierced, 5);
});

it("does what a change asks for and no more, shows it meanwhile, and takes what is known", async () => {
  const engine = new Engine();
  const first = scene(tube("cross", ["east", "south"]), solid("block", [["join", "crate"], ["cut", "cross"]])); // prettier-ignore
  await volumes(engine, first);
  const kept = new Map([...engine.solids].map(([id]) => [id, engine.madeMesh(id)]));
  const renamed = { ...first, surfaces: first.surfaces.map((one) => ({ ...one, name: `${one.name}!`, hidden: true })) };
  engine.evaluate(renamed);
  expect(unsolved(engine)).toEqual([]);
  const wider = {
    ...first,
    surfaces: [first.surfaces[0], tube("cross", ["east", "south"], { radius: 0.2 }), first.surfaces[2]],
  };
  engine.evaluate(wider);
  expect(unsolved(engine)).toEqual(["cross", "block"]);
  // Tubes are shown side by side, what something is taken out of as it was.
  expect(engine.madeMesh("block")).toBe(kept.get("block"));
  expect(engine.madeMesh("cross")).not.toBe(kept.get("cross"));
  await solveAll(engine);
  expect([...engine.solids.values()].map(({ job, solved }) => job === solved?.name)).toEqual([true, true]);
  engine.evaluate(first);
  const solver = { solve: () => Promise.reject(new Error("known already")) } as unknown as Solver;
  const before = new Map([...(await remembered(first))].map((one) => [one.name, one]));
  await solveAll(engine, before, solver);
  expect(unsolved(engine)).toEqual([]);
});

async function remembered(of: Scene) {
  const engine = new Engine();
  const [all, solver] = [[] as NonNullable<Awaited<ReturnType<Solver["solve"]>>>[], new Solver()];
  engine.evaluate(of);
  for (const id of engine.solids.keys()) {
    const solved = (await solver.solve(engine.solidJob(id)!))!;
    engine.learnSolid(id, solved);
    all.push(solved);
  }
  return all;
}

it("is made of what a dressing places, as it stands there: mirrored, sized, and not what is blank", async () => {
  // A wedge that is higher on its left.
  const position = Float32Array.from([-1, 0, 0, 1, 0, 0, 1, 0.2, 0, -1, 1, 0, -1, 0, 1, 1, 0, 1, 1, 0.2, 1, -1, 1, 1]);
  const quads = [[0, 3, 2, 1], [4, 5, 6, 7], [0, 1, 5, 4], [3, 7, 6, 2], [0, 4, 7, 3], [1, 2, 6, 5]]; // prettier-ignore
  const index = Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]));
  const engine = new Engine();
  engine.learn(harbourScene().props[0].asset!, { position, index, attributes: [] });
  const [quay] = harbourScene().lines;
  const dressing = (own: object) =>
    dressingSchema.parse({
      ...{ id: "wedges", name: "Wedges", where: { lines: ["quay"] }, what: { entries: [{ prop: "buoy" }] } },
      ...{ spacing: { by: "list", list: [2, 7] }, stance: { meetsUp: "pivot" }, ...own },
    });
  const highest = async (own: object) => {
    const all = { ...scene(solid("wall", [["join", "wedges"]])), lines: [quay], dressings: [dressing(own)] };
    const volume = (await volumes(engine, all)).wall;
    const mesh = engine.madeMesh("wall") as TriangleMesh;
    const top = Math.max(...mesh.position.filter((_, p) => p % 3 === 1));
    const places = [...new Set(Array.from(mesh.index, (v) => v))].filter((v) => mesh.position[3 * v + 1] === top);
    return {
      volume: volume.toFixed(3),
      sides: new Set(places.map((v) => Math.sign(Math.round(mesh.position[3 * v + 2])))),
    };
  };
  const plain = await highest({});
  expect(plain.volume).toBe("2.400");
  const mirrored = await highest({ variation: { mirror: 1 } });
  expect(mirrored.volume).toBe("2.400");
  expect(mirrored.sides).not.toEqual(plain.sides);
});

it("says of what is open, hangs on itself, or is too much that it was left out, and goes on without", async () => {
  const sheet = surface("sail", { kind: "bumps", width: 2, depth: 2, height: 0 });
  const all = scene(
    sheet,
    tube("own", ["east"]),
    solid("both", [["join", "crate"], ["join", "sail"], ["join", "both"], ["cut", "gone"]]), // prettier-ignore
    surface("hull", { kind: "shell", of: "sail", thickness: 0.25 }),
    solid("a", [["join", "b"]]), // prettier-ignore
    solid("b", [["join", "a"]]), // prettier-ignore
    tube("tight", ["ring"], { radius: 3 }),
    tube("shaped", ["east"], { section: "line", outline: "south" }),
  );
  all.lines.push({ ...makeLine({ kind: "circle", radius: 1, knots: [[0, 0, 0]] }), id: "ring", number: 3 } as never);
  const engine = new Engine();
  const found = await volumes(engine, all);
  expect([found.both.toFixed(3), found.hull.toFixed(3)]).toEqual(["1.000", "1.000"]);
  const said = (id: string) => engine.solids.get(id)!.troubles.map((one) => troubleSaid(one, (of) => of));
  expect(said("both")[0]).toMatch(/“sail” is not closed: \d+ open edges/);
  expect(said("both").slice(1)).toEqual([
    expect.stringContaining("“both” hangs on this very surface"),
    expect.stringContaining("“gone” has no body"),
  ]);
  for (const id of ["a", "b"]) expect(said(id)).toEqual([expect.stringContaining("hangs on this very surface")]);
  expect(said("tight")).toEqual([expect.stringContaining("folds over itself")]);
  expect(said("shaped")).toEqual([expect.stringContaining("“south” is not closed")]);
});

it("goes home as files that others read as the same closed body, in their units, upright and facing outwards", async () => {
  const engine = new Engine();
  await volumes(engine, scene(solid("block", [["join", "crate"]], { position: [2, 0, 1], scale: 0.5 }))); // prettier-ignore
  const mesh = engine.madeMesh("block") as never;
  const stand = engine.standOf("block")! as never;
  const stl = await writeSolid("stl", mesh, stand, "block");
  const geometry = new STLLoader().parse(stl.buffer as ArrayBuffer);
  geometry.computeBoundingBox();
  const { min, max } = geometry.boundingBox!;
  expect([min.toArray(), max.toArray()]).toEqual([[1750, -1250, 0], [2250, -750, 500]]); // prettier-ignore
  const P = geometry.getAttribute("position").array;
  expect(volumeOf({ position: P, index: Uint32Array.from({ length: P.length / 3 }, (_, i) => i) })).toBeCloseTo(
    0.125e9,
    0,
  );
  const parts = unzipSync(await writeSolid("3mf", mesh, stand, "a <block>"));
  const read = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: "" }).parse(
    strFromU8(parts["3D/3dmodel.model"]),
  );
  const { vertices, triangles } = read.model.resources.object.mesh;
  expect([read.model.unit, read.model.resources.object.name]).toEqual(["millimeter", "a <block>"]);
  const position = vertices.vertex.flatMap(({ x, y, z }: Record<string, string>) => [x, y, z].map(Number));
  const index = triangles.triangle.flatMap(({ v1, v2, v3 }: Record<string, string>) => [v1, v2, v3].map(Number));
  expect([position.length, index.length, volumeOf({ position, index })]).toEqual([24, 36, 0.125e9]);
});

it("joins what is part of an assembly as well, and sees it in every use", async () => {
  const { lines, surfaces, ...rest } = scene({ ...tube("cross", ["east", "south"]), part: true });
  const assembly = { id: "raft", name: "Raft", asset: null, bounds: { min: [-1, 0, -1], max: [1, 1, 1] }, triangles: 0, assembly: { lines, surfaces } }; // prettier-ignore
  const uses = { id: "rafts", name: "Rafts", where: { lines: ["east"] }, what: { entries: [{ prop: "raft" }] }, spacing: { by: "count", count: 3 } }; // prettier-ignore
  const own = sceneSchema.parse({ ...rest, props: [assembly], lines: [makeLine({ id: "quay", number: 1, kind: "polyline", knots: [[0, 0, 9], [30, 0, 9]] })], surfaces: [], dressings: [{ ...uses, where: { lines: ["quay"] } }] }); // prettier-ignore
  const engine = new Engine();
  engine.evaluate(own);
  expect(engine.result("rafts")!.apart!.placements.count).toBe(3);
  await solveAll(engine);
  engine.evaluate(own);
  const mesh = engine.made.get("cross") as TriangleMesh;
  expect(volumeOf(uncreased(mesh))).toBeCloseTo(2 * bar(4) - (16 / 3) * 0.001, 3);
  expect(engine.boxOf("raft")!.max[0]).toBeCloseTo(2, 1);
});

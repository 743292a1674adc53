/** A small scene in which everything hangs on everything, and the files that it needs. */
import { writeRaster } from "@/core/image";
import { makeLine } from "@/core/line/testing";
import type { TriangleMesh } from "@/core/mesh";
import { addedKey, hexOf, packed } from "@/core/place";
import { boxMesh, mesh } from "@/core/place/testing";
import { emptyScene, sceneSchema, type Scene } from "@/core/scene";
import type { Engine } from "../engine";

const hash = (digit: string) => digit.repeat(64);

/** Hashes of meshes for props, of meshes for surfaces and of pictures. */
export const FILES = {
  props: [hash("1"), hash("2"), hash("3"), hash("4")],
  surfaces: [hash("5"), hash("6")],
  pictures: [hash("7"), hash("8")],
};

/** A patch of ground of n by n squares, hilly, with UVs and colours. */
function patch(n: number, height: (x: number, z: number) => number): TriangleMesh {
  const [position, index, uv, colour]: number[][] = [[], [], [], []];
  for (let i = 0; i <= n; i++) {
    for (let j = 0; j <= n; j++) {
      position.push(i - n / 2, height(i, j), j - n / 2);
      uv.push(i / n, j / n);
      colour.push(i / n, j / n, 0.5);
      if (i === n || j === n) continue;
      const a = i * (n + 1) + j;
      index.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
    }
  }
  const attributes = [
    { name: "TEXCOORD_0", width: 2, array: Float32Array.from(uv) },
    { name: "COLOR_0", width: 3, array: Float32Array.from(colour) },
  ];
  return { ...mesh(position, index), attributes };
}

const MESHES: Readonly<Record<string, TriangleMesh>> = {
  [FILES.props[0]]: boxMesh([-0.2, 0, -0.2], [0.2, 0.6, 0.2]),
  [FILES.props[1]]: mesh([-0.2, 0, -0.1, 0.3, 0, 0, 0, 0.5, 0.1, 0, 0.1, 0.3], [0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3]),
  // The same box as the first, filled otherwise; the same triangles as the first, elsewhere.
  [FILES.props[2]]: mesh([-0.2, 0, -0.2, 0.2, 0.1, -0.2, 0, 0.6, 0.2, 0, 0, 0.2], [0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3]),
  [FILES.props[3]]: boxMesh([-0.3, -0.1, -0.1], [0.3, 0.2, 0.1]),
  [FILES.surfaces[0]]: patch(4, (i, j) => 0.3 * Math.sin(i + 2 * j)),
  [FILES.surfaces[1]]: patch(4, (i, j) => 0.2 * Math.cos(2 * i - j)),
};

/** @param wanted the files that it is to know; all where none are named */
export async function teach(engine: Engine, wanted?: ReadonlySet<string>): Promise<void> {
  for (const [asset, shape] of Object.entries(MESHES)) if (wanted?.has(asset) !== false) engine.learn(asset, shape);
  for (const [k, asset] of FILES.pictures.entries()) {
    if (wanted?.has(asset) === false) continue;
    const pixels = Uint8Array.from({ length: 64 }, (_, i) => (i % 4 === 3 ? 255 : (i * (37 + k)) % 256));
    await engine.learnFile(asset, writeRaster(4, 4, pixels));
  }
}

const knots = (...list: [number, number, number][]) => list;

export function fuzzScene(): Scene {
  const line = (id: string, number: number, more: Parameters<typeof makeLine>[0]) =>
    makeLine({ ...more, id, name: id, number });
  return sceneSchema.parse({
    ...emptyScene("Fuzz"),
    props: ["buoy", "oar", "crate"].map((id, k) => ({
      id,
      name: id,
      asset: FILES.props[k],
      bounds: { min: [-0.2, 0, -0.2], max: [0.2, 0.6, 0.2] },
      triangles: 12,
      prepared: { snaps: [{ name: "hook", position: [0.1, 0.5, 0.2 * k], direction: [0, 1, k] }] },
    })),
    mixes: [{ id: "any", name: "any", props: ["buoy", "oar"].map((prop) => ({ prop, weight: 1 })) }],
    lines: [
      line("quay", 1, { kind: "polyline", knots: knots([-2, 1, 0], [2, 1.5, 0], [2, 1, 2]) }),
      line("rope", 2, { kind: "hanging", knots: knots([-2, 2, -1], [2, 2.5, -1]) }),
      line("ring", 3, { kind: "circle", knots: knots([0, 0, 0]), radius: 1.5 }),
      line("path", 4, {
        kind: "smooth",
        knots: knots([-1.5, 3, 1], [0, 3, 0], [1.5, 3, 1]),
        laid: { kind: "surface" },
      }),
      line("rim", 5, {
        kind: "polyline",
        knots: knots([0, 0, 0], [1, 0, 0]),
        laid: { kind: "edges", on: "hill", follow: "boundary", at: [2, 0, 0] },
      }),
      line("struts", 6, { kind: "between", knots: [], pairs: "crossing", lines: ["quay", "rope"], parts: 3, shift: 1 }),
      line("swags", 7, {
        kind: "between",
        knots: [],
        pairs: "snaps",
        dressing: "b",
        snap: "hook",
        partner: "net",
        form: "hanging",
        marks: 2,
      }),
    ],
    surfaces: [
      {
        id: "hill",
        name: "hill",
        asset: FILES.surfaces[0],
        movers: [
          { kind: "waves", length: 2, held: ["left"], limits: { distances: [{ to: "quay", none: 0, full: 1 }] } },
          { kind: "bend", axis: "east" },
        ],
      },
      { id: "plane", name: "plane", made: { kind: "bumps", width: 4, depth: 4, size: 3 }, position: [0, -1, 0] },
      { id: "crate-hold", name: "hold", made: { kind: "box", width: 2, depth: 2, height: 2 }, ground: false },
      { id: "roof", name: "roof", made: { kind: "loft", lines: ["quay", "rope"], along: 6, between: 2 }, solid: false },
      { id: "copy", name: "copy", made: { kind: "smoothed", of: "hill", rounds: 1 }, position: [0, -2, 0] },
    ],
    dressings: [
      {
        id: "a",
        where: { lines: ["quay", "path", "rim"] },
        spacing: { distance: 1 },
        fit: {
          ...BUSY.fit,
          clear: "footprint",
          clearOf: ["c"],
          rows: 2,
          rowDistance: 0.4,
          bend: true,
          clip: true,
        },
      },
      {
        id: "b",
        where: { lines: ["ring", "rope"] },
        spacing: { by: "end", gap: 0.2 },
        fit: {
          ...BUSY.fit,
          drop: "down",
          dropBy: "footprint",
          lean: 0.5,
          ontoProps: ["a"],
          clear: "box",
          clearBy: "push",
        },
        gaps: { chance: 0.2, runsOn: true, avoid: ["quay"], stretches: [{ line: "ring", from: 0.3, to: 0.9 }] },
      },
      {
        id: "c",
        where: { kind: "over", surfaces: ["hill", "plane", "copy"], holes: ["ring"] },
        spacing: { pattern: "random", amount: "density", perArea: 2 },
        fit: { ...BUSY.fit, clear: "mesh" },
        stance: { forward: "line", thing: "quay", up: "normal", upBy: 0.7 },
        gaps: {
          slopeOn: true,
          slope: [0, 0.9],
          slopeSoft: 0.3,
          edge: 0.2,
          edgeSize: 0.5,
          distances: [{ to: "a", none: 0.05, full: 0.2 }],
          images: [{ asset: FILES.pictures[0], least: [-2, -2], most: [2, 2] }],
          colours: { on: true },
        },
      },
      {
        id: "d",
        where: { kind: "inside", volumes: ["crate-hold"] },
        spacing: { distance: 1, clusters: true, clusterCount: [2, 3] },
        fit: { ...BUSY.fit, clear: "radius" },
        gaps: { walls: 0.1, distances: [{ to: "rope", none: 0.2, full: 0.6 }] },
      },
      {
        id: "e",
        sown: [{ number: 1, on: "loose", from: [0, 1.5, 0], places: packed([0, 0, 0, 0.4, 0, 0.7, -0.6, 0, 0.2]) }],
        where: { kind: "loose" },
        fit: { drop: "down", dropAs: "group" },
        pegs: Object.fromEntries(
          [1, 2].map((number) => [
            hexOf(addedKey(number)),
            { on: "loose", point: [number / 2, 2, 0], prop: "crate", added: true },
          ]),
        ),
      },
      {
        id: "f",
        where: {
          kind: "patch",
          surfaces: ["plane"],
          areas: ["ring"],
          patch: { layout: { kind: "area" }, turn: 0.4, beyond: "stop" },
        },
        spacing: { distance: 1.2 },
        stance: { up: "normal" },
      },
      { id: "g", where: { lines: ["struts", "swags"] }, spacing: { by: "divide" }, gaps: { avoid: ["swags"] } },
    ].map((one) => ({ ...BUSY, name: one.id, ...one })),
  });
}

/** All that can be switched on is on, so that every number about it counts. */
const BUSY = {
  what: { entries: [{ prop: "buoy" }, { prop: "any" }, { prop: "crate" }], order: "mixed" },
  fit: { clear: "box", clearance: 0.02, across: 0.1 },
  variation: {
    positionOn: true,
    turnOn: true,
    sizeOn: true,
    size: [0.8, 1.2],
    width: [0.8, 1.2],
    wanderOn: true,
    wanderAcross: 0.2,
    wanderUp: 0.1,
    mirror: 0.3,
    tintOn: true,
  },
};

/** The same with assemblies in it: a tray, in a shelf, in a dressing's sequence and dropped onto the hill. */
export function nestedScene(): Scene {
  const base = fuzzScene();
  const assembly = (id: string, each: string, lines: object[], dressings: object[], more: object = {}) => ({
    id,
    name: id,
    asset: null,
    bounds: { min: [0, 0, 0], max: [1, 1, 1] },
    triangles: 0,
    prepared: { pivot: "bottom" },
    assembly: {
      each,
      most: 2,
      lines,
      dressings: dressings.map((one) => ({ ...BUSY, name: "inner", ...one })),
      ...more,
    },
  });
  const ends = (id: string) => makeLine({ id, name: id, number: 1, kind: "polyline", knots: knots([0, 0, 0], [1, 0.2, 0.3]) }); // prettier-ignore
  const jars = { id: "jars", where: { lines: ["edge"] }, spacing: { by: "count", count: 3 }, fit: {} };
  const lids = { id: "lids", where: { kind: "over", surfaces: ["base"] }, spacing: { amount: "count", count: 3 }, fit: { clear: "box", clearOf: ["jars"] } }; // prettier-ignore
  const ground = { id: "base", name: "base", made: { kind: "bumps", width: 2, depth: 2, size: 1 }, part: true };
  const trays = { id: "trays", where: { lines: ["board"] }, what: { entries: [{ prop: "tray" }, { prop: "buoy" }] }, spacing: { by: "count", count: 2 } }; // prettier-ignore
  const shelves = { id: "h", name: "h", where: { lines: ["quay"] }, what: { entries: [{ prop: "shelf" }, { prop: "tray" }] }, spacing: { by: "count", count: 3 }, fit: { drop: "down", apart: "each" } }; // prettier-ignore
  return sceneSchema.parse({
    ...base,
    props: [
      ...base.props,
      assembly("tray", "varied", [ends("edge")], [jars, lids], { surfaces: [ground] }),
      assembly("shelf", "varied", [ends("board")], [trays]),
    ],
    dressings: [...base.dressings, { ...BUSY, ...shelves }],
  });
}

/**
 * Damaged files: seeded changes to files of every kind. Each either comes to a sentence, or to a mesh that everything
 * after can work with, within five seconds of the processor's time. `DAMAGE=20000 npx jest damage` tries more.
 */
import { Document, WebIO, type TypedArray } from "@gltf-transform/core";
import { ALL_EXTENSIONS, EXTMeshGPUInstancing } from "@gltf-transform/extensions";
import { strToU8, zipSync } from "fflate";
import { drawFrom, streamOf } from "../math";
import { emptyScene } from "../scene";
import { InputError } from "../schema";
import { evaluateAlone, movingGlb, packedGlb, PIXEL } from "./testing";
import { bringInFile, FORMATS, readProject, readTriangleMesh, type GivenFile } from ".";

const CASES = Number(process.env.DAMAGE ?? 500);
const MOST_MS = 5000;
/** What JavaScript says of itself, and artists never see. */
const RAW =
  /undefined|null|\bNaN\b|TypeError|RangeError|Cannot|is not (a (function|constructor)|an object|iterable|defined)|out of bounds|\[object/;

interface Whole extends GivenFile {
  others: GivenFile[];
}

/** Files of every kind, with all that can be in them. */
async function wholeFiles(): Promise<Whole[]> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "VEC2" | "VEC3" | "VEC4" | "SCALAR", array: TypedArray) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const grid = Array.from({ length: 36 }, (_, k) => [k % 6, Math.floor(k / 6), Math.sin(k)]);
  const faces = grid.flatMap(([x, y], k) => (x < 5 && y < 5 ? [k, k + 1, k + 6, k + 1, k + 7, k + 6] : []));
  const texture = document.createTexture("Weave").setImage(PIXEL).setMimeType("image/png");
  const primitive = document
    .createPrimitive()
    .setAttribute("POSITION", accessor("VEC3", new Float32Array(grid.flat())))
    .setAttribute("NORMAL", accessor("VEC3", new Float32Array(grid.flatMap(() => [0, 0, 1]))))
    .setAttribute("TEXCOORD_0", accessor("VEC2", new Float32Array(grid.flatMap(([x, y]) => [x / 5, y / 5]))))
    .setIndices(accessor("SCALAR", new Uint16Array(faces)))
    .setMaterial(document.createMaterial("Paint").setBaseColorTexture(texture));
  const mesh = document.createMesh("Net").addPrimitive(primitive);
  const batch = document.createExtension(EXTMeshGPUInstancing).createInstancedMesh();
  batch.setAttribute("TRANSLATION", accessor("VEC3", new Float32Array([0, 0, 0, 9, 0, 0])));
  const parent = document.createNode("Set").setScale([1, 2, -1]);
  document.createScene().addChild(parent);
  parent.addChild(document.createNode("One").setMesh(mesh).setTranslation([1, 2, 3]));
  const io = () => new WebIO().registerExtensions(ALL_EXTENSIONS);
  const plain = await io().writeBinary(document);
  const { json, resources } = await io().writeJSON(document, { basename: "net" });
  parent.addChild(document.createNode("Many").setMesh(mesh).setExtension("EXT_mesh_gpu_instancing", batch));
  const instanced = await io().writeBinary(document);
  const [packed, smaller] = [await packedGlb(document, "draco"), await packedGlb(document, "meshopt")];
  const obj = `mtllib a.mtl\no Net\n${grid.map((p) => `v ${p.join(" ")}`).join("\n")}\nusemtl W\nf 1 2 8 7\nf -1 -2 -8\n`;
  const ply = `ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_index\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n`;
  const stl = new Uint8Array(84 + 100);
  stl[80] = 2;
  const beside = Object.entries(resources).map(([name, bytes]) => ({ name, bytes }));
  return [
    ...[plain, instanced, packed, smaller, await movingGlb(3)].map((bytes, i) => ({
      name: `n${i}.glb`,
      bytes,
      others: [],
    })),
    { name: "net.gltf", bytes: strToU8(JSON.stringify(json)), others: beside },
    {
      name: "net.obj",
      bytes: strToU8(obj),
      others: [{ name: "a.mtl", bytes: strToU8("newmtl W\nKd 1 0 0\nd 0.5\n") }],
    },
    { name: "net.ply", bytes: strToU8(ply), others: [] },
    { name: "net.stl", bytes: stl, others: [] },
  ];
}

const ODD: readonly unknown[] = [null, -1, 0, 1, 7, 1.5, 255, 65535, 62_000_000, 1e9, 4294967295, 1e308, "x", "", true, [], {}, [null], { a: 1 }]; // prettier-ignore

/** The description of a glTF with one thing in it changed, left out, or there twice. */
function damagedJson(text: string, next: () => number): string {
  const json = JSON.parse(text) as Record<string, unknown>;
  const places: [Record<string, unknown>, string][] = [];
  const visit = (value: unknown): void => {
    if (typeof value !== "object" || value === null) return;
    for (const key of Object.keys(value)) {
      places.push([value as Record<string, unknown>, key]);
      visit((value as Record<string, unknown>)[key]);
    }
  };
  visit(json);
  const [holder, key] = places[Math.floor(next() * places.length)];
  const way = next();
  if (way < 0.15) {
    if (Array.isArray(holder)) holder.splice(Number(key), 1);
    else delete holder[key];
  } else if (way < 0.25 && Array.isArray(holder)) holder.push(holder[Number(key)]);
  else if (way < 0.35 && typeof holder[key] === "number")
    holder[key] = (holder[key] as number) * 10 ** Math.floor(next() * 9);
  else holder[key] = ODD[Math.floor(next() * ODD.length)];
  return JSON.stringify(json).replaceAll("1e+308", next() < 0.5 ? "1e308" : "1e999");
}

function damaged({ name, bytes }: Whole, next: () => number): Uint8Array {
  const way = next();
  if (name.endsWith(".glb") && way < 0.7) {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const length = view.getUint32(12, true);
    const text = damagedJson(new TextDecoder().decode(bytes.subarray(20, 20 + length)), next);
    const json = strToU8(text + " ".repeat((4 - (strToU8(text).length % 4)) % 4));
    const out = new Uint8Array(20 + json.length + bytes.length - 20 - length);
    out.set(bytes.subarray(0, 20));
    out.set(json, 20);
    out.set(bytes.subarray(20 + length), 20 + json.length);
    new DataView(out.buffer).setUint32(8, out.length, true);
    new DataView(out.buffer).setUint32(12, json.length, true);
    return out;
  }
  if (name.endsWith(".gltf") && way < 0.9) return strToU8(damagedJson(new TextDecoder().decode(bytes), next));
  const at = Math.floor(next() * bytes.length);
  if (way < 0.8) return bytes.slice(0, at);
  const out = bytes.slice();
  for (let k = 0, n = 1 + Math.floor(next() * 6); k < n; k++)
    out[Math.floor(next() * out.length)] = next() < 0.3 ? 255 : Math.floor(next() * 256);
  return out;
}

test("a damaged file of any kind comes to a sentence, or to a mesh that everything after can work with", async () => {
  const files = await wholeFiles();
  const outcomes = { refused: 0, taken: 0 };
  for (let k = 0; k < CASES; k++) {
    let draw = 0;
    const stream = streamOf(Number(process.env.SEED ?? 1), k);
    const next = () => drawFrom(stream, draw++, 0);
    const file = files[k % files.length];
    const bytes = damaged(file, next);
    const start = process.cpuUsage();
    const failing = `case ${k}, ${file.name}`;
    try {
      const found = await bringInFile({ name: file.name, bytes }, file.others);
      const mesh = await readTriangleMesh(found.bytes, file.name);
      const vertices = mesh.position.length / 3;
      expect([failing, Array.from(mesh.position).every(Number.isFinite)]).toEqual([failing, true]);
      expect([failing, mesh.index.every((v) => v < vertices)]).toEqual([failing, true]);
      for (const { array, width } of mesh.attributes) {
        expect([failing, array.length, array.every(Number.isFinite)]).toEqual([failing, width * vertices, true]);
      }
      const out = await FORMATS.glb.write(...evaluateAlone(found));
      expect((await bringInFile({ name: "out.glb", bytes: out }, [])).triangles).toBe(found.triangles);
      outcomes.taken++;
    } catch (error) {
      if (!(error instanceof InputError)) throw new Error(`${failing}: ${(error as Error).stack}`);
      expect([failing, error.message.replace(/“[^”]*”/g, "").match(RAW)]).toEqual([failing, null]);
      expect(error.message.length).toBeLessThan(400);
      outcomes.refused++;
    }
    const { user, system } = process.cpuUsage(start);
    expect([failing, (user + system) / 1000 < MOST_MS]).toEqual([failing, true]);
  }
  // Both have to happen, or nothing was tried.
  expect(Math.min(outcomes.refused, outcomes.taken)).toBeGreaterThan(CASES / 10);
});

/** A GLB with the description given, its binary part all noughts. */
function glbOf(json: object, binary = 64): Uint8Array {
  const text = strToU8(JSON.stringify({ asset: { version: "2.0" }, ...json }).padEnd(4096, " "));
  const padded = Uint8Array.from([...text, ...new Uint8Array((4 - (text.length % 4)) % 4).fill(32)]);
  const out = new Uint8Array(28 + padded.length + binary);
  const view = new DataView(out.buffer);
  [0x46546c67, 2, out.length, padded.length, 0x4e4f534a].forEach((word, i) => view.setUint32(4 * i, word, true));
  out.set(padded, 20);
  view.setUint32(20 + padded.length, binary, true);
  view.setUint32(24 + padded.length, 0x004e4942, true);
  return out;
}

const TRIANGLE = {
  buffers: [{ byteLength: 64 }],
  bufferViews: [{ buffer: 0, byteLength: 36 }],
  accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: "VEC3" }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
};

test("nodes may hang as deep as they like, and what is kept hangs no deeper than any reader walks", async () => {
  const nodes = Array.from({ length: 20_000 }, (_, i) =>
    i < 19_999 ? { children: [i + 1], translation: [0.5, 0, 0] } : { mesh: 0 },
  );
  const found = await bringInFile(
    { name: "deep.glb", bytes: glbOf({ ...TRIANGLE, nodes, scenes: [{ nodes: [0] }] }) },
    [],
  );
  expect(found.bounds.min[0]).toBeCloseTo(9999.5, 3);
  expect(found.bytes.length).toBeLessThan(10_000);
  const circle = [{ children: [1] }, { children: [0], mesh: 0 }];
  const hanging = bringInFile({ name: "circle.glb", bytes: glbOf({ ...TRIANGLE, nodes: circle }) }, []);
  await expect(hanging).rejects.toThrow("its description does not fit its contents (nodes 0)");
});

test("numbers without data behind them are refused before any room is made for them", async () => {
  const asking = {
    ...TRIANGLE,
    accessors: [...TRIANGLE.accessors, { componentType: 5125, count: 62_000_000, type: "SCALAR" }],
  };
  const bytes = glbOf({ ...asking, meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }], nodes: [{ mesh: 0 }], scenes: [{ nodes: [0] }] }); // prettier-ignore
  const before = process.cpuUsage();
  await expect(bringInFile({ name: "large.glb", bytes }, [])).rejects.toThrow("(accessors 1)");
  expect(process.cpuUsage(before).user).toBeLessThan(1_000_000);
});

test("one mesh shown by very many nodes is counted each time, whoever reads the file", async () => {
  const accessors = [{ bufferView: 0, componentType: 5126, count: 3, type: "VEC3" }, { bufferView: 1, componentType: 5121, count: 30_000, type: "SCALAR" }]; // prettier-ignore
  const bufferViews = [{ buffer: 0, byteLength: 36 }, { buffer: 0, byteOffset: 64, byteLength: 30_000 }]; // prettier-ignore
  const nodes = Array.from({ length: 2001 }, () => ({ mesh: 0 }));
  const meshes = [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }];
  const json = { accessors, bufferViews, buffers: [{ byteLength: 30_064 }], meshes, nodes };
  const bytes = glbOf({ ...json, scenes: [{ nodes: nodes.map((_, i) => i) }] }, 30_064);
  await expect(readTriangleMesh(bytes, "many.glb")).rejects.toThrow("comes to 20,010,000 triangles");
});

test("of a project's zip only what the scene names is unpacked; damage without end is one sentence", () => {
  const scene = emptyScene("Quay");
  const zip = (text: string, more = {}) => zipSync({ "scene.json": strToU8(text), ...more }, { level: 1 });
  const large = { "assets/unnamed.glb": new Uint8Array(3_000_000), "readme.txt": new Uint8Array(3_000_000) };
  expect(readProject(zip(JSON.stringify(scene), large), "a.zip", 1_000_000).scene).toEqual(scene);
  const bad = JSON.stringify({ ...scene, props: Array.from({ length: 200_000 }, () => 1) });
  expect(() => readProject(zip(bad), "a.zip")).toThrow(/^The scene cannot be read: .{5,120}$/);
  const nested = `${JSON.stringify(scene).slice(0, -1)},"extra":${"[".repeat(100_000)}${"]".repeat(100_000)}}`;
  expect(() => readProject(zip(nested), "a.zip")).toThrow("nested too deeply");
});

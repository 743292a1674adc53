/** Files of every kind that can be brought in. */
import { Document, type Accessor } from "@gltf-transform/core";
import { ALL_EXTENSIONS } from "@gltf-transform/extensions";
import { WebIO } from "@gltf-transform/core";
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { strToU8, zipSync } from "fflate";
import { GuideLine } from "../../line";
import { makeLine } from "../../line/testing";
import { evaluate } from "../../place/testing";
import { emptyScene, sceneSchema } from "../../scene";
import { bringInFile, readTriangleMesh, FORMATS, hashOf, meshesInZip } from "..";
import { boardWithKtx2, evaluateAlone, ktx2Of, makeGlb, packedGlb, PIXEL, placementsInGlb } from "../testing";
import { newell, trianglesOf } from "./soup";

const given = (name: string, bytes: Uint8Array | string) => ({
  name,
  bytes: typeof bytes === "string" ? strToU8(bytes) : bytes,
});

/** Six times the volume within a mesh, and its triangles. */
async function measured(bytes: Uint8Array): Promise<{ triangles: number; volume: number }> {
  const { position: p, index } = await readTriangleMesh(bytes, "x.glb");
  let volume = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    volume +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
      p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  return { triangles: index.length / 3, volume };
}

/** A unit cube as faces of four corners, seen from outside against the clock. */
const CORNERS = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [k & 1, (k >> 1) & 1, k >> 2]);
const SIDES = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]; // prettier-ignore
const CUBE = { triangles: 12, volume: expect.closeTo(6, 5) };

describe("polygons", () => {
  /** A star-shaped outline, mostly with hollows, on a plane of its own. */
  const outlines = fc.record({
    radii: fc.array(evenly(0.2, 2), { minLength: 4, maxLength: 12 }),
    tilt: fc.tuple(...[0, 1, 2].map(() => evenly(-1, 1))),
    at: fc.constantFrom(0, 1000),
  });

  test("are cut into triangles that cover what is inside and nothing else, and face as they do", () => {
    fc.assert(
      fc.property(outlines, ({ radii, tilt: [a, b, c], at }) => {
        const n = radii.length;
        const position = radii.flatMap((r, k) => {
          const [x, y] = [r * Math.cos((2 * Math.PI * k) / n), r * Math.sin((2 * Math.PI * k) / n)];
          return [x + c * y + at, y - a * x, a * x + b * y];
        });
        const corners = radii.map((_, k) => k);
        const whole = newell(position, corners);
        const length = Math.hypot(...whole);
        const cut = trianglesOf(position, corners);
        expect(cut).toHaveLength(3 * (n - 2));
        let area = 0;
        for (let t = 0; t < cut.length; t += 3) {
          const part = newell(position, cut.slice(t, t + 3));
          const along = (part[0] * whole[0] + part[1] * whole[1] + part[2] * whole[2]) / length;
          expect(along).toBeGreaterThan(-1e-6);
          area += Math.hypot(...part);
        }
        expect(area).toBeCloseTo(length, 4);
      }),
      { numRuns: 300 },
    );
  });
});

describe("text formats", () => {
  const v = CORNERS.map((corner) => `v ${corner.join(" ")}`).join("\n");
  const f = SIDES.map((side) => `f ${side.map((k) => k + 1).join(" ")}`).join("\n");

  test("OBJ: a cube, with lines and points beside its faces, counted forwards or backwards", async () => {
    for (const faces of [f, SIDES.map((side) => `f ${side.map((k) => k - 8).join(" ")}`).join("\n")]) {
      const { bytes, brought } = await bringInFile(given("Crate.obj", `${v}\n${faces}\nl 1 2 3\np 4\n`), []);
      expect(await measured(bytes)).toEqual(CUBE);
      expect(brought.mended).toContainEqual({ what: "lines", part: "" });
    }
  });

  test("OBJ: materials and pictures come from beside it, UVs are counted from the top, what is missing is said", async () => {
    const text = `mtllib wood.mtl\nusemtl Wood\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0.25\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n`;
    const mtl = `newmtl Wood\nKd 1 1 1\nmap_Kd -s 1 1 1 maps\\grain.png\n`;
    const others = [given("wood.mtl", mtl), given("Grain.png", PIXEL)];
    const { bytes, brought } = await bringInFile(given("board.obj", text), others);
    expect(brought).toMatchObject({ textures: 1, materials: 1, mended: [] });
    expect((await readTriangleMesh(bytes, "x")).attributes[0].array[1]).toBeCloseTo(0.75);
    const alone = await bringInFile(given("board.obj", text), []);
    expect(alone.brought.mended).toEqual([{ what: "missing", part: "wood.mtl" }]);
  });

  const broken: [string, string, RegExp][] = [
    ["no faces", `${v}\nl 1 2\n`, /“x.obj” holds no faces/],
    ["a corner that is not there", `${v}\nf 1 2 90\n`, /line 9 asks for 90, which is not there/],
    ["a number that is none", "v 0 a 0\nf 1 1 1", /line 1 holds something that is no number/],
  ];
  test.each(broken)("OBJ with %s is refused in a sentence", async (_, text, sentence) => {
    await expect(bringInFile(given("x.obj", text), [])).rejects.toThrow(sentence);
  });

  test("STL and PLY, as text and binary, come to the same cube", async () => {
    const threes = SIDES.flatMap(([a, b, c, d]) => [[a, b, c], [a, c, d]]); // prettier-ignore
    const facets = threes.map(
      (t) =>
        `facet normal 0 0 0 outer loop ${t.map((k) => `vertex ${CORNERS[k].join(" ")}`).join(" ")} endloop endfacet`,
    );
    const stl = new DataView(new ArrayBuffer(84 + 50 * 12));
    stl.setUint32(80, 12, true);
    threes.forEach((t, i) =>
      t.forEach((k, c) => CORNERS[k].forEach((x, a) => stl.setFloat32(84 + 50 * i + 12 + 12 * c + 4 * a, x, true))),
    );
    const head = (format: string) =>
      `ply\nformat ${format} 1.0\ncomment crate\nelement vertex 8\nproperty float x\nproperty double y\nproperty short z\nelement face 6\nproperty list uchar int vertex_indices\nend_header\n`;
    const text = `${head("ascii")}${CORNERS.map((c) => c.join(" ")).join("\n")}\n${SIDES.map((s) => `4 ${s.join(" ")}`).join("\n")}\n`;
    const binary = (little: boolean) => {
      const body = new DataView(new ArrayBuffer(8 * 14 + 6 * 17));
      CORNERS.forEach(([x, y, z], i) => {
        body.setFloat32(14 * i, x, little);
        body.setFloat64(14 * i + 4, y, little);
        body.setInt16(14 * i + 12, z, little);
      });
      SIDES.forEach((side, i) => {
        body.setUint8(112 + 17 * i, 4);
        side.forEach((k, c) => body.setInt32(112 + 17 * i + 1 + 4 * c, k, little));
      });
      const start = strToU8(head(little ? "binary_little_endian" : "binary_big_endian"));
      return Uint8Array.from([...start, ...new Uint8Array(body.buffer)]);
    };
    const files = [
      given("a.stl", `solid crate\n${facets.join("\n")}\nendsolid`),
      given("b.stl", new Uint8Array(stl.buffer)),
      given("c.ply", text),
      given("d.ply", binary(true)),
      given("e.ply", binary(false)),
    ];
    for (const file of files) expect(await measured((await bringInFile(file, [])).bytes)).toEqual(CUBE);
  });
});

describe("glTF", () => {
  const io = () => new WebIO().registerExtensions(ALL_EXTENSIONS);

  /** A lifebuoy of 480 triangles, with normals. */
  function buoy(): Document {
    const document = new Document();
    const buffer = document.createBuffer();
    const [points, normals, index]: [number[], number[], number[]] = [[], [], []];
    for (let i = 0; i <= 16; i++) {
      for (let j = 0; j <= 15; j++) {
        const [a, b] = [(2 * Math.PI * i) / 16, (2 * Math.PI * j) / 15];
        const normal = [Math.cos(a) * Math.cos(b), Math.sin(a), Math.cos(a) * Math.sin(b)];
        normals.push(...normal);
        points.push(0.7 * Math.cos(b) + 0.3 * normal[0], 0.3 * normal[1], 0.7 * Math.sin(b) + 0.3 * normal[2]);
        const k = 16 * i + j;
        if (i < 16 && j < 15) index.push(k, k + 16, k + 17, k, k + 17, k + 1);
      }
    }
    const accessor = (type: "VEC3" | "SCALAR", array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>): Accessor =>
      document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute("POSITION", accessor("VEC3", new Float32Array(points)))
      .setAttribute("NORMAL", accessor("VEC3", new Float32Array(normals)))
      .setIndices(accessor("SCALAR", new Uint16Array(index)));
    document
      .createScene()
      .addChild(document.createNode("Float").setMesh(document.createMesh("Buoy").addPrimitive(primitive)));
    return document;
  }

  test("compressed by Draco or meshopt it comes to the mesh that it was, and is kept so that any reader can read it", async () => {
    const plain = await measured(await io().writeBinary(buoy()));
    const packed = [await packedGlb(buoy(), "draco"), await packedGlb(buoy(), "meshopt")];
    for (const bytes of packed) {
      const { bytes: kept } = await bringInFile(given("ball.glb", bytes), []);
      const found = await measured(kept);
      expect(found.triangles).toBe(plain.triangles);
      expect(found.volume).toBeCloseTo(plain.volume, 2);
      expect(new TextDecoder().decode(kept)).not.toMatch(/draco|meshopt/i);
    }
  });

  test("with its parts in other files it is read together with them, in a zip as well; what is missing is named", async () => {
    const { json, resources } = await io().writeJSON(buoy(), { basename: "ball" });
    const texts = { images: [{ uri: "skin%20a.png" }], textures: [{ source: 0 }], materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }] }; // prettier-ignore
    json.meshes![0].primitives[0].material = 0;
    const main = given("set/ball.gltf", JSON.stringify({ ...json, ...texts }));
    const others = [
      ...Object.entries(resources).map(([name, bytes]) => given(`set/${name}`, bytes)),
      given("set/skin a.png", PIXEL),
    ];
    const { bytes, brought } = await bringInFile(main, others);
    expect(brought.textures).toBe(1);
    expect((await measured(bytes)).triangles).toBe(480);
    const zip = zipSync(Object.fromEntries([main, ...others].map((file) => [file.name, file.bytes])));
    const inside = meshesInZip(given("ball.zip", zip));
    expect((await bringInFile(inside.mains[0], inside.others)).asset).toBe(hashOf(bytes));
    await expect(bringInFile(main, others.slice(0, 1))).rejects.toThrow("“skin a.png” did not come with it");
    await expect(bringInFile(given("a.fbx", "x"), [])).rejects.toThrow(
      "Meshes are read from GLB, glTF, OBJ, STL and PLY",
    );
  });

  test("values that are no numbers count as nothing or are worked out anew, and that is said", async () => {
    const document = buoy();
    const [primitive] = document.getRoot().listMeshes()[0].listPrimitives();
    const uv = new Float32Array(2 * primitive.getAttribute("POSITION")!.getCount()).fill(NaN, 10);
    const accessor = document
      .createAccessor()
      .setType("VEC2")
      .setArray(uv)
      .setBuffer(document.getRoot().listBuffers()[0]);
    primitive.setAttribute("TEXCOORD_0", accessor).getAttribute("NORMAL")!.getArray()![4] = Infinity;
    const found = await bringInFile(given("odd.glb", await io().writeBinary(document)), []);
    expect(found.brought.mended.map(({ what }) => what)).toEqual(["numbers", "normals"]);
    const { attributes } = await readTriangleMesh(found.bytes, "odd.glb");
    expect(attributes[0].array.every((value) => value === 0)).toBe(true);
  });

  test("instances are nodes of their own: what we export instanced comes in again as all that stands there", async () => {
    const bytes = await makeGlb();
    const line = makeLine({ kind: "polyline", knots: [[0, 0, 0], [4, 1, 2]] }); // prettier-ignore
    const prop = { id: "p", name: "Wedge", ...(await bringInFile(given("w.glb", bytes), [])) };
    expect(prop.bytes).toBe(bytes);
    const scene = sceneSchema.parse({ ...emptyScene("Quay"), props: [prop], lines: [line], dressings: [{ id: "d", name: "Row", where: { lines: ["line"] }, what: { entries: [{ prop: "p" }] } }] }); // prettier-ignore
    const placements = evaluate(scene.dressings[0], {
      guides: new Map([["line", new GuideLine(line)]]),
      bounds: new Map([["p", prop.bounds]]),
    });
    const out = await FORMATS.glb.write(
      { scene, dressings: [{ dressing: scene.dressings[0], placements }] },
      new Map([[prop.asset, bytes]]),
    );
    const again = await bringInFile(given("all.glb", out), []);
    expect(again.triangles).toBe(2 * placements.count);
    const places = (found: Awaited<ReturnType<typeof placementsInGlb>>) => found.map(({ position }) => position);
    expect(places(await placementsInGlb(again.bytes))).toEqual(
      places(await placementsInGlb(out)).map((p) => p.map((x) => expect.closeTo(x, 5))),
    );
    expect(again.brought.mended.map(({ what }) => what)).toContain("instances");
  });

  test("KTX2 pictures stay as they are, in what is kept and in what is exported", async () => {
    const found = await bringInFile(given("board.glb", await boardWithKtx2(200, 40, 30)), []);
    const out = await FORMATS.glb.write(...evaluateAlone(found));
    const [texture] = (await io().readBinary(out)).getRoot().listTextures();
    expect(texture.getMimeType()).toBe("image/ktx2");
    expect([...texture.getImage()!]).toEqual([...ktx2Of(200, 40, 30)]);
  });
});

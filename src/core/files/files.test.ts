import { hexOf } from "../place";
import { evaluate } from "../place/testing";
import { InputError } from "../schema";
import { Document } from "@gltf-transform/core";
import { validateBytes } from "gltf-validator";
import { strToU8, unzipSync, zipSync } from "fflate";

import { GuideLine } from "../line";
import { makeLine } from "../line/testing";
import { angleBetween, distance, fromAxisAngle, quatAt, vectorAt } from "../math";
import { emptyScene, parseScene, sceneSchema, type Scene } from "../scene";
import { CSV_COLUMNS } from "./csv";
import { hashOf } from "./assets";
import { stands, type EvaluatedScene } from "./evaluated";
import { plainIO } from "./gltf";
import { makeGlb, placementsInGlb, WEDGE } from "./testing";
import { FORMATS, readProject, readPropFile, splitFile, writeProject, type Assets } from ".";

/** A scene with two props, a smooth line far from the origin and everything that varies. */
async function dressedScene(): Promise<{ evaluated: EvaluatedScene; assets: Assets; scene: Scene }> {
  const plain = await makeGlb({ textured: true });
  const turned = await makeGlb({ matrix: [0, 0, 2, 0, 0, 2, 0, 0, -2, 0, 0, 0, 0.1, 0.2, 0.3, 1] });
  const assets = new Map([plain, turned].map((bytes) => [hashOf(bytes), bytes]));
  const props = await Promise.all(
    [plain, turned].map(async (bytes, i) => ({
      id: `p${i}`,
      name: i === 0 ? "Wedge, red" : 'A "turned" one',
      asset: hashOf(bytes),
      ...(await readPropFile(bytes, "wedge.glb")),
    })),
  );
  const line = makeLine({
    kind: "smooth",
    knots: [
      [5000, 1, -3000],
      [5010, 4, -3003],
      [5014, 2, -2990],
    ],
  });
  const scene = sceneSchema.parse({
    ...emptyScene("Test quay"),
    props,
    lines: [line],
    dressings: [
      {
        id: "d",
        name: "Row",
        where: { lines: ["line"] },
        what: { entries: [{ prop: "p0", count: 2 }, { prop: "p1" }] },
        spacing: { distance: 0.4 },
        variation: { positionOn: true, turnOn: true, sizeOn: true, turnUp: [-3, 3] },
        gaps: { chance: 0.2 },
      },
    ],
  });
  const guides = new Map([["line", new GuideLine(line)]]);
  const bounds = new Map(scene.props.map((prop) => [prop.id, prop.bounds]));
  const placements = evaluate(scene.dressings[0], { guides, bounds });
  return { scene, assets, evaluated: { scene, dressings: [{ dressing: scene.dressings[0], placements }] } };
}

describe("GLB", () => {
  test.each(["glb", "glb-plain"] as const)("%s is valid, and reads back to the same placements", async (format) => {
    const { evaluated, assets } = await dressedScene();
    const bytes = await FORMATS[format].write(evaluated, assets);
    const report = await validateBytes(bytes, { maxIssues: 100 });
    expect(report.issues.numErrors).toBe(0);
    expect(report.issues.messages.filter((message: { severity: number }) => message.severity === 1)).toEqual([]);

    const read = await placementsInGlb(bytes);
    const p = evaluated.dressings[0].placements;
    const expected = Array.from({ length: p.count }, (_, i) => i).filter((i) => stands(p, i));
    expect(read).toHaveLength(expected.length);
    for (const i of expected) {
      const [x, y, z] = vectorAt(p.position, i);
      const at = [p.origin[0] + x, p.origin[1] + y, p.origin[2] + z] as const;
      const nearest = read.reduce((a, b) => (distance(a.position, at) < distance(b.position, at) ? a : b));
      expect(distance(nearest.position, at)).toBeLessThan(1e-4);
      expect(angleBetween(nearest.rotation, quatAt(p.rotation, i))).toBeLessThan(1e-3);
      expect(nearest.scale[0]).toBeCloseTo(p.scale[3 * i], 5);
      expect(nearest.mesh).toBe(evaluated.scene.props[p.prop[i]].name);
    }
  });

  test("props keep their materials and textures, are stored once, and node transforms are worked in", async () => {
    const { evaluated, assets } = await dressedScene();
    const root = (await plainIO().readBinary(await FORMATS.glb.write(evaluated, assets))).getRoot();
    expect(
      root
        .listMeshes()
        .map((mesh) => mesh.getName())
        .sort(),
    ).toEqual(['A "turned" one', "Wedge, red"]);
    const red = root.listMeshes().find((mesh) => mesh.getName() === "Wedge, red")!;
    expect(red.listPrimitives()[0].getMaterial()!.getBaseColorTexture()!.getImage()!.length).toBeGreaterThan(50);
    const turned = root.listMeshes().find((mesh) => mesh.getName() !== "Wedge, red")!;
    const { min, max } = evaluated.scene.props[1].bounds;
    const positions = turned.listPrimitives()[0].getAttribute("POSITION")!;
    expect(positions.getMin([])).toEqual(min.map((x) => expect.closeTo(x, 5)));
    expect(positions.getMax([])).toEqual(max.map((x) => expect.closeTo(x, 5)));
  });

  test("a scene without placements is a valid empty file; a missing asset is named", async () => {
    const { evaluated, assets, scene } = await dressedScene();
    const empty = await FORMATS.glb.write({ scene, dressings: [] }, assets);
    expect((await validateBytes(empty)).issues).toMatchObject({ numErrors: 0, numWarnings: 0 });
    await expect(FORMATS.glb.write(evaluated, new Map())).rejects.toThrow("“Wedge, red” is missing");
  });
});

test("CSV and JSON hold a row for each placement that is not blank, in world coordinates", async () => {
  const { evaluated, assets } = await dressedScene();
  const p = evaluated.dressings[0].placements;
  const rows = new TextDecoder()
    .decode(await FORMATS.csv.write(evaluated, assets))
    .trimEnd()
    .split("\r\n");
  expect(rows[0]).toBe(CSV_COLUMNS);
  expect(rows).toHaveLength(1 + p.count - p.blanks);
  expect(rows.some((row) => row.includes('"A ""turned"" one"'))).toBe(true);
  const json = JSON.parse(new TextDecoder().decode(await FORMATS.json.write(evaluated, assets)));
  expect(json.dressings[0].count).toBe(p.count - p.blanks);
  const first = json.dressings[0].placements.find((row: { key: string }) => row.key === hexOf(p.key[0]));
  if (first) expect(first.position[0]).toBeCloseTo(p.origin[0] + p.position[0], 4);
});

describe("reading a prop", () => {
  test("gives its box in the file's own scene and its triangles", async () => {
    const quarter = fromAxisAngle([0, 1, 0], Math.PI / 2);
    expect(quarter[1]).toBeCloseTo(Math.SQRT1_2);
    const file = await readPropFile(
      await makeGlb({ matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 3, 0, 0, 1] }),
      "a.glb",
    );
    expect(file.bounds.min[0]).toBeCloseTo(2.8);
    expect(file.bounds.max[1]).toBeCloseTo(0.5);
    expect(file.triangles).toBe(2);
  });

  const broken: [string, () => Promise<Uint8Array>, RegExp][] = [
    ["a text", async () => strToU8("solid buoy"), /“x.glb” is not a GLB file/],
    ["nothing", async () => new Uint8Array(0), /not a GLB file/],
    ["a truncated file", async () => (await makeGlb()).slice(0, -40), /cut short: it should have .* bytes/],
    ["one cut in its description", async () => (await makeGlb()).slice(0, 30), /cut short/],
    ["a mesh without positions", async () => makeGlb({ positions: null }), /“Wedge” has no vertex positions/],
    [
      "a mesh with NaN",
      async () => makeGlb({ positions: WEDGE.map((x, i) => (i === 4 ? NaN : x)) }),
      /vertex of “Wedge” \(number 2\) has a position that is no number/,
    ],
    [
      "a file of another version",
      async () => {
        const b = await makeGlb();
        b[4] = 1;
        return b;
      },
      /version 1/,
    ],
    [
      "garbage in its description",
      async () => {
        const b = await makeGlb();
        b.fill(64, 20, 60);
        return b;
      },
      /description is damaged/,
    ],
  ];
  test.each(broken)("refuses %s in a sentence", async (_, make, sentence) => {
    const error = await readPropFile(await make(), "x.glb").catch((e: unknown) => e);
    expect(error).toBeInstanceOf(InputError);
    expect((error as Error).message).toMatch(sentence);
  });

  test("cutting or garbling a file anywhere never gives anything but a sentence", async () => {
    const whole = await makeGlb({ textured: true });
    for (let k = 1; k <= 40; k++) {
      const cut = whole.slice(0, Math.floor((whole.length * k) / 41));
      await expect(readPropFile(cut, "x.glb")).rejects.toBeInstanceOf(InputError);
      const garbled = whole.slice();
      garbled[20 + ((k * 97) % 600)] ^= 0xff;
      const result = await readPropFile(garbled, "x.glb").catch((e: unknown) => e);
      if (result instanceof Error) expect(result).toBeInstanceOf(InputError);
    }
  });
});

describe("a project as one file", () => {
  test("comes back as it was, and the same project gives the same bytes", async () => {
    const { scene, assets } = await dressedScene();
    const zip = writeProject(scene, assets);
    const read = readProject(zip, "quay.zip");
    expect(read.scene).toEqual(scene);
    expect([...read.assets.keys()].sort()).toEqual([...assets.keys()].sort());
    expect(writeProject(read.scene, read.assets)).toEqual(zip);
  });

  test("is refused in a sentence when it is not whole", async () => {
    const { scene, assets } = await dressedScene();
    const entries = unzipSync(writeProject(scene, assets));
    const read = (change: (files: Record<string, Uint8Array>) => void) => () => {
      const files = { ...entries };
      change(files);
      return readProject(zipSync(files), "quay.zip");
    };
    const asset = Object.keys(entries).find((path) => path.startsWith("assets/"))!;
    const withScene = (edit: (json: Record<string, unknown>) => void) =>
      read((files) => {
        const json = JSON.parse(new TextDecoder().decode(files["scene.json"]));
        edit(json);
        files["scene.json"] = strToU8(JSON.stringify(json));
      });
    expect(() => readProject(strToU8("hello"), "quay.zip")).toThrow("“quay.zip” is not a project file");
    expect(read((files) => delete files["scene.json"])).toThrow("no scene.json");
    expect(read((files) => delete files[asset])).toThrow(/the file of the prop “.*” \(assets\/.*\) is missing/);
    expect(read((files) => (files[asset] = strToU8("x")))).toThrow("not the one that was saved");
    expect(read((files) => (files["scene.json"] = strToU8("{")))).toThrow("is no JSON");
    expect(withScene((json) => (json.version = 99))).toThrow("newer Clothesline (version 99");
    expect(withScene((json) => delete json.version)).toThrow("no version number");
    expect(withScene((json) => (json.name = ""))).toThrow("name: a name needs at least one letter");
    expect(() => readProject(writeProject(scene, assets), "quay.zip", 100)).toThrow("unpacks to more than");
  });
});

describe("scenes written by hand", () => {
  test("get every default, and lines without a number get the next free one", () => {
    const knots = [{ position: [0, 0, 0] }, { position: [1, 0, 0] }];
    const scene = parseScene({
      version: 1,
      name: "By hand",
      lines: [
        { id: "a", name: "A", kind: "polyline", knots },
        { id: "b", name: "B", kind: "hanging", number: 4, knots },
      ],
      dressings: [{ id: "d", name: "D", where: { lines: ["a"] } }],
    });
    expect(scene.lines.map((line) => line.number)).toEqual([5, 4]);
    expect(scene.dressings[0].spacing.distance).toBe(1);
  });

  test("with the same id twice, a NaN or a range the wrong way round are refused, with the field", () => {
    const base = { version: 1, name: "x" };
    const d = { id: "d", name: "D" };
    expect(() => parseScene({ ...base, dressings: [d, d] })).toThrow("dressings[1].id: “d” is used twice");
    expect(() => parseScene({ ...base, dressings: [{ ...d, fit: { up: NaN } }] })).toThrow("dressings[0].fit.up");
    expect(() => parseScene({ ...base, dressings: [{ ...d, variation: { size: [2, 1] } }] })).toThrow(
      "lies above its upper end",
    );
    expect(() => parseScene([])).toThrow("This is not a scene");
  });
});

test("a file of several meshes is parted into one file each, where they stand; together they are the whole", async () => {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene();
  for (const [name, x] of [
    ["Left", -3],
    ["Right", 4],
  ] as const) {
    const position = document.createAccessor().setType("VEC3").setArray(WEDGE.slice()).setBuffer(buffer);
    const mesh = document.createMesh().addPrimitive(document.createPrimitive().setAttribute("POSITION", position));
    scene.addChild(document.createNode(name).setMesh(mesh).setTranslation([x, 0, 0]));
  }
  const whole = await plainIO().writeBinary(document);
  const parts = await splitFile(whole, "two.glb");
  expect(parts.map(({ name }) => name)).toEqual(["Left", "Right"]);
  const [left, right, all] = await Promise.all(
    [parts[0].bytes, parts[1].bytes, whole].map((bytes) => readPropFile(bytes, "part.glb")),
  );
  expect(left.bounds.max[0]).toBeCloseTo(-2.8, 5);
  expect(right.bounds.min[0]).toBeCloseTo(3.8, 5);
  expect(left.triangles + right.triangles).toBe(all.triangles);
});

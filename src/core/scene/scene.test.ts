import { evaluate } from "../place/testing";
import { sizeOf, type PropBounds } from "../mesh";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { writeCsv } from "../files/csv";
import { GuideLine } from "../line";
import { drawsOfRow, lineNumberOfKey, placeOfKey, rowOfKey, keyOfHex } from "../place/keys";
import { FLAG } from "../place";
import { z } from "zod";
import { dressLine, emptyScene, freeName, newId, nextLineNumber } from "./make";
import { parseScene } from "./parse";
import { placingBounds, preparationMatrix, preparationSchema, preparedBounds, turnedByQuarter } from "./prepare";
import { SCENE_VERSION, sceneSchema, type Prop } from "./schema";
import { harbourScene } from "./testing";

const asJson = (value: unknown) => JSON.parse(JSON.stringify(value)) as Record<string, unknown>;

describe("reading", () => {
  test("a scene written and read again is the same, and reading it twice changes nothing more", () => {
    const scene = harbourScene();
    const read = parseScene(asJson(scene));
    expect(read).toEqual(scene);
    expect(parseScene(asJson(read))).toEqual(read);
  });

  test("what has a default may be left out", () => {
    const scene = parseScene({
      version: 1,
      name: "Sparse",
      dressings: [{ id: "d", name: "D" }],
      lines: [
        { id: "l", name: "L", kind: "polyline", knots: [{ position: [0, 0, 0] }, { position: [1, 0, 0] }] },
        { id: "m", name: "M", kind: "smooth", number: 7, knots: [{ position: [0, 0, 0] }] },
        { id: "n", name: "N", kind: "smooth", knots: [{ position: [0, 0, 0] }] },
      ],
    });
    expect(scene.lines.map((line) => line.number)).toEqual([8, 7, 9]);
    expect(scene.dressings[0].spacing).toMatchObject({ by: "distance", distance: 1, remainder: "end", slide: 0 });
    expect(scene.dressings[0].variation).toMatchObject({ positionOn: false, turnOn: false, sizeOn: false });
    expect(scene.dressings[0].gaps.chance).toBe(0);
  });

  const wrong: [what: string, change: (scene: Record<string, never>) => unknown, sentence: RegExp][] = [
    ["no object", () => [1, 2], /does not hold an object/],
    ["nothing at all", () => null, /does not hold an object/],
    ["no version", (scene) => ({ ...scene, version: undefined }), /no version number/],
    ["half a version", (scene) => ({ ...scene, version: 1.5 }), /no version number/],
    [
      "a newer version",
      (scene) => ({ ...scene, version: 15 }),
      /newer Clothesline \(version 15; this one reads up to 14\)/,
    ],
    ["no name", (scene) => ({ ...scene, name: "  " }), /name: a name needs at least one letter/],
    [
      "a spacing below zero",
      (scene) => ({ ...scene, dressings: [{ id: "d", name: "D", spacing: { distance: -2 } }] }),
      /dressings\[0\]\.spacing\.distance: .*0\.0001; it is -2/,
    ],
    [
      "a knot that is no number",
      (scene) => ({ ...scene, lines: [{ id: "l", name: "L", kind: "smooth", knots: [{ position: [0, "x", 0] }] }] }),
      /lines\[0\]\.knots\[0\]\.position\[1\]: .*; it is "x"/,
    ],
    [
      "an unknown kind of line",
      (scene) => ({ ...scene, lines: [{ id: "l", name: "L", kind: "knitted", knots: [] }] }),
      /lines\[0\]/,
    ],
    [
      "an id used twice",
      (scene) => ({ ...scene, dressings: [...(scene.dressings as never[]), ...(scene.dressings as never[])] }),
      /“buoys” is used twice/,
    ],
    [
      "a line number used twice",
      (scene) => ({ ...scene, lines: (scene.lines as object[]).map((line) => ({ ...line, number: 3 })) }),
      /3 is used twice/,
    ],
    [
      "a range the wrong way round",
      (scene) => ({ ...scene, dressings: [{ id: "d", name: "D", variation: { size: [2, 1] } }] }),
      /lower end of the range lies above/,
    ],
    ["an asset that is no hash", (scene) => ({ ...scene, props: [{ id: "p", asset: "../x" }] }), /props\[0\]/],
  ];
  test.each(wrong)("%s is refused with a sentence that says where", (_, change, sentence) => {
    expect(() => parseScene(change(asJson(harbourScene()) as Record<string, never>))).toThrow(sentence);
  });

  test("bending that was left on over a surface stays without effect in scenes of version 10, and along lines goes on", () => {
    const dressing = (kind: string) => ({ id: kind, name: kind, where: { kind }, fit: { bend: true } });
    const old = { version: 10, name: "S", dressings: ["along", "over", "pinned"].map(dressing) };
    expect(parseScene(old).dressings.map(({ fit }) => fit.bend)).toEqual([true, false, false]);
    expect(parseScene({ ...old, version: 11 }).dressings.map(({ fit }) => fit.bend)).toEqual([true, true, true]);
  });

  test("whatever is thrown at it, it answers with a scene or with a sentence", () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.constantFrom("lines", "props", "dressings", "views", "version"), (value, part) => {
        try {
          sceneSchema.parse(parseScene({ ...asJson(harbourScene()), [part]: value }));
        } catch (error) {
          expect((error as Error).name).toBe("InputError");
        }
      }),
    );
  });
});

describe("making", () => {
  test("a free name is taken by nobody and begins like the wanted one", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom<string>("Rope", "Rope 2", "Rope 3", "Line 7", "Quay")), (taken) => {
        for (const wanted of ["Rope", "Line 7", "Sail"]) {
          const name = freeName(wanted, taken);
          expect(taken).not.toContain(name);
          expect(name.startsWith(wanted.replace(/ \d+$/, ""))).toBe(true);
          if (!taken.includes(wanted)) expect(name).toBe(wanted);
        }
      }),
    );
  });

  test("ids differ, and a new line's number is above all others", () => {
    expect(new Set(Array.from({ length: 1000 }, newId)).size).toBe(1000);
    expect(nextLineNumber(harbourScene())).toBe(3);
    expect(nextLineNumber({ lines: [] })).toBe(1);
  });

  const propOf = (bounds: PropBounds): Prop => ({ ...harbourScene().props[0], bounds });
  const box = fc
    .tuple(
      ...([0, 1, 2] as const).map(() => fc.tuple(fc.double({ min: -3, max: 3 }), fc.double({ min: 0.01, max: 5 }))),
    )
    .map((axes): PropBounds => {
      const [x, y, z] = axes.map(([low]) => low);
      const [w, h, d] = axes.map(([low, size]) => low + size);
      return { min: [x, y, z], max: [w, h, d] };
    })
    .filter(({ min, max }) => [...min, ...max].every(Number.isFinite));

  test("a new dressing has no chance in it, and its props do not overlap", () => {
    fc.assert(
      fc.property(box, (bounds) => {
        const dressing = dressLine("d", "D", "l", [propOf(bounds)]);
        const [breadth, , depth] = sizeOf(bounds);
        const along = dressing.stance.turnUp === 0 ? depth : breadth;
        expect(dressing.spacing.distance).toBeGreaterThan(along * 1.4);
        expect(dressing.spacing.distance).toBeLessThan(along * 1.6);
        expect(dressing.gaps.chance).toBe(0);
        const { positionOn, turnOn, sizeOn } = dressing.variation;
        expect([positionOn, turnOn, sizeOn]).toEqual([false, false, false]);
      }),
    );
  });

  test("what reaches only down from its origin hangs, what stands on it stands; flat things go broadside", () => {
    const pennant = propOf({ min: [-0.2, -0.5, -0.01], max: [0.2, 0, 0.01] });
    const bollard = propOf({ min: [-0.25, 0, -0.25], max: [0.25, 0.6, 0.25] });
    expect(dressLine("d", "D", "l", [pennant]).stance).toMatchObject({ meetsUp: "top", turnUp: Math.PI / 2 });
    expect(dressLine("d", "D", "l", [bollard]).stance).toMatchObject({ meetsUp: "bottom", turnUp: 0 });
    expect(dressLine("d", "D", "l", [pennant, bollard]).stance).toMatchObject({ meetsUp: "bottom", turnUp: 0 });
    expect(dressLine("d", "D", "l", []).spacing.distance).toBe(1);
  });
});

describe("scenes saved by earlier versions", () => {
  const file = (name: string) => readFileSync(join("src/core/scene/saved", name), "utf8");

  test.each([1, 2, 3, 4])("a saved file of version %d opens, and everything stands where it stood", (version) => {
    const scene = parseScene(JSON.parse(file(`regatta-${version}.json`)));
    expect(scene.version).toBe(SCENE_VERSION);
    expect(scene.dressings[0].stance.meetsUp).toBe("top");
    expect(scene.dressings[1].stance.meetsUp).toBe("bottom");
    const bounds = new Map(scene.props.map((prop) => [prop.id, placingBounds(prop)]));
    const mixes = new Map(scene.mixes.map((mix) => [mix.id, mix.props]));
    const guides = new Map(scene.lines.map((line) => [line.id, new GuideLine(line)]));
    const dressings = scene.dressings.map((dressing) => ({
      dressing,
      placements: evaluate(dressing, { guides, bounds, mixes }),
    }));
    const rows = (csv: string) =>
      csv
        .trim()
        .split("\r\n")
        .slice(1)
        .map((row) => row.split(","));
    const now = rows(new TextDecoder().decode(writeCsv({ scene, dressings })));
    const then = rows(file(`regatta-${version}.csv`));
    expect(now.length).toBe(then.length);
    then.forEach((row, i) => {
      const key = keyOfHex(now[i][1]);
      // What a slot draws by is what it was known by then.
      expect(drawsOfRow(lineNumberOfKey(key), rowOfKey(key))(placeOfKey(key))).toBe(Number(row[1]));
      expect([now[i][0], now[i][2], now[i][3]]).toEqual([row[0], row[2], row[3]]);
      row
        .slice(4, -1)
        .forEach((value, k) => expect(Math.abs(Number(now[i][4 + k]) - Number(value))).toBeLessThan(1e-5));
      expect(Number(now[i].at(-1)) | FLAG.finding).toBe(Number(row.at(-1)) | FLAG.finding);
    });
  });
});

test("what version 9 knew by its patch's surface is known by its place in the layout from 10 on; all else stays", () => {
  const peg = { on: "hill", turn: 1 };
  const tie = { kind: "placement", dressing: "p", key: "3a00000000000007", stood: { position: [0, 0, 0], rotation: [0, 0, 0, 1] } }; // prettier-ignore
  const dressing = (id: string, kind: string) => ({
    id,
    name: id,
    where: { kind, surfaces: ["hill"] },
    pegs: { "3a00000000000007": peg, fff0000000000001: { ...peg, point: [0, 0, 0], added: true } },
  });
  const knots = [{ position: [0, 0, 0], held: tie }, { position: [1, 0, 0], held: { ...tie, dressing: "o" } }]; // prettier-ignore
  const old = {
    ...emptyScene("Old"),
    version: 9,
    lines: [{ id: "l", name: "L", number: 1, kind: "polyline", knots }],
    dressings: [dressing("p", "patch"), dressing("o", "over")],
  };
  const { dressings, lines } = parseScene(old);
  expect(dressings.map(({ pegs }) => Object.keys(pegs).sort())).toEqual([
    ["0000000000000007", "fff0000000000001"],
    ["3a00000000000007", "fff0000000000001"],
  ]);
  expect(lines[0].knots.map(({ held }) => held?.kind === "placement" && held.key)).toEqual([
    "0000000000000007",
    "3a00000000000007",
  ]);
  expect(() => parseScene({ ...old, lines: "none" })).toThrow(/lines/);
});

describe("preparing", () => {
  const prop = (prepared: object) => ({
    bounds: { min: [-1, 0, -3], max: [2, 5, 4] } as PropBounds,
    prepared: preparationSchema.parse(prepared),
  });

  test("four quarter turns about any direction come back; each keeps the box's size but for the order, and the pivot's place", () => {
    for (const about of ["up", "front", "left"] as const) {
      let prepared = preparationSchema.parse({ pivot: "bottom", size: 2 });
      for (let k = 0; k < 4; k++) {
        prepared = turnedByQuarter(prepared, about);
        const { min, max } = preparedBounds(prop(prepared));
        expect([0, 1, 2].map((i) => max[i] - min[i]).sort((a, b) => a - b)).toEqual([6, 10, 14]);
        expect([min[1], min[0] + max[0], min[2] + max[2]].map((v) => v + 0)).toEqual([0, 0, 0]);
        if (k < 3) expect([prepared.front, prepared.up]).not.toEqual(["+z", "+y"]);
      }
      expect(prepared).toMatchObject({ front: "+z", up: "+y" });
    }
  });

  test("the matrix turns front and up to where they belong, keeps the hand and puts the pivot to the origin", () => {
    const made = prop({ front: "-x", up: "+z", size: 3, pivot: "point", point: [1, 2, 3] });
    const m = preparationMatrix(made);
    const moved = (v: readonly number[], w: number) =>
      [0, 1, 2].map((k) => m[4 * k] * v[0] + m[4 * k + 1] * v[1] + m[4 * k + 2] * v[2] + w * m[4 * k + 3] + 0);
    expect(moved([-1, 0, 0], 0)).toEqual([0, 0, 3]);
    expect(moved([0, 0, 1], 0)).toEqual([0, 3, 0]);
    expect(moved([0, -1, 0], 0).map(Math.abs)).toEqual([3, 0, 0]);
    expect(moved([1, 2, 3], 1)).toEqual([0, 0, 0]);
  });
});

test("no number of a scene goes beyond what a scene can be: each schema's numbers have both their ends", () => {
  const unlimited: string[] = [];
  const visit = (schema: unknown, path: string): void => {
    if (typeof schema !== "object" || schema === null) return;
    const { type, minimum, maximum, exclusiveMinimum, ...rest } = schema as Record<string, unknown>;
    const ends = [minimum ?? exclusiveMinimum, maximum];
    if (
      (type === "number" || type === "integer") &&
      !ends.every((end) => typeof end === "number" && Math.abs(end) <= 2 ** 53)
    )
      unlimited.push(path);
    for (const [key, inner] of Object.entries(rest)) visit(inner, `${path}.${key}`);
  };
  visit(z.toJSONSchema(sceneSchema, { io: "input", unrepresentable: "any" }), "scene");
  // How many there are of something in a file is counted, not typed.
  expect(unlimited.filter((path) => !/(triangles|parts|materials|textures|version)$/.test(path))).toEqual([]);
  const far = { ...emptyScene("Far"), lines: [{ id: "l", name: "L", number: 1, kind: "polyline", knots: [{ position: [1e308, 0, 0] }, { position: [-1e308, 0, 0] }] }] }; // prettier-ignore
  expect(() => parseScene(far)).toThrow(/lines\[0\]\.knots\[0\]\.position\[0\]/);
});

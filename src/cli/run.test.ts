/** The command line as it is typed, without a process of its own; `tests/outside.spec.ts` starts the real one. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { placementsInGlb } from "@/core/files/testing";
import { run } from "./run";

let folder: string;
/** Dressings of all kinds; the whole demo takes long. */
const FEW = [
  "quay-bunting",
  "bollards",
  "race-buoys",
  "lamp-posts",
  "lavender",
  "catch",
  "buoy-studs",
  "loose-baskets",
];

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "clothesline-"));
  expect(await typed("demo", "--out", folder)).toMatchObject({ code: 0, error: "" });
  const file = join(folder, "scene.json");
  const scene = JSON.parse(readFileSync(file, "utf8")) as { dressings: { id: string }[] };
  scene.dressings = scene.dressings.filter(({ id }) => FEW.includes(id));
  expect(scene.dressings).toHaveLength(FEW.length);
  writeFileSync(file, JSON.stringify(scene));
});
afterAll(() => rmSync(folder, { recursive: true }));

async function typed(...argv: string[]): Promise<{ code: number; out: string; error: string }> {
  let [out, error] = ["", ""];
  const code = await run(argv, {
    out: (written) => void (out += typeof written === "string" ? written : new TextDecoder().decode(written)),
    error: (sentence) => void (error += sentence),
  });
  return { code, out, error };
}

test("place gives the same placements as CSV, JSON and GLB; one dressing can be asked for", async () => {
  const csv = await typed("place", folder);
  expect(csv.code).toBe(0);
  const rows = csv.out.trim().split("\r\n").slice(1);
  expect(rows.length).toBeGreaterThan(100);
  const json = join(folder, "out.json");
  expect((await typed("place", folder, "--out", json)).code).toBe(0);
  const { dressings } = JSON.parse(readFileSync(json, "utf8")) as { dressings: { name: string; count: number }[] };
  expect(dressings.reduce((sum, dressing) => sum + dressing.count, 0)).toBe(rows.length);
  const glb = join(folder, "further", "out.glb");
  expect((await typed("place", join(folder, "scene.json"), "--out", glb)).code).toBe(0);
  expect(await placementsInGlb(new Uint8Array(readFileSync(glb)))).toHaveLength(rows.length);
  const bollards = (await typed("place", folder, "--dressing", "Bollards")).out.trim().split("\r\n").slice(1);
  expect(bollards).toEqual(rows.filter((row) => row.startsWith("Bollards,")));
});

describe("frames", () => {
  let moving: string;
  beforeAll(() => {
    const scene = JSON.parse(readFileSync(join(folder, "scene.json"), "utf8"));
    scene.time = { length: 2, framesPerSecond: 5 };
    const keyframes = [0, 2].map((at) => ({ at, value: at, go: "straight" }));
    scene.dressings.find(({ name }: { name: string }) => name === "Bollards").courses = { "fit/along": { keyframes } };
    moving = join(folder, "moving.json");
    writeFileSync(moving, JSON.stringify(scene));
  });
  const bollards = (...more: string[]) => typed("place", moving, "--dressing", "Bollards", ...more);
  const rowsOf = (csv: string) => csv.trim().split("\r\n").slice(1);

  test("one frame is what it is among others, in CSV, JSON or a file each; without one it is the first", async () => {
    const all = rowsOf((await bollards("--frames", "0..10")).out);
    const alone = await Promise.all([0, 5, 10].map(async (n) => rowsOf((await bollards("--frame", `${n}`)).out)));
    const of = (n: number) => all.flatMap((row) => (row.startsWith(`${n},`) ? row.slice(`${n},`.length) : []));
    expect([of(0), of(5), of(10)]).toEqual(alone);
    expect(rowsOf((await bollards()).out)).toEqual(alone[0]);
    const along = (rows: string[]) => Number(rows[0].split(",")[4]);
    expect(along(alone[1]) - along(alone[0])).toBeCloseTo(1, 5);
    expect(all.length).toBe(11 * alone[0].length);

    const json = join(folder, "frames.json");
    expect((await bollards("--frames", "4..5", "--out", json)).code).toBe(0);
    const { frames } = JSON.parse(readFileSync(json, "utf8"));
    expect(frames.map(({ frame, dressings }: never) => [frame, dressings[0]["count"]])).toEqual([4, 5].map((n) => [n, alone[0].length])); // prettier-ignore
    expect((await bollards("--frames", "9..10", "--out", join(folder, "each.###.csv"))).code).toBe(0);
    expect(rowsOf(readFileSync(join(folder, "each.010.csv"), "utf8"))).toEqual(alone[2]);

    // In a GLB they are an animation, of surfaces too where these are asked for.
    const moving = join(folder, "moving.glb");
    expect((await bollards("--frames", "0..10", "--every", "5", "--surfaces", "--out", moving)).code).toBe(0);
    const bytes = readFileSync(moving);
    const told = JSON.parse(bytes.subarray(20, 20 + bytes.readUInt32LE(12)).toString()) as {
      animations: { channels: { target: { node: number; path: string } }[] }[];
      nodes: { name: string }[];
    };
    const targets = told.animations[0].channels.map(({ target }) => `${told.nodes[target.node].name} ${target.path}`);
    expect(targets.filter((name) => /^Bollard [0-9a-f]{16} translation$/.test(name))).toHaveLength(alone[0].length);
    expect(targets).toContain("Water weights");
  });

  test("frames that there are not, or that cannot be in one file, are told", async () => {
    const wrong: [string[], RegExp][] = [
      [["--frame", "11"], /There is no frame 11; the scene has frames 0 to 10/],
      [["--frame", "-1"], /--frame/],
      [["--frames", "3..99"], /no frame 99/],
      [["--frames", "5..2"], /end before they begin/],
      [["--frames", "5"], /write them as 0\.\.240/],
      [["--frames", "0..2", "--frame", "1"], /do not go together/],
      [["--frames", "0..99", "--out", join(folder, "x.glb")], /no frame 99/],
      [["--frames", "0..2", "--every", "x", "--out", join(folder, "x.glb")], /not a frame's number/],
    ];
    for (const [args, sentence] of wrong) {
      const { code, out, error } = await bollards(...args);
      expect([code, out]).toEqual([2, ""]);
      expect(error).toMatch(sentence);
    }
  });
});

test("check finds nothing in what stands well, and ends with 1 where there is something", async () => {
  expect(await typed("check", folder)).toEqual({ code: 0, out: "[]\n", error: "" });
  const scene = JSON.parse(readFileSync(join(folder, "scene.json"), "utf8"));
  scene.dressings[1].spacing.distance = 0.3;
  const crowded = join(folder, "crowded.json");
  writeFileSync(crowded, JSON.stringify(scene));
  const found = await typed("check", crowded);
  expect(found.code).toBe(1);
  expect(JSON.parse(found.out)[0]).toMatchObject({ check: "too-close", dressing: "bollards" });
});

test("what is wrong is said in one line, with exit code 2, and nothing is written", async () => {
  const wrong: [string[], RegExp][] = [
    [["place", "nowhere"], /there is no file “nowhere”/],
    [["place"], /place needs a SCENE/],
    [["place", folder, "more"], /“more” is one word too many/],
    [["place", folder, "--dressing", "Sails"], /There is no dressing “Sails”; the scene has “Quay bunting”/],
    [["place", folder, "--out", "x.obj"], /ends in none of/],
    [["place", folder, "--loud"], /--loud/],
    [["fly"], /there is no command “fly”/],
    [["place", "package.json"], /has no version number/],
  ];
  for (const [args, sentence] of wrong) {
    const { code, out, error } = await typed(...args);
    expect(error).toMatch(sentence);
    expect(error.trim().split("\n")).toHaveLength(1);
    expect([code, out]).toEqual([2, ""]);
  }
  expect(await typed("--help")).toMatchObject({ code: 0, error: "" });
  expect(await typed()).toMatchObject({ code: 2, error: "" });
});

test("the schema printed is the one in the documents", async () => {
  expect((await typed("schema")).out).toBe(readFileSync("docs/scene.schema.json", "utf8"));
});

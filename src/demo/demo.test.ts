import { validateBytes } from "gltf-validator";
import { hashOf, readPropFile } from "@/core/files";
import { isMoving, parseScene } from "@/core/scene";
import { Engine } from "@/engine/engine";
import { evaluateScene } from "@/engine/jobs";
import { changed, readKnown, summaryOf, TASK, writeKnown, type Summary } from "@/engine/known/summary";
import { demoScene } from ".";

/** Remembers what does not change from one test to the next. */
const engine = new Engine();

test("the demo is a valid scene of its own files, with props and dressings enough, and nothing to be found wrong", async () => {
  const { scene, assets } = await demoScene();
  expect(parseScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
  expect(scene.props.length).toBeGreaterThanOrEqual(4);
  expect(scene.dressings.length).toBeGreaterThanOrEqual(3);
  for (const { asset } of [...scene.props, ...scene.surfaces]) {
    if (asset !== null) expect(hashOf(assets.get(asset)!)).toBe(asset);
  }
  const { dressings, findings } = await evaluateScene(scene, assets, { poking: true }, engine);
  expect(findings).toEqual([]);
  // One gull flies by itself.
  for (const { dressing, placements } of dressings)
    expect(placements.count - placements.blanks).toBeGreaterThan(dressing.id === "gull-flight" ? 0 : 3);
});

/** By moments and dressings; see `engine/known`. Whoever changes the demo writes it anew by `KNOWN=write npx jest demo`. */
const KNOWN = "src/demo/known.jsonl.gz";

test("all placements are what they were, at several moments", async () => {
  const { scene, assets } = await demoScene();
  const known = readKnown<{ moment: number; id: string; sums: Summary }>(KNOWN);
  const now: typeof known = [];
  for (const moment of [0, 3.1, 7.7]) {
    const { dressings } = await evaluateScene(scene, assets, { moment }, engine);
    for (const { dressing, placements } of dressings) {
      const result = { id: dressing.id, placements, apart: null, findings: [] };
      if (TASK) now.push({ moment, id: dressing.id, sums: summaryOf(result) });
      const before = known.find((one) => one.moment === moment && one.id === dressing.id);
      if (!TASK) expect([moment, dressing.id, changed(result, before?.sums ?? {})]).toEqual([moment, dressing.id, []]);
    }
  }
  if (TASK) writeKnown(KNOWN, now);
});

test("it moves: what travels is elsewhere later, and nothing is to be found wrong then either", async () => {
  const { scene, assets } = await demoScene();
  expect(isMoving(scene)).toBe(true);
  const first = (await evaluateScene(scene, assets, {}, engine)).dressings;
  for (const moment of [3.1, 7.7]) {
    const { dressings, findings } = await evaluateScene(scene, assets, { moment, poking: true }, engine);
    expect(findings).toEqual([]);
    const moved = dressings.filter(
      ({ placements }, i) => placements.position.join() !== first[i].placements.position.join(),
    );
    expect(moved.map(({ dressing }) => dressing.name)).toEqual([
      "Race buoys",
      "Start buoys",
      "Cable baskets",
      "Sail badges",
      "Leech lamps",
      "Belt goods",
      "Gull in flight",
      "Bobbing ducks",
    ]);
  }
});

test("its files are sound GLBs, and what the scene says of a prop is what its file holds", async () => {
  const { scene, assets } = await demoScene();
  for (const bytes of assets.values()) {
    const { issues } = await validateBytes(bytes, { maxIssues: 10 });
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  }
  for (const { name, asset, bounds, triangles } of scene.props) {
    if (asset === null) continue;
    const read = await readPropFile(assets.get(asset)!, name);
    expect(read.triangles).toBe(triangles);
    expect(read.bounds.min).toEqual(bounds.min.map((x) => expect.closeTo(x, 5)));
    expect(read.bounds.max).toEqual(bounds.max.map((x) => expect.closeTo(x, 5)));
  }
});

test("it is the same each time it is made", async () => {
  const [once, again] = [await demoScene(), await demoScene()];
  expect(again.scene).toEqual(once.scene);
  expect([...again.assets.keys()]).toEqual([...once.assets.keys()]);
});

test("what goes into a surface is a finding as soon as that is solid", async () => {
  const { scene, assets } = await demoScene();
  const surfaces = scene.surfaces.map((one) => (one.id === "lifebuoy" ? { ...one, solid: true } : one));
  const floats = { dressing: "Lifebuoy floats", poking: true };
  const { findings, dressings } = await evaluateScene({ ...scene, surfaces }, assets, floats, engine);
  const standing = dressings[0].placements.count - dressings[0].placements.blanks;
  expect(findings).toMatchObject([{ check: "poking", dressing: "lifebuoy-floats", count: standing }]);
  expect(findings[0].worst).toBeGreaterThan(0.05);
});

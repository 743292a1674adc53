/** Props that play their files' clips: stills as three's own mixer has them, in the view and in every file. */
import { AnimationMixer, Box3, LoopOnce, Mesh, Vector3, type Object3D } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { bringInFile } from "@/core/files";
import { raftGlb } from "@/core/files/testing";
import { makeLine } from "@/core/line/testing";
import { stillAt, stillKey, type Placements } from "@/core/place";
import { propSchema, sceneAt, sceneSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "./engine";
import { writeAnimation, writePlacements } from "./jobs";
import { meshesWanted } from "./wanted";

/** Rafts along the jetty whose one half goes up by 2 m and down again, each its own. */
async function rafts() {
  const bytes = await raftGlb();
  const { asset, bounds, triangles, brought } = await bringInFile({ name: "raft.glb", bytes }, []);
  const raft = propSchema.parse({
    id: "raft",
    name: "Raft",
    asset,
    bounds,
    triangles,
    brought,
    prepared: { size: 0.1, pivot: "bottom" },
  });
  const base = harbourScene();
  const one = base.dressings[1];
  const scene: Scene = {
    ...base,
    props: [raft],
    dressings: [
      {
        ...one,
        pegs: {},
        what: { ...one.what, entries: [{ ...one.what.entries[0], prop: "raft" }] },
        stance: { ...one.stance, meetsUp: "pivot" },
        gaps: { ...one.gaps, chance: 0 },
        variation: { ...one.variation, turnOn: false, pose: "own", stills: 8 },
      },
    ],
  };
  return { scene, assets: new Map([[asset, bytes]]), bytes, asset };
}

/** How low each mesh lies, metres. */
function lowest(root: Object3D): number[] {
  const out: number[] = [];
  root.traverse((object) => {
    if (object instanceof Mesh) out.push(new Box3().setFromObject(object, true).min.y);
  });
  return out.sort((a, b) => a - b);
}

/** For each mesh that shows something how far its vertices reach up, metres. */
function reaches(root: Object3D): number[] {
  const out: number[] = [];
  root.updateMatrixWorld(true);
  root.traverse((object) => {
    if (!(object instanceof Mesh) || new Vector3().setFromMatrixScale(object.matrixWorld).x < 1e-3) return;
    const { count } = object.geometry.getAttribute("position");
    const ys = Array.from({ length: count }, (_, v) => object.getVertexPosition(v, new Vector3()).y);
    out.push(Math.max(...ys) - Math.min(...ys));
  });
  return out.sort((a, b) => a - b);
}

test("what is drawn and what is written are the same stills, as far up as the clip has them then; files share them", async () => {
  const { scene, assets, bytes, asset } = await rafts();
  expect(meshesWanted(scene).has(asset)).toBe(true);
  const engine = new Engine();
  await engine.learnFile(asset, bytes);
  const t = 0.9;
  engine.take(sceneAt(scene, t));
  const placements = engine.placements(scene.dressings[0].id)!;
  const { posed, prop, props, origin, position } = placements;
  const drawn = engine.drawn(engine.result(scene.dressings[0].id)!).drawn;
  drawn.pose.forEach((pose, chunk) => {
    for (let k = drawn.from[chunk]; k < drawn.from[chunk + 1]; k++) expect(posed!.pose[drawn.order[k]]).toBe(pose);
  });
  const { from, moment } = posed!.poses;
  const standing = [...prop.keys()].filter((i) => prop[i] < props.length);
  // One half is up by 2 m at the middle of the clip; the mesh is laid flat, and a tenth of its size.
  const wanted = standing.map((i) => 0.1 * 2 * (1 - Math.abs(moment[from[prop[i]] + posed!.pose[i]] - 1))).sort((a, b) => a - b); // prettier-ignore
  expect(new Set(wanted.map((x) => x.toFixed(4))).size).toBeGreaterThan(2);
  expect(engine.stills.size).toBe(8);
  for (const [key, { position }] of engine.stills) {
    const ys = Array.from({ length: position.length / 3 }, (_, v) => position[3 * v + 1]);
    expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(2 * (1 - Math.abs(Number(key.split(" ")[2]) - 1)), 5);
  }
  const glb = await writePlacements(scene, assets, "glb-plain", { moment: t });
  const { scene: read } = await new GLTFLoader().parseAsync(glb.slice().buffer, "");
  const found = reaches(read);
  // Taken by its bottom, each lies on its line: what prepares a prop is worked into its stills too.
  const feet = standing.map((i) => origin[1] + position[3 * i + 1]).sort((a, b) => a - b);
  lowest(read).forEach((y, k) => expect(y).toBeCloseTo(feet[k], 5));
  expect(found).toHaveLength(wanted.length);
  found.forEach((reach, k) => expect(reach).toBeCloseTo(wanted[k], 5));
  const geometries = new Set<string>();
  read.traverse((object) => void (object instanceof Mesh && geometries.add(object.geometry.uuid)));
  expect(geometries.size).toBeLessThanOrEqual(8);
});

test("in an animated file each looks at every frame as the scene has it then", async () => {
  const { scene, assets } = await rafts();
  const frames = 6;
  const glb = await writeAnimation(scene, assets, "glb-plain", [0, frames - 1], { every: 1 });
  const { scene: read, animations } = await new GLTFLoader().parseAsync(glb.slice().buffer, "");
  const mixer = new AnimationMixer(read);
  const action = mixer.clipAction(animations[0]).setLoop(LoopOnce, 1);
  action.clampWhenFinished = true;
  action.play();
  for (const frame of [0, 2, 5]) {
    mixer.setTime(frame / scene.time.framesPerSecond + 1e-4);
    const alone = await writePlacements(scene, assets, "glb-plain", { frame });
    const { scene: then } = await new GLTFLoader().parseAsync(alone.slice().buffer, "");
    const [now, wanted] = [reaches(read), reaches(then)];
    expect(now).toHaveLength(wanted.length);
    now.forEach((reach, k) => expect(reach).toBeCloseTo(wanted[k], 5));
  }
});

/** The rafts as an assembly, used thrice and each time turned another way, beside a raft of its own at a moment of its clip. */
async function fleet() {
  const { scene, ...files } = await rafts();
  const [own] = scene.dressings;
  const [entry] = own.what.entries;
  const inner = { ...own, what: { ...own.what, entries: [entry, { ...entry, id: 1, prop: "skiff" }] } };
  const skiff = { ...scene.props[0], id: "skiff", name: "Skiff" };
  const assembly = { id: "fleet", name: "Fleet", asset: null, bounds: { min: [-1, 0, -1], max: [1, 1, 1] }, triangles: 0, assembly: { lines: scene.lines, dressings: [inner] } }; // prettier-ignore
  const inOwn = (id: string, z: number, more: object) => makeLine({ id, name: id, kind: "polyline", knots: [[0, 0, z], [40, 0, z]], ...more } as never); // prettier-ignore
  const outer = (id: string, prop: string, count: number, variation: object) => ({ id, name: id, where: { lines: [id] }, what: { entries: [{ prop }] }, spacing: { by: "count", count }, variation }); // prettier-ignore
  const whole = sceneSchema.parse({
    ...scene,
    props: [...scene.props, skiff, assembly],
    surfaces: [],
    lines: [inOwn("far", 30, { number: 1 }), inOwn("near", -30, { number: 2 })],
    dressings: [
      outer("far", "fleet", 3, { turnOn: true, turnUp: [-1, 1] }),
      outer("near", "raft", 1, { pose: "still", clipAt: 1 }),
    ],
  });
  return { ...files, scene: whole, alone: { ...scene, props: [...scene.props, skiff], dressings: [inner] } };
}

test("what is in an assembly plays its clip in every use as it does by itself; files have the same stills, flat and nested", async () => {
  const { scene, alone, assets, bytes, asset } = await fleet();
  const t = 0.9;
  const momentsOf = (p: Placements) =>
    [...p.prop.keys()].flatMap((i) => {
      const still = p.prop[i] < p.props.length ? stillAt(p.posed!.poses, p.prop[i], p.posed!.pose[i]) : null;
      return still ? [still.moment] : [];
    });
  const [byItself, engine] = [new Engine(), new Engine()];
  for (const one of [byItself, engine]) await one.learnFile(asset, bytes);
  byItself.take(sceneAt(alone, t));
  engine.take(sceneAt(scene, t));
  const wanted = momentsOf(byItself.placements(alone.dressings[0].id)!);
  const { placements } = engine.result("far")!.apart!;
  expect(momentsOf(placements)).toEqual([...wanted, ...wanted, ...wanted]);
  const { drawn } = engine.drawn(engine.result("far")!);
  drawn.pose.forEach((pose, c) => {
    for (let k = drawn.from[c]; k < drawn.from[c + 1]; k++) expect(placements.posed!.pose[drawn.order[k]]).toBe(pose);
  });
  expect([...engine.stills.keys()]).toEqual(
    expect.arrayContaining([...wanted, 1].map((moment) => stillKey(asset, 0, moment))),
  );
  const up = [...wanted, ...wanted, ...wanted, 1].map((at) => 0.2 * (1 - Math.abs(at - 1))).sort((a, b) => a - b);
  for (const nested of [false, true]) {
    const glb = await writePlacements(scene, assets, "glb-plain", { moment: t, nested });
    const { scene: read } = await new GLTFLoader().parseAsync(glb.slice().buffer, "");
    const found = reaches(read);
    expect(found).toHaveLength(up.length);
    found.forEach((reach, k) => expect(reach).toBeCloseTo(up[k], 5));
  }
});

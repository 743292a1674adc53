/** Props that play their files' clips: stills as three's own mixer has them, in the view and in every file. */
import { AnimationMixer, Box3, LoopOnce, Mesh, Vector3, type Object3D } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { bringInFile } from "@/core/files";
import { raftGlb } from "@/core/files/testing";
import { propSchema, sceneAt, type Scene } from "@/core/scene";
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
  const { moments, stills } = posed!.poses;
  const standing = [...prop.keys()].filter((i) => prop[i] < props.length);
  // One half is up by 2 m at the middle of the clip; the mesh is laid flat, and a tenth of its size.
  const wanted = standing.map((i) => 0.1 * 2 * (1 - Math.abs(moments[stills * prop[i] + posed!.pose[i]] - 1))).sort((a, b) => a - b); // prettier-ignore
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

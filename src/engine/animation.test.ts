/** Animated GLBs, read back by another reader and played by its mixer: everything is where the engine says it is. */
import { AnimationMixer, type Line, LoopOnce, Mesh, Object3D, Quaternion, SkinnedMesh, Vector3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { validateBytes } from "gltf-validator";
import { hashOf } from "@/core/files";
import { makeGlb } from "@/core/files/testing";
import { makeLine } from "@/core/line/testing";
import { squaredToSegment, type Vec3 } from "@/core/math";
import { hexOf } from "@/core/place";
import { addedOn } from "@/core/place/testing";
import { sceneAt, sceneSchema, type Scene, SCENE_VERSION } from "@/core/scene";
import { Engine } from "./engine";
import { writeAnimation, writePlacements } from "./jobs";
import { animationBytes } from "./reckoned";

const course = (...values: unknown[]) => ({
  keyframes: values.map((value, at) => ({ at, value, go: "smooth" })),
  after: "toAndFro",
});

async function movingScene(): Promise<{ scene: Scene; assets: Map<string, Uint8Array> }> {
  const bytes = await makeGlb();
  const assets = new Map([[hashOf(bytes), bytes]]);
  const line = makeLine({ kind: "circle", knots: [[2, 1, 3]], radius: 2 }); // prettier-ignore
  const scene = sceneSchema.parse({
    version: SCENE_VERSION,
    name: "Moving",
    time: { length: 2, framesPerSecond: 12 },
    props: [
      {
        id: "buoy",
        name: "Buoy",
        asset: hashOf(bytes),
        bounds: { min: [-0.2, 0, -0.15], max: [0.2, 0.5, 0.15] },
        triangles: 8,
      },
    ],
    lines: [
      { ...line, id: "ring", number: 1, name: "Ring" },
      {
        ...makeLine({ kind: "smooth", knots: [[-2, 3, 0], [0, 3, 1], [2, 3, 0]], laid: { kind: "surface", on: ["water"] } }), // prettier-ignore
        id: "cord",
        number: 2,
        name: "Cord",
      },
      {
        ...makeLine({ kind: "hanging", knots: [[0, 3, 0], [2, 3, 0]] }), // prettier-ignore
        id: "rope",
        number: 3,
        name: "Rope",
        courses: { sag: course(0.1, 0.9) },
      },
    ],
    surfaces: [
      {
        id: "water",
        name: "Water",
        made: { kind: "bumps", width: 6, depth: 4, height: 0, size: 4 },
        movers: [{ kind: "waves", length: 3, height: 0.5, speed: 1.5 }],
      },
      {
        id: "raft",
        name: "Raft",
        asset: hashOf(bytes),
        scale: 2,
        courses: { position: course([0, 0, 0], [1, 2, 0]), rotation: course([0, 0, 0, 1], [0, 0.6, 0, 0.8]) },
      },
    ],
    dressings: [
      {
        id: "pins",
        name: "Pins",
        where: { kind: "pinned", surfaces: ["water", "raft"] },
        stance: { up: "normal" },
        pegs: {
          ...addedOn("water", { point: [1, 0, 0.5], prop: "buoy" }, { point: [-2, 0, 1], prop: "buoy" }),
        },
      },
      { id: "round", name: "Round", where: { lines: ["ring"] }, spacing: { distance: 1.1, onceIn: 1.5 } },
      { id: "still", name: "Still", where: { lines: ["ring"] }, spacing: { distance: 2 }, fit: { up: 3 } },
      {
        id: "fewer",
        name: "Fewer",
        where: { lines: ["ring"] },
        spacing: { distance: 0.8 },
        courses: { "gaps/chance": course(0, 0.9) },
      },
    ].map((one) => ({ what: { entries: [{ prop: "buoy" }] }, ...one })),
  });
  return { scene, assets };
}

const FRAMES = 24;

const distance = ({ x, y, z }: Vector3, a: Vec3, b: Vec3): number =>
  Math.sqrt(squaredToSegment(x - a[0], y - a[1], z - a[2], b[0] - a[0], b[1] - a[1], b[2] - a[2]));

/** A line's points in the world, as its morph targets make them. */
function shapeNow(line: Line): Vector3[] {
  const { position } = line.geometry.attributes;
  const targets = line.geometry.morphAttributes.position;
  return Array.from({ length: position.count }, (_, v) => {
    const point = new Vector3().fromBufferAttribute(position, v);
    targets!.forEach((target, k) =>
      point.addScaledVector(new Vector3().fromBufferAttribute(target, v), line.morphTargetInfluences![k]),
    );
    return line.localToWorld(point);
  });
}

test.each(["glb", "glb-plain"] as const)(
  "%s: played by another's mixer, all is where it is at that frame",
  async (format) => {
    const { scene, assets } = await movingScene();
    const bytes = await writeAnimation(scene, assets, format, [0, FRAMES - 1], { surfaces: true, lines: true });
    const { issues } = await validateBytes(bytes, { maxIssues: 20 });
    expect(issues.messages.filter(({ severity }: { severity: number }) => severity < 2)).toEqual([]);
    const { scene: read, animations } = await new GLTFLoader().parseAsync(bytes.slice().buffer, "");
    const mixer = new AnimationMixer(read);
    for (const clip of animations) {
      const action = mixer.clipAction(clip).setLoop(LoopOnce, 1).play();
      action.clampWhenFinished = true;
    }
    const nodes = new Map<string, Object3D>();
    read.traverse((object) => {
      const key = object.userData.key as string | undefined;
      if (key !== undefined) nodes.set(`${object.parent!.name} ${key}`, object);
    });
    const engine = new Engine();
    engine.learn(hashOf([...assets.values()][0]), (await import("@/core/files").then((f) => f.readTriangleMesh([...assets.values()][0], "x")))); // prettier-ignore
    const [place, turn, size] = [new Vector3(), new Quaternion(), new Vector3()];
    // What comes and goes does so at once, and has no size between.
    for (let frame = 0; frame < FRAMES - 1; frame++) {
      mixer.setTime((frame + 0.5) / 12);
      for (const [name, node] of nodes)
        if (name.startsWith("Fewer")) expect([0, 1]).toContain(Number(node.scale.x.toFixed(6)));
    }
    for (const frame of [0, 1, 7, 13, 23]) {
      mixer.setTime(frame / 12);
      read.updateMatrixWorld(true);
      engine.take(sceneAt(scene, frame / 12));
      for (const { id, name } of scene.dressings) {
        if (id === "still" && format === "glb") continue;
        const p = engine.placements(id)!;
        for (let i = 0; i < p.count; i++) {
          const node = nodes.get(`${name} ${hexOf(p.key[i])}`);
          if (p.flags[i] & 2) {
            if (node) expect(node.scale.length()).toBe(0);
            continue;
          }
          node!.matrixWorld.decompose(place, turn, size);
          const off = [0, 1, 2].map((k) => place.getComponent(k) - p.origin[k] - p.position[3 * i + k]);
          expect(Math.hypot(...off)).toBeLessThan(3e-4);
          const own = new Quaternion().fromArray(p.rotation, 4 * i);
          expect(turn.angleTo(own)).toBeLessThan(3e-3);
          expect(size.x).toBeCloseTo(p.scale[3 * i], 4);
        }
      }
      // The water's own vertices, by its morph targets.
      const shape = engine.shapeOf("water")!;
      const water = read.getObjectByName("Water") as Mesh;
      let worst = 0;
      for (let v = 0; v < shape.position.length / 3; v++) {
        water.getVertexPosition(v, place);
        for (let k = 0; k < 3; k++)
          worst = Math.max(worst, Math.abs(place.getComponent(k) - shape.position[3 * v + k]));
      }
      expect(worst).toBeLessThan(4e-4);
      for (const [id, name] of [
        ["cord", "Cord"],
        ["rope", "Rope"],
      ]) {
        const line = read.getObjectByName(name) as Line;
        const drawn = engine.drawnLine(id)!;
        const points = shapeNow(line);
        expect(points.length).toBeGreaterThan(4);
        // As a polygon of so many points goes along the curve, or another laid anew.
        for (const point of points) {
          const far = drawn.points.slice(1).map((b, k) => distance(point, drawn.points[k], b));
          expect(Math.min(...far)).toBeLessThan(2e-3);
        }
      }
      const { position, rotation } = sceneAt(scene, frame / 12).surfaces[1];
      const raft = read.getObjectByName("Raft")!;
      expect(raft.position.distanceTo(new Vector3(...position))).toBeLessThan(3e-4);
      expect(raft.quaternion.angleTo(new Quaternion(...rotation))).toBeLessThan(3e-3);
      expect(raft.scale.x).toBe(2);
    }
    const ring = read.getObjectByName("Ring") as Line;
    expect(ring.morphTargetInfluences).toBeUndefined();
    // What closes round ends where it began, which is said once.
    expect(ring.geometry.getAttribute("position").count).toBe(engine.drawnLine("ring")!.points.length - 1);
    expect(read.getObjectByName("Raft")).not.toBeInstanceOf(SkinnedMesh);
    // What stays has no channel, and what goes evenly has few of the moments.
    const tracks = animations.flatMap(({ tracks: all }) => all);
    expect(tracks.some(({ name }) => name.startsWith("Still"))).toBe(false);
    expect(Math.max(...tracks.map(({ times }) => times.length))).toBeLessThanOrEqual(2 * FRAMES);
    expect(bytes.length).toBeLessThan(animationBytes(3000, 200, 60, FRAMES) + 100_000);
  },
);

test("a still GLB has surfaces in the shape of its moment, and winds as they do; without being asked there are none", async () => {
  const { scene, assets } = await movingScene();
  const bytes = await writePlacements(scene, assets, "glb-plain", { moment: 0.7, surfaces: true });
  const { scene: read } = await new GLTFLoader().parseAsync(bytes.slice().buffer, "");
  const engine = new Engine();
  engine.take(sceneAt(scene, 0.7));
  const shape = engine.shapeOf("water")!;
  const { geometry } = read.getObjectByName("Water") as Mesh;
  const places = geometry.getAttribute("position");
  const own = Array.from({ length: places.count }, (_, v) => [places.getX(v), places.getY(v), places.getZ(v)]);
  expect(own.flat()).toEqual([...shape.position]);
  const index = geometry.index!;
  const corners = [0, 1, 2].map((k) =>
    new Vector3().fromBufferAttribute(geometry.getAttribute("position"), index.getX(k)),
  );
  const normal = corners[1].sub(corners[0]).cross(corners[2].sub(corners[0]));
  expect(normal.dot(new Vector3().fromBufferAttribute(geometry.getAttribute("normal"), index.getX(0)))).toBeGreaterThan(
    0,
  );
  const bare = await writePlacements(scene, assets, "glb-plain", { moment: 0.7 });
  const { scene: without } = await new GLTFLoader().parseAsync(bare.slice().buffer, "");
  expect(without.getObjectByName("Water")).toBeUndefined();
});

test("frames that there are not, and forms that hold no animation, are refused in a sentence", async () => {
  const { scene, assets } = await movingScene();
  await expect(writeAnimation(scene, assets, "glb", [0, 25])).rejects.toThrow(/no frame 25/);
  await expect(writeAnimation(scene, assets, "glb", [5, 2])).rejects.toThrow(/end before they begin/);
  await expect(writeAnimation(scene, assets, "csv", [0, 2])).rejects.toThrow(/holds no animation/);
  await expect(writeAnimation(scene, assets, "glb", [0, 2], { every: 0 })).rejects.toThrow(/none/);
  await expect(writeAnimation(scene, assets, "glb", [0, 20], { maxPlacements: 10 })).rejects.toThrow(/placements/);
});

/** Assemblies in files: all that is in them, nested or side by side, each mesh once, in the places where it is shown. */
import type { Node } from "@gltf-transform/core";
import { validateBytes } from "gltf-validator";
import { AnimationMixer, Matrix4, Mesh, Vector3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { hashOf, readProject, writeProject, type Assets } from "@/core/files";
import { plainIO } from "@/core/files/gltf";
import { makeGlb, placementsInGlb } from "@/core/files/testing";
import { hexOf } from "@/core/place";
import type { Scene, Surface } from "@/core/scene";
import { evaluateScene, writeAnimation, writePlacements } from "./jobs";
import { shelves, type Asked } from "./testing-assemblies";

const ODD = { turnOn: true, turnUp: [-3, 3], turnAlong: [-1, 1], sizeOn: true, size: [0.5, 2], mirror: 0.5 };

async function shop(asked: Asked = {}): Promise<{ scene: Scene; assets: Assets }> {
  const bytes = await makeGlb({});
  const scene = shelves({ variation: ODD, ...asked });
  const props = scene.props.map((prop) => (prop.asset === null ? prop : { ...prop, asset: hashOf(bytes) }));
  return { scene: { ...scene, props }, assets: new Map([[hashOf(bytes), bytes]]) };
}

interface Placed {
  corners: Vector3[];
  /** Towards which side each triangle is seen. */
  facing: Vector3[];
}

/** The corners of each placed mesh in the world, by the keys of their nodes. */
async function cornersIn(file: Uint8Array): Promise<Map<string, Placed>> {
  expect((await validateBytes(file)).issues.numErrors).toBe(0);
  const out = new Map<string, Placed>();
  (await plainIO().readBinary(file))
    .getRoot()
    .getDefaultScene()!
    .traverse((node: Node) => {
      const mesh = node.getMesh();
      if (!mesh) return;
      const matrix = new Matrix4().fromArray(node.getWorldMatrix());
      const placed: Placed = { corners: [], facing: [] };
      for (const primitive of mesh.listPrimitives()) {
        const position = primitive.getAttribute("POSITION")!;
        const index = primitive.getIndices()?.getArray() ?? Array.from({ length: position.getCount() }, (_, i) => i);
        const at = (i: number) => new Vector3().fromArray(position.getElement(i, [])).applyMatrix4(matrix);
        for (let t = 0; t < index.length; t += 3) {
          const [a, b, c] = [at(index[t]), at(index[t + 1]), at(index[t + 2])];
          placed.facing.push(b.clone().sub(a).cross(c.clone().sub(a)).multiplyScalar(Math.sign(matrix.determinant())));
          placed.corners.push(a, b, c);
        }
      }
      out.set((node.getExtras() as { key: string }).key, placed);
    });
  return out;
}

/** The middles and extents of corners, which do not hang on the order in which they are written. */
const boxOf = (corners: readonly Vector3[]): number[] =>
  ["x", "y", "z"].flatMap((axis) => {
    const values = corners.map((corner) => corner[axis as "x"]);
    return [Math.min(...values), Math.max(...values), values.reduce((sum, value) => sum + value, 0) / values.length];
  });

test.each([
  ["the same", {}],
  ["varied", { each: "varied" as const }],
  ["bent along their line", { fit: { bend: true } }],
  ["bent in each other", { trays: { bend: true }, variation: { ...ODD, mirror: 0 } }],
  ["with a surface that is part of them", { board: { part: true } }],
  ["varied, with such a surface", { each: "varied" as const, board: { part: true } }],
])("nested nodes are where the same things are side by side, under the same keys: %s", async (_, asked) => {
  const { scene, assets } = await shop(asked);
  const flat = await cornersIn(await writePlacements(scene, assets, "glb-plain"));
  const nested = await cornersIn(await writePlacements(scene, assets, "glb-plain", { nested: true }));
  const { dressings } = await evaluateScene(scene, assets);
  const { key, count } = dressings[0].placements;
  expect(flat.size).toBe(count);
  expect([...nested.keys()].sort()).toEqual([...key].map(hexOf).sort());
  for (const [name, { corners, facing }] of flat) {
    const other = nested.get(name)!;
    const box = boxOf(other.corners);
    boxOf(corners).forEach((value, k) => expect(Math.abs(value - box[k])).toBeLessThan(1e-3));
    facing.forEach((side, t) => expect(side.angleTo(other.facing[t])).toBeLessThan(0.01));
  }
});

/** The snap points in a file: their names and the keys of what they are on, with where they are and point, rounded. */
async function snapsIn(file: Uint8Array): Promise<string[]> {
  const found: string[] = [];
  (await plainIO().readBinary(file)).getRoot().getDefaultScene()!.traverse((node: Node) => {
    if (!(node.getExtras() as { snap?: boolean }).snap) return;
    const m = node.getWorldMatrix();
    const up = new Vector3(m[4], m[5], m[6]).normalize().toArray();
    const key = (node.getExtras() as { key?: string }).key ?? (node.getParentNode()!.getExtras() as { key: string }).key;
    found.push(`${node.getName()} ${key} ${[m[12], m[13], m[14], ...up].map((value) => (Math.round(100 * value) / 100 + 0).toFixed(2)).join(" ")}`); // prettier-ignore
  }); // prettier-ignore
  return found.sort();
}

test.each(["the same", "varied"])("uses carry their snap points, nested, side by side and instanced alike: %s", async (each) => {
  const { scene, assets } = await shop({ uses: 3, variation: ODD, ...(each === "varied" && { each }) }); // prettier-ignore
  const hook = { name: "hook", position: [0.5, 1, 0.25], direction: [1, 1, 0.5] } as const;
  const props = scene.props.map((prop) =>
    prop.assembly ? { ...prop, prepared: { ...prop.prepared, snaps: [{ ...hook, id: 1, free: true }] } } : prop,
  );
  const own = { ...scene, props } as never as Scene;
  const nested = await snapsIn(await writePlacements(own, assets, "glb-plain", { nested: true }));
  // One of each shelf, and one of each tray in it.
  expect(nested).toHaveLength(3 + 3 * 3);
  expect(await snapsIn(await writePlacements(own, assets, "glb-plain"))).toEqual(nested);
  expect(await snapsIn(await writePlacements(own, assets, "glb"))).toEqual(nested);
  expect(await snapsIn(await writePlacements(own, assets, "glb", { snaps: false }))).toEqual([]);
}); // prettier-ignore

test("while uses travel, their snap points go along in an animated file, as they are in files of single frames", async () => {
  const { scene, assets } = await shop({ uses: 3, variation: {} });
  const snaps = [{ name: "hook", position: [0.5, 1, 0.25], direction: [1, 1, 0.5], id: 1, free: true }];
  const own = {
    ...scene,
    props: scene.props.map((prop) => (prop.assembly ? { ...prop, prepared: { ...prop.prepared, snaps } } : prop)),
    dressings: scene.dressings.map((one) => ({ ...one, spacing: { ...one.spacing, speed: 12 } })),
  } as never as Scene;
  const file = await writeAnimation(own, assets, "glb-plain", [0, 12]);
  const { scene: read, animations } = await new GLTFLoader().parseAsync(file.slice().buffer, "");
  const mixer = new AnimationMixer(read);
  mixer.clipAction(animations[0]).play();
  let moved = 0;
  const was = await snapsIn(await writePlacements(own, assets, "glb-plain"));
  for (const frame of [0, 5, 11]) {
    mixer.setTime(frame / own.time.framesPerSecond);
    read.updateMatrixWorld(true);
    const now: string[] = [];
    read.traverse(({ userData, name, matrixWorld }) => {
      if (!userData.snap) return;
      const { elements: m } = matrixWorld;
      now.push(`${name.replace(/_\d+$/, "")} ${userData.key} ${[m[12], m[13], m[14], m[4], m[5], m[6]].map((x) => x.toFixed(2)).join(" ")}`); // prettier-ignore
    });
    const alone = await snapsIn(await writePlacements(own, assets, "glb-plain", { frame }));
    expect(now).toHaveLength(3 + 3 * 3);
    const numbers = (all: readonly string[]) => [...all].sort().map((one) => one.split(" ").slice(2).map(Number));
    numbers(now).forEach((place, k) => place.forEach((x, c) => expect(Math.abs(x - numbers(alone)[k][c])).toBeLessThan(0.03))); // prettier-ignore
    if (JSON.stringify(alone) !== JSON.stringify(was)) moved++;
  }
  expect(moved).toBe(2);
});

test.each([
  ["made, side by side", "glb-plain", {}, {}],
  ["made, instanced, in dressings that travel", "glb", {}, { speed: 6 }],
  ["made, nested", "glb-plain", {}, { nested: true }],
  ["from a file, instanced", "glb", { made: null, asset: "d".repeat(64) }, {}],
] as const)("a surface that moves and is part of assemblies moves in animated files as in files of single frames: %s", async (_, form, asFile, { speed = 0, nested = false }: { speed?: number; nested?: boolean }) => {
  // With this seed one as it is comes before one in its mirror image.
  const movers = [{ kind: "waves", length: 0.7, height: 0.2, speed: 1, side: "+y" }];
  const { scene: dry, assets } = await shop({ uses: 3, board: { part: true, movers, ...asFile }, variation: { ...ODD, seed: 3 } });
  const [asset] = assets.keys();
  const boarded = (one: Surface) => (one.made ? one : { ...one, asset });
  const props = dry.props.map((prop) => prop.assembly ? { ...prop, assembly: { ...prop.assembly, surfaces: prop.assembly.surfaces.map(boarded) } } : prop);
  const scene = { ...dry, props, dressings: dry.dressings.map((one) => ({ ...one, spacing: { ...one.spacing, speed } })) } as never as Scene;
  const file = await writeAnimation(scene, assets, form, [0, 12], { nested });
  expect((await validateBytes(file)).issues.numErrors).toBe(0);
  const { scene: read, animations } = await new GLTFLoader().parseAsync(file.slice().buffer, "");
  const mixer = new AnimationMixer(read);
  mixer.clipAction(animations[0]).play();
  const seen = new Set<string>();
  for (const frame of [0, 5, 11]) {
    mixer.setTime(frame / scene.time.framesPerSecond);
    read.updateMatrixWorld(true);
    const alone = await cornersIn(await writePlacements(scene, assets, "glb-plain", { frame }));
    let boards = 0;
    read.traverse((mesh) => {
      const key = (mesh.userData.key ?? mesh.parent?.userData.key) as string;
      if (!(mesh instanceof Mesh) || !mesh.name.startsWith("Boarding")) return;
      const { index: indices, attributes } = mesh.geometry;
      const index = (indices?.array as Uint32Array) ?? Array.from({ length: attributes.position.count }, (_, v) => v);
      const corners = Array.from(index, (v) => mesh.localToWorld(mesh.getVertexPosition(v, new Vector3())));
      boxOf(corners).forEach((value, k) => expect(Math.abs(value - boxOf(alone.get(key)!.corners)[k])).toBeLessThan(0.01));
      // In its mirror image it is seen from without as well.
      corners.forEach((corner, c) => {
        if (c % 3 > 0) return;
        const facing = corners[c + 1].clone().sub(corner).cross(corners[c + 2].clone().sub(corner)).multiplyScalar(Math.sign(mesh.matrixWorld.determinant()));
        const side = alone.get(key)!.facing[c / 3];
        expect(facing.angleTo(side)).toBeLessThan(0.05);
      });
      seen.add(boxOf(corners).map((value) => value.toFixed(2)).join());
      boards++;
    });
    expect(boards).toBe(9);
  }
  expect(seen.size).toBe(27);
}); // prettier-ignore

test("however many uses, the file has each mesh once and little more than their places; tables have every thing", async () => {
  const { scene, assets } = await shop({ uses: 200, variation: {} });
  const file = await writePlacements(scene, assets, "glb");
  const document = await plainIO().readBinary(file);
  const placed = await placementsInGlb(file);
  const count = 200 + 200 * (3 * 4 + 2);
  expect(placed).toHaveLength(count);
  // One for each of the two props, and one for what is mirrored of each.
  expect(document.getRoot().listMeshes().length).toBeLessThanOrEqual(4);
  // Three numbers for the place, four for the turn, three for the size.
  expect(file.length).toBeLessThan(1.5 * count * 40 + 20_000);
  const rows = new TextDecoder().decode(await writePlacements(scene, assets, "csv")).trim().split("\r\n").slice(1); // prettier-ignore
  expect(rows).toHaveLength(count);
  expect(new Set(rows.map((row) => row.split(",")[1])).size).toBe(count);
  await expect(evaluateScene(scene, assets, { maxPlacements: count - 1 })).rejects.toThrow(/more than/);
  // A file and back is the same scene.
  const { scene: again } = readProject(writeProject(scene, assets), "shop.zip");
  expect(again).toEqual(scene);
});

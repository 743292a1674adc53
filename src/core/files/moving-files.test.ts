/** What files move by themselves: skins, shapes and parts as three's own mixer has them, and point caches. */
import fc from "fast-check";
import { AnimationMixer, Mesh, Vector3, type Object3D } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { clipTime, poseAt, posedVertices } from "../rig";
import { movingGlb } from "./testing";
import { bringInCache, bringInFile, readPointCache, readTriangleMesh, splitFile } from ".";

/** All vertices as three has them now. */
function theirs(root: Object3D): number[] {
  const out: number[] = [];
  root.updateMatrixWorld(true);
  root.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    for (let v = 0; v < object.geometry.getAttribute("position").count; v++)
      out.push(...object.getVertexPosition(v, new Vector3()).applyMatrix4(object.matrixWorld).toArray());
  });
  return out;
}

const apart = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  Array.from(a).reduce((most, x, k) => Math.max(most, Math.abs(x - b[k])), a.length === b.length ? 0 : Infinity);

test("skins, shapes and parts are at each moment where three's own mixer has them, and at rest where three shows them", async () => {
  await fc.assert(
    fc.asyncProperty(fc.integer({ min: 0, max: 1e6 }), async (seed) => {
      const bytes = await movingGlb(seed);
      const { scene, animations } = await new GLTFLoader().parseAsync(bytes.slice().buffer, "");
      const shape = await readTriangleMesh(bytes, "dance");
      expect(apart(shape.position, theirs(scene))).toBeLessThan(1e-5);
      const { rig } = shape;
      const [clip] = rig!.clips;
      expect([clip.name, clip.seconds.toFixed(5)]).toEqual(["Dance", animations[0].duration.toFixed(5)]);
      const mixer = new AnimationMixer(scene);
      mixer.clipAction(animations[0]).play();
      for (const share of [0, 0.13, 0.5, 0.77, 0.999]) {
        mixer.setTime(share * clip.seconds);
        const ours = posedVertices(rig!, poseAt(rig!, clip, share * clip.seconds));
        expect(apart(ours, theirs(scene))).toBeLessThan(1e-5);
      }
      // What is looked over and kept is the same file, byte for byte.
      const { asset, brought, bounds } = await bringInFile({ name: "dance.glb", bytes }, []);
      expect([brought.clips.length, brought.mended.some(({ what }) => what === "moving"), asset.length]).toEqual([1, false, 64]); // prettier-ignore
      const used = [...shape.index].map((v) => shape.position[3 * v]);
      expect(bounds.min[0]).toBeLessThanOrEqual(Math.min(...used) + 1e-5);
    }),
    { numRuns: 25 },
  );
});

test("parted, each mesh of a file moves as it did in the whole", async () => {
  for (const seed of [3, 11, 42]) {
    const bytes = await movingGlb(seed);
    const lengths = new Set<number>();
    const at = async (file: Uint8Array, seconds: number) => {
      const { rig } = await readTriangleMesh(file, "dance");
      lengths.add(rig!.clips[0].seconds);
      return posedVertices(rig!, poseAt(rig!, rig!.clips[0], seconds));
    };
    const parts = await splitFile(bytes, "dance.glb");
    expect(parts.map(({ name }) => name).sort()).toEqual(["n4", "n5", "n6"]);
    for (const seconds of [0, 0.4, 1.1, 1.9]) {
      const whole = await at(bytes, seconds);
      const own = await Promise.all(parts.map((part) => at(part.bytes, seconds)));
      expect(
        apart(
          whole,
          own.flatMap((places) => Array.from(places)),
        ),
      ).toBeLessThan(1e-5);
    }
    expect(lengths.size).toBe(1);
  }
});

test("a clip is played so often, then stays; backwards it ends at its beginning", () => {
  fc.assert(
    fc.property(fc.double({ min: -50, max: 50, noNaN: true }), fc.integer({ min: 0, max: 4 }), (gone, times) => {
      const at = clipTime(gone, 2.5, times);
      expect(at).toBeGreaterThanOrEqual(0);
      expect(at).toBeLessThanOrEqual(2.5);
      if (times > 0 && Math.abs(gone) >= 2.5 * times) expect(at).toBe(gone > 0 ? 2.5 : 0);
      else expect(Math.abs((gone - at) / 2.5 - Math.round((gone - at) / 2.5))).toBeLessThan(1e-9);
    }),
  );
  expect(clipTime(3, 0, 0)).toBe(0);
});

/** A point cache in one of its forms: big-endian MDD, or little-endian PC2. */
function written(kind: "mdd" | "pc2", pictures: readonly number[][], moments: readonly number[]): Uint8Array {
  const [n, vertices] = [pictures.length, pictures[0].length / 3];
  const header = kind === "mdd" ? 8 + 4 * n : 32;
  const view = new DataView(new ArrayBuffer(header + 12 * vertices * n));
  if (kind === "mdd") {
    view.setInt32(0, n);
    view.setInt32(4, vertices);
    moments.forEach((at, k) => view.setFloat32(8 + 4 * k, at));
  } else {
    [..."POINTCACHE2"].forEach((letter, i) => view.setUint8(i, letter.charCodeAt(0)));
    view.setInt32(12, 1, true);
    view.setInt32(16, vertices, true);
    view.setFloat32(24, 2, true);
    view.setInt32(28, n, true);
  }
  pictures.flat().forEach((x, k) => view.setFloat32(header + 4 * k, x, kind === "pc2"));
  return new Uint8Array(view.buffer);
}

test("point caches of both kinds are read to the bit, kept as PC2, and brought to even moments; what is cut short says so", async () => {
  const pictures = [0, 1, 2, 3].map((k) => Array.from({ length: 15 }, (_, p) => Math.fround(k * k + 0.1 * p)));
  const bring = (kind: "mdd" | "pc2", moments: readonly number[]) =>
    bringInCache({ name: `sea.${kind}`, bytes: written(kind, pictures, moments) }, [], 24);
  for (const [kind, moments, rate] of [
    ["pc2", [], 12],
    ["mdd", [1, 1.1, 1.2, 1.3], 10],
  ] as const) {
    const brought = await bring(kind, moments);
    expect(brought.rate).toBeCloseTo(rate, 4);
    expect(readPointCache(brought.bytes, "sea")).toEqual({ vertices: 5, pictures: 4, position: Float32Array.from(pictures.flat()) }); // prettier-ignore
  }
  // What was nearer the end in time comes later: at the second even moment it is a half of the way from the first to the second.
  const uneven = readPointCache((await bring("mdd", [0, 0.2, 0.25, 0.3])).bytes, "sea");
  expect(uneven.position[15]).toBeCloseTo(0.5, 5);
  const bytes = written("pc2", pictures, []);
  for (const cut of [13, 40, bytes.length - 1])
    await expect(bringInCache({ name: "sea.pc2", bytes: bytes.slice(0, cut) }, [], 24)).rejects.toThrow(/damaged|cut short/); // prettier-ignore
  await expect(bringInCache({ name: "sea.mdd", bytes: bytes.slice(0, 3) }, [], 24)).rejects.toThrow(/damaged/);
});

test("a clip is sampled into a point cache that follows it", async () => {
  const bytes = await movingGlb(11);
  const { bytes: kept, rate } = await bringInCache({ name: "dance.glb", bytes }, [], 24);
  const { rig } = await readTriangleMesh(bytes, "dance");
  const cache = readPointCache(kept, "dance");
  for (const k of [0, 3, cache.pictures - 1]) {
    const own = cache.position.subarray(3 * cache.vertices * k, 3 * cache.vertices * (k + 1));
    expect(apart(own, posedVertices(rig!, poseAt(rig!, rig!.clips[0], k / rate)))).toBeLessThan(1e-4);
  }
});

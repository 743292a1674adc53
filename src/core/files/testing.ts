/** GLB files for tests, made with glTF-Transform, and the reading back of what we wrote. */
import { Document, WebIO, type Node, type mat4, type TypedArray } from "@gltf-transform/core";
import {
  ALL_EXTENSIONS,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRTextureBasisu,
} from "@gltf-transform/extensions";
import { reorder, weld } from "@gltf-transform/functions";
import draco3d from "draco3dgltf";
import { createDefaultContainer, write } from "ktx-parse";
import { MeshoptDecoder, MeshoptEncoder } from "meshoptimizer";
import { multiply, rotate, unit, type Quat, type Vec3 } from "../math";
import { addedOn, evaluate } from "../place/testing";
import { emptyScene, sceneSchema, type Prop } from "../scene";
import { plainIO } from "./gltf";
import type { Assets } from "./assets";
import type { EvaluatedScene } from "./evaluated";
import type { BroughtIn } from "./prop";

interface GlbOptions {
  positions?: TypedArray | null;
  matrix?: mat4;
  textured?: boolean;
}

/** A small wedge, about 0.4 × 0.5 × 0.3 m, its origin at the bottom; with a texture if wanted. */
export const WEDGE = new Float32Array([
  -0.2, 0, -0.15, 0.2, 0, -0.15, 0, 0.5, 0, 0.2, 0, 0.15, -0.2, 0, 0.15, 0, 0.5, 0,
]);

export async function makeGlb({ positions = WEDGE, matrix, textured = false }: GlbOptions = {}): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "VEC2" | "VEC3", array: TypedArray) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const material = document.createMaterial("Paint").setBaseColorFactor([0.7, 0.2, 0.25, 1]);
  const primitive = document.createPrimitive().setMaterial(material);
  if (positions) primitive.setAttribute("POSITION", accessor("VEC3", positions as Float32Array<ArrayBuffer>));
  if (textured && positions) {
    primitive.setAttribute("TEXCOORD_0", accessor("VEC2", new Float32Array((positions.length / 3) * 2).fill(0.5)));
    material.setBaseColorTexture(document.createTexture("Weave").setImage(PIXEL).setMimeType("image/png"));
  }
  const node = document.createNode("Body").setMesh(document.createMesh("Wedge").addPrimitive(primitive));
  if (matrix) node.setMatrix(matrix);
  document.createScene().addChild(node);
  return plainIO().writeBinary(document);
}

/** A PNG of one pixel. */
export const PIXEL = Uint8Array.from(
  atob("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=="),
  (c) => c.charCodeAt(0),
);

export interface ReadPlacement {
  mesh: string;
  position: Vec3;
  rotation: Quat;
  scale: Vec3;
}

/** Every placed mesh of a GLB: instances where there are some, else nodes; in world coordinates. */
export async function placementsInGlb(bytes: Uint8Array): Promise<ReadPlacement[]> {
  const document = await plainIO().readBinary(bytes);
  const found: ReadPlacement[] = [];
  const scene = document.getRoot().getDefaultScene()!;
  scene.traverse((node: Node) => {
    const mesh = node.getMesh();
    if (!mesh) return;
    const position = node.getWorldTranslation();
    const rotation = node.getWorldRotation();
    const scale = node.getWorldScale();
    const batch = node.getExtension<never>("EXT_mesh_gpu_instancing") as unknown as {
      getAttribute(name: string): { getCount(): number; getElement(i: number, out: number[]): number[] };
    } | null;
    if (!batch) {
      found.push({ mesh: mesh.getName(), position, rotation, scale });
      return;
    }
    for (let i = 0; i < batch.getAttribute("TRANSLATION").getCount(); i++) {
      const t = batch.getAttribute("TRANSLATION").getElement(i, []) as unknown as Vec3;
      const r = batch.getAttribute("ROTATION").getElement(i, []) as unknown as Quat;
      const s = batch.getAttribute("SCALE").getElement(i, []) as unknown as Vec3;
      const turned = rotate(rotation, [t[0] * scale[0], t[1] * scale[1], t[2] * scale[2]]);
      found.push({
        mesh: mesh.getName(),
        position: [position[0] + turned[0], position[1] + turned[1], position[2] + turned[2]],
        rotation: multiply(rotation, r),
        scale: [s[0] * scale[0], s[1] * scale[1], s[2] * scale[2]],
      });
    }
  });
  return found;
}

/** A scene in which one thing that was brought in stands once, and its file. */
export function evaluateAlone(brought: BroughtIn & Partial<Pick<Prop, "prepared">>): [EvaluatedScene, Assets] {
  const { bytes, ...found } = brought;
  const scene = sceneSchema.parse({
    ...emptyScene("Alone"),
    props: [{ id: "p", name: "Thing", ...found }],
    dressings: [
      { id: "d", name: "One", where: { kind: "loose" }, pegs: addedOn("loose", { prop: "p", point: [0, 0, 0] }) },
    ],
  });
  const placements = evaluate(scene.dressings[0], { guides: new Map(), bounds: new Map([["p", found.bounds]]) });
  return [{ scene, dressings: [{ dressing: scene.dressings[0], placements }] }, new Map([[found.asset, bytes]])];
}

/** A document as a GLB with its meshes compressed. */
export async function packedGlb(document: Document, how: "draco" | "meshopt"): Promise<Uint8Array> {
  await document.transform(weld());
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  if (how === "draco") {
    const extension = document.createExtension(KHRDracoMeshCompression).setRequired(true);
    io.registerDependencies({ "draco3d.encoder": await draco3d.createEncoderModule() });
    const bytes = await io.writeBinary(document);
    extension.dispose();
    return bytes;
  }
  await MeshoptEncoder.ready;
  await document.transform(reorder({ encoder: MeshoptEncoder }));
  const extension = document.createExtension(EXTMeshoptCompression).setRequired(true);
  io.registerDependencies({ "meshopt.encoder": MeshoptEncoder, "meshopt.decoder": MeshoptDecoder });
  const bytes = await io.writeBinary(document);
  extension.dispose();
  return bytes;
}

/** A KTX2 picture of 4 × 4 pixels of one colour, in Basis Universal's UASTC: one block of its mode for a single colour. */
export function ktx2Of(red: number, green: number, blue: number): Uint8Array {
  const block = new Uint8Array(16);
  // Bits from the lowest on: the mode's five, then red, green, blue and opacity.
  let bits = 0x17n;
  [red, green, blue, 255].forEach((value, i) => (bits |= BigInt(value) << BigInt(5 + 8 * i)));
  for (let i = 0; i < 16; i++) block[i] = Number((bits >> BigInt(8 * i)) & 0xffn);
  const container = createDefaultContainer();
  Object.assign(container, { vkFormat: 0, typeSize: 1, pixelWidth: 4, pixelHeight: 4, faceCount: 1, levelCount: 1 });
  container.levels = [{ levelData: block, uncompressedByteLength: 16 }];
  const [descriptor] = container.dataFormatDescriptor;
  Object.assign(descriptor, { colorModel: 166, colorPrimaries: 1, transferFunction: 2, flags: 0 });
  Object.assign(descriptor, { texelBlockDimension: [3, 3, 0, 0], bytesPlane: [16, 0, 0, 0, 0, 0, 0, 0] });
  const whole = { bitOffset: 0, bitLength: 127, channelType: 0, samplePosition: [0, 0, 0, 0] };
  descriptor.samples = [{ ...whole, sampleLower: 0, sampleUpper: 0xffffffff }];
  return write(container);
}

/** A square board of 1 m with a KTX2 picture on it. */
export async function boardWithKtx2(red: number, green: number, blue: number): Promise<Uint8Array> {
  const document = new Document();
  document.createExtension(KHRTextureBasisu).setRequired(true);
  const buffer = document.createBuffer();
  const accessor = (type: "VEC2" | "VEC3" | "SCALAR", array: TypedArray) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const texture = document
    .createTexture("Paint")
    .setImage(ktx2Of(red, green, blue) as Uint8Array<ArrayBuffer>)
    .setMimeType("image/ktx2");
  const primitive = document
    .createPrimitive()
    .setMaterial(document.createMaterial("Paint").setBaseColorTexture(texture).setDoubleSided(true))
    .setAttribute("POSITION", accessor("VEC3", new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0])))
    .setAttribute("NORMAL", accessor("VEC3", new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1])))
    .setAttribute("TEXCOORD_0", accessor("VEC2", new Float32Array([0, 1, 1, 1, 1, 0, 0, 0])))
    .setIndices(accessor("SCALAR", new Uint16Array([0, 1, 2, 0, 2, 3])));
  document
    .createScene()
    .addChild(document.createNode("Board").setMesh(document.createMesh("Board").addPrimitive(primitive)));
  return plainIO().writeBinary(document);
}

const PATHS = ["translation", "rotation", "scale", "weights"] as const;
const WAYS = ["LINEAR", "STEP", "CUBICSPLINE"] as const;

/** A GLB with a skinned net, a net that morphs and a rigid one, hung from each other by chance; and a clip that moves all of it. */
export function movingGlb(seed: number): Promise<Uint8Array> {
  let draws = 0;
  const draw = (low: number, high: number) => low + (high - low) * unit(seed, 7, draws++, 0);
  const some = (n: number, low: number, high: number) => Array.from({ length: n }, () => draw(low, high));
  const turn = (): [number, number, number, number] => {
    const q = some(4, -1, 1);
    return q.map((x) => x / Math.hypot(...q)) as [number, number, number, number];
  };
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "SCALAR" | "VEC3" | "VEC4" | "MAT4", array: TypedArray) =>
    document.createAccessor().setType(type).setArray(array as Float32Array<ArrayBuffer>).setBuffer(buffer); // prettier-ignore
  const N = 9;
  const net = (name: string) => {
    const primitive = document
      .createPrimitive()
      .setAttribute("POSITION", accessor("VEC3", Float32Array.from(some(3 * N, -1, 1))))
      .setIndices(
        accessor(
          "SCALAR",
          Uint16Array.from({ length: 3 * 7 }, (_, k) => (k % 3) + Math.floor(k / 3)),
        ),
      );
    return { primitive, mesh: document.createMesh(name).addPrimitive(primitive) };
  };
  const scene = document.createScene();
  const nodes: Node[] = [];
  for (let i = 0; i < 7; i++) {
    const size = draw(0.5, 1.5);
    const node = document.createNode(`n${i}`).setTranslation(some(3, -2, 2) as [number, number, number]);
    node.setRotation(turn()).setScale([size, size, size]);
    const parent = i > 0 && draw(0, 1) < 0.7 ? nodes[Math.floor(draw(0, i))] : scene;
    parent.addChild(node);
    nodes.push(node);
  }
  const [skinned, morphing, rigid] = ["Skinned", "Morphing", "Rigid"].map(net);
  const joints = nodes.slice(0, 4);
  const inverse = joints.flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...some(3, -1, 1), 1]);
  const skin = document.createSkin().setInverseBindMatrices(accessor("MAT4", Float32Array.from(inverse)));
  for (const joint of joints) skin.addJoint(joint);
  skinned.primitive
    .setAttribute("JOINTS_0", accessor("VEC4", Uint8Array.from(some(4 * N, 0, 4), Math.floor)))
    .setAttribute("WEIGHTS_0", accessor("VEC4", Float32Array.from(some(4 * N, 0, 1))));
  for (let k = 0; k < 2; k++)
    morphing.primitive.addTarget(
      document
        .createPrimitiveTarget()
        .setAttribute("POSITION", accessor("VEC3", Float32Array.from(some(3 * N, -1, 1)))),
    );
  morphing.mesh.setWeights(some(2, 0, 1));
  nodes[4].setMesh(skinned.mesh).setSkin(skin);
  nodes[5].setMesh(morphing.mesh);
  nodes[6].setMesh(rigid.mesh);
  const animation = document.createAnimation("Dance");
  nodes.forEach((node, i) => {
    for (const path of PATHS) {
      if (path === "weights" ? i !== 5 : draw(0, 1) < 0.4) continue;
      const way = WAYS[Math.floor(draw(0, 3))];
      const keyframes = 1 + Math.floor(draw(0, 4));
      const times = some(keyframes, 0, 2).sort((a, b) => a - b);
      const value = () => (path === "rotation" ? turn() : path === "scale" ? Array<number>(3).fill(draw(0.5, 1.5)) : some(path === "weights" ? 2 : 3, -1, 1)); // prettier-ignore
      const values = times.flatMap(() => (way === "CUBICSPLINE" ? [value().map(() => draw(-1, 1)), value(), value().map(() => draw(-1, 1))].flat() : value())); // prettier-ignore
      const type = path === "rotation" ? "VEC4" : path === "weights" ? "SCALAR" : "VEC3";
      const sampler = document
        .createAnimationSampler()
        .setInterpolation(way)
        .setInput(accessor("SCALAR", Float32Array.from(times)))
        .setOutput(accessor(type, Float32Array.from(values)));
      animation.addSampler(sampler);
      animation.addChannel(
        document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler),
      );
    }
  });
  return plainIO().writeBinary(document);
}
/** A raft of 8 × 8 m with 81 vertices that two bones carry: within two seconds one half is lifted by 2 m, and let down again. */
export function raftGlb(): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "SCALAR" | "VEC3" | "VEC4", array: TypedArray) =>
    document.createAccessor().setType(type).setArray(array as Float32Array<ArrayBuffer>).setBuffer(buffer); // prettier-ignore
  const grid = Array.from({ length: 81 }, (_, k) => [(k % 9) - 4, Math.floor(k / 9) - 4]);
  const faces = grid.flatMap(([x, z], k) => (x < 4 && z < 4 ? [k, k + 9, k + 10, k, k + 10, k + 1] : []));
  const primitive = document
    .createPrimitive()
    .setAttribute("POSITION", accessor("VEC3", Float32Array.from(grid.flatMap(([x, z]) => [x, 0.2, z]))))
    .setAttribute("JOINTS_0", accessor("VEC4", Uint8Array.from(grid.flatMap(() => [0, 1, 0, 0]))))
    .setAttribute(
      "WEIGHTS_0",
      accessor("VEC4", Float32Array.from(grid.flatMap(([x]) => [0.5 - x / 8, 0.5 + x / 8, 0, 0]))),
    ) // prettier-ignore
    .setIndices(accessor("SCALAR", Uint16Array.from(faces)))
    .setMaterial(document.createMaterial("Wood").setBaseColorFactor([0.6, 0.45, 0.3, 1]).setDoubleSided(true));
  const [still, lifted] = [document.createNode("Still"), document.createNode("Lifted")];
  const skin = document.createSkin().addJoint(still).addJoint(lifted);
  const raft = document.createNode("Raft").setMesh(document.createMesh("Raft").addPrimitive(primitive)).setSkin(skin);
  const scene = document.createScene();
  for (const node of [still, lifted, raft]) scene.addChild(node);
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor("SCALAR", Float32Array.from([0, 1, 2])))
    .setOutput(accessor("VEC3", Float32Array.from([0, 0, 0, 0, 2, 0, 0, 0, 0])));
  const channel = document.createAnimationChannel().setTargetNode(lifted).setTargetPath("translation");
  document.createAnimation("Tide").addSampler(sampler).addChannel(channel.setSampler(sampler));
  return plainIO().writeBinary(document);
}

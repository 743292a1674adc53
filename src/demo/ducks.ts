/** A duck that bobs, rocks and dips its head: the prop of the demo scene whose file plays a clip of its own. */
import { Document, WebIO, type TypedArray } from "@gltf-transform/core";
import { fromAxisAngle, type Quat, type Vec3 } from "@/core/math";
import { ringed } from "./hill-props";
import { hex, MeshBuilder, type Paint } from "./shapes";

const feathers: Paint = { color: hex("#f2c14e"), roughness: 0.8 };
const wing: Paint = { color: hex("#dca23c"), roughness: 0.8, doubleSided: true };
const bill: Paint = { color: hex("#d65a3a"), roughness: 0.5, doubleSided: true };
const eye: Paint = { color: hex("#1f2a33"), roughness: 0.4, doubleSided: true };

/** Where the neck leaves the body. */
const NECK: Vec3 = [0, 0.13, 0.12];

function body(): MeshBuilder {
  const mesh = new MeshBuilder();
  ringed(mesh, feathers, 14, [
    [-0.27, 0.15, 0.006],
    [-0.2, 0.09, 0.06],
    [-0.08, 0.05, 0.125],
    [0.05, 0.05, 0.13],
    [0.14, 0.07, 0.09],
    [0.19, 0.09, 0.01],
  ]);
  for (const side of [1, -1])
    mesh.polygon(wing, [
      [side * 0.125, 0.1, 0.06],
      [side * 0.145, 0.05, 0.0],
      [side * 0.1, 0.06, -0.17],
      [side * 0.06, 0.13, -0.22],
      [side * 0.09, 0.15, -0.04],
    ]);
  return mesh;
}

/** With the neck, which begins at the origin. */
function head(): MeshBuilder {
  const mesh = new MeshBuilder();
  ringed(mesh, feathers, 12, [
    [-0.05, -0.03, 0.05],
    [-0.02, 0.06, 0.055],
    [-0.01, 0.12, 0.066],
    [0.06, 0.14, 0.05],
    [0.085, 0.14, 0.006],
  ]);
  for (const side of [1, -1])
    mesh.polygon(eye, [
      [side * 0.046, 0.165, 0.03],
      [side * 0.046, 0.145, 0.045],
      [side * 0.046, 0.165, 0.055],
    ]);
  return mesh
    .polygon(bill, [[0.035, 0.125, 0.07], [-0.035, 0.125, 0.07], [-0.022, 0.118, 0.15], [0.022, 0.118, 0.15]]) // prettier-ignore
    .polygon(bill, [[0.03, 0.13, 0.07], [0, 0.155, 0.07], [0, 0.122, 0.15]]) // prettier-ignore
    .polygon(bill, [[-0.03, 0.13, 0.07], [0, 0.122, 0.15], [0, 0.155, 0.07]]); // prettier-ignore
}

const SECONDS = 3.2;
const KEYFRAMES = 17;

export async function duckGlb(name: string): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = "Clothesline";
  const buffer = document.createBuffer();
  const accessor = (type: "SCALAR" | "VEC3" | "VEC4", array: TypedArray) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const [trunk, neck] = [
    document.createNode("Body").setMesh(body().meshIn(document, buffer, "Body")),
    document
      .createNode("Head")
      .setMesh(head().meshIn(document, buffer, "Head"))
      .setTranslation([...NECK]),
  ];
  document.createScene(name).addChild(trunk.addChild(neck));
  const shares = Array.from({ length: KEYFRAMES }, (_, k) => k / (KEYFRAMES - 1));
  const times = accessor(
    "SCALAR",
    Float32Array.from(shares, (share) => SECONDS * share),
  );
  const bob = document.createAnimation("Bob");
  const channel = (node: typeof trunk, path: "translation" | "rotation", values: readonly (Vec3 | Quat)[]) => {
    const output = accessor(path === "rotation" ? "VEC4" : "VEC3", Float32Array.from(values.flat()));
    const sampler = document.createAnimationSampler().setInput(times).setOutput(output);
    bob
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
  };
  const wave = (share: number, times = 1) => Math.sin(2 * Math.PI * times * share);
  channel(trunk, "translation", shares.map((share): Vec3 => [0, 0.022 * wave(share, 2), 0])); // prettier-ignore
  channel(trunk, "rotation", shares.map((share) => fromAxisAngle([0, 0, 1], 0.13 * wave(share)))); // prettier-ignore
  // Once a round it dips its bill.
  channel(neck, "rotation", shares.map((share) => fromAxisAngle([1, 0, 0], 1.35 * Math.max(0, wave(share - 0.3)) ** 2))); // prettier-ignore
  return new WebIO().writeBinary(document);
}

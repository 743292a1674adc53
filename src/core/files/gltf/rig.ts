/** What moves in a document: its nodes, skins, shapes to morph into and clips, as plain arrays. */
import type { Accessor, AnimationChannel, Document, Node, Primitive, Skin as GltfSkin } from "@gltf-transform/core";
import type { Channel, Clip, Moved, Rig, RigNodes, RigPart, Skin } from "../../rig";
import { solidPrimitives, type Shown } from "./flat";

/**
 * @param shown the nodes with a mesh, in the order in which their vertices are wanted
 */
export function rigOf(document: Document, shown: readonly Shown[]): Rig {
  const nodes = inOrder(document);
  const at = new Map(nodes.map((node, n) => [node, n]));
  return {
    nodes: standing(nodes, at),
    parts: shown.flatMap(({ node }) => solidPrimitives(node).map((one) => partOf(one, node, at))),
    clips: document
      .getRoot()
      .listAnimations()
      .map((animation, i): Clip => {
        const channels = animation.listChannels().flatMap((channel) => channelOf(channel, at) ?? []);
        const ends = channels.map(({ times }) => times[times.length - 1]);
        return { name: animation.getName() || `Clip ${i + 1}`, seconds: Math.max(0, ...ends), channels };
      }),
  };
}

/** All nodes, each after the one that it hangs from. */
function inOrder(document: Document): Node[] {
  const out = document
    .getRoot()
    .listNodes()
    .filter((node) => node.getParentNode() === null);
  // What is appended is walked over as well.
  for (const node of out) out.push(...node.listChildren());
  return out;
}

function standing(nodes: readonly Node[], at: ReadonlyMap<Node, number>): RigNodes {
  const n = nodes.length;
  const [translation, rotation, scale] = [3, 4, 3].map((width) => new Float64Array(width * n));
  nodes.forEach((node, i) => {
    translation.set(node.getTranslation(), 3 * i);
    rotation.set(node.getRotation(), 4 * i);
    scale.set(node.getScale(), 3 * i);
  });
  return {
    parent: Int32Array.from(nodes, (node) => at.get(node.getParentNode()!) ?? -1),
    translation,
    rotation,
    scale,
    weights: nodes.map((node) => {
      const shapes = shapesOf(node);
      if (shapes === 0) return null;
      const own = node.getWeights().length > 0 ? node.getWeights() : node.getMesh()!.getWeights();
      return Float64Array.from({ length: shapes }, (_, k) => own[k] ?? 0);
    }),
  };
}

const shapesOf = (node: Node): number =>
  Math.max(0, ...(node.getMesh()?.listPrimitives() ?? []).map((one) => one.listTargets().length));

function partOf(primitive: Primitive, node: Node, at: ReadonlyMap<Node, number>): RigPart {
  const skin = node.getSkin();
  const position = floatsOf(primitive.getAttribute("POSITION")!);
  return {
    node: at.get(node)!,
    position,
    targets: primitive.listTargets().map((target) => {
      const offset = target.getAttribute("POSITION");
      return offset ? floatsOf(offset).subarray(0, position.length) : new Float32Array(position.length);
    }),
    skin: skin && skinOf(primitive, skin, at),
  };
}

/** The numbers of an accessor as they are meant; what is no number counts as 0. */
export function floatsOf(accessor: Accessor): Float32Array {
  const width = accessor.getElementSize();
  const out = new Float32Array(width * accessor.getCount());
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) out.set(accessor.getElement(i, element), width * i);
  for (let k = 0; k < out.length; k++) if (!Number.isFinite(out[k])) out[k] = 0;
  return out;
}

/** So many joints a vertex in each set of a file's attributes. */
const SET = 4;

function skinOf(primitive: Primitive, skin: GltfSkin, at: ReadonlyMap<Node, number>): Skin | null {
  const joints = skin.listJoints();
  const sets = primitive.listSemantics().filter((name) => /^JOINTS_\d+$/.test(name)).length;
  if (sets === 0 || joints.some((joint) => !at.has(joint))) return null;
  const vertices = primitive.getAttribute("POSITION")!.getCount();
  const influences = SET * sets;
  const joint = new Uint16Array(influences * vertices);
  const weight = new Float32Array(influences * vertices);
  for (let set = 0; set < sets; set++) {
    const [which, much] = [`JOINTS_${set}`, `WEIGHTS_${set}`].map((name) => primitive.getAttribute(name));
    if (!which || !much) continue;
    const [J, W] = [floatsOf(which), floatsOf(much)];
    for (let v = 0; v < vertices; v++) {
      for (let k = 0; k < SET; k++) {
        const to = influences * v + SET * set + k;
        // A joint that the skin does not have carries nothing.
        if (J[SET * v + k] >= joints.length) continue;
        joint[to] = J[SET * v + k];
        weight[to] = W[SET * v + k];
      }
    }
  }
  addUpToOne(weight, influences);
  return {
    joints: Uint32Array.from(joints, (one) => at.get(one)!),
    inverse: inverseOf(skin, joints.length),
    influences,
    joint,
    weight,
  };
}

/** What nothing carries goes with the first joint. */
function addUpToOne(weight: Float32Array, influences: number): void {
  for (let i = 0; i < weight.length; i += influences) {
    let sum = 0;
    for (let k = 0; k < influences; k++) sum += weight[i + k];
    if (!(sum > 0)) weight.fill(0, i, i + influences).fill(1, i, i + 1);
    else for (let k = 0; k < influences; k++) weight[i + k] /= sum;
  }
}

/** Columns first as the file has them, brought to 3 rows of 4; the identity where it has none. */
function inverseOf(skin: GltfSkin, joints: number): Float64Array {
  const accessor = skin.getInverseBindMatrices();
  const m = accessor && floatsOf(accessor);
  const out = new Float64Array(12 * joints);
  for (let j = 0; j < joints; j++)
    for (let row = 0; row < 3; row++)
      for (let column = 0; column < 4; column++)
        out[12 * j + 4 * row + column] = m ? m[16 * j + 4 * column + row] : row === column ? 1 : 0;
  return out;
}

const PATHS: Readonly<Record<string, { moves: Moved; width: number }>> = {
  translation: { moves: "translation", width: 3 },
  rotation: { moves: "rotation", width: 4 },
  scale: { moves: "scale", width: 3 },
  weights: { moves: "weights", width: 0 },
};

/** Null for what moves nothing that is known here, or holds no keyframe. */
function channelOf(channel: AnimationChannel, at: ReadonlyMap<Node, number>): Channel | null {
  const [node, sampler] = [channel.getTargetNode(), channel.getSampler()];
  const path = PATHS[channel.getTargetPath() ?? ""];
  const [input, output] = [sampler?.getInput(), sampler?.getOutput()];
  if (!node || !at.has(node) || !path || !sampler || !input || !output) return null;
  const width = path.width || shapesOf(node);
  const times = Float64Array.from(floatsOf(input));
  const interpolation = sampler.getInterpolation();
  const each = width * (interpolation === "CUBICSPLINE" ? 3 : 1);
  const values = Float64Array.from(floatsOf(output));
  if (each === 0 || times.length === 0 || values.length < each * times.length) return null;
  // Keyframes out of order say nothing that can be followed.
  if (times.some((t, k) => t < 0 || (k > 0 && t < times[k - 1]))) return null;
  return { node: at.get(node)!, moves: path.moves, interpolation, times, values, width };
}

/** A file with several meshes, as one file for each. */
import { Document, type Animation, type AnimationChannel, type Mesh, type Node } from "@gltf-transform/core";
import { mergeDocuments, prune } from "@gltf-transform/functions";
import { InputError } from "../schema";
import { atRest, meshNodesOf, readGlbFile, writePlain } from "./gltf";

/** A file is not parted into more than so many. */
const MOST_PARTS = 200;

/**
 * Each mesh of a GLB where it stands in its scene, with what it needs and nothing else; what moves it goes along.
 *
 * @param name what to call the file in messages
 * @throws InputError when it is no GLB, is damaged, or has too many meshes
 */
export async function splitFile(bytes: Uint8Array, name: string): Promise<{ name: string; bytes: Uint8Array }[]> {
  const { document } = await readGlbFile(bytes, name);
  const moves = document.getRoot().listAnimations().length > 0;
  if (!moves) atRest(document);
  const shown = meshNodesOf(document);
  if (shown.length > MOST_PARTS) {
    throw new InputError(`“${name}” has ${shown.length} meshes; it can be parted into ${MOST_PARTS} at most.`);
  }
  const parts: { name: string; bytes: Uint8Array }[] = [];
  for (const [k, one] of shown.entries()) {
    const own = one.node.getName() || one.node.getMesh()?.getName() || `Part ${k + 1}`;
    const part = new Document().setLogger(document.getLogger());
    const merged = mergeDocuments(part, document);
    if (moves) aloneIn(part, merged.get(one.node) as Node);
    else {
      for (const scene of part.getRoot().listScenes()) scene.dispose();
      const mesh = merged.get(one.node.getMesh()!) as Mesh;
      for (const node of part.getRoot().listNodes()) node.dispose();
      part.createScene().addChild(part.createNode(own).setMesh(mesh).setMatrix(one.matrix));
    }
    await part.transform(prune({ keepSolidTextures: true }));
    parts.push({ name: own, bytes: await writePlain(part) });
  }
  return parts;
}

/** Takes everything from a document that neither is a node nor moves it; clips keep their numbers and lengths. */
function aloneIn(document: Document, node: Node): void {
  const needed = new Set<Node>(node.getSkin()?.listJoints());
  const skeleton = node.getSkin()?.getSkeleton();
  if (skeleton) needed.add(skeleton);
  const animations = document.getRoot().listAnimations();
  for (const animation of animations) {
    const last = lastMoved(animation);
    if (last) needed.add(last);
  }
  for (const one of [...needed, node]) for (let up: Node | null = one; up; up = up.getParentNode()) needed.add(up);
  for (const other of document.getRoot().listNodes()) {
    if (!needed.has(other)) other.dispose();
    else if (other !== node) other.setMesh(null).setSkin(null);
  }
  for (const animation of animations)
    for (const channel of animation.listChannels()) if (!channel.getTargetNode()) channel.dispose();
}

/** What an animation moves at its end. */
function lastMoved(animation: Animation): Node | null {
  const endOf = (channel: AnimationChannel) => channel.getSampler()?.getInput()?.getMax([])[0] ?? 0;
  const channels = animation.listChannels().filter((channel) => channel.getTargetNode());
  const [first] = channels.sort((a, b) => endOf(b) - endOf(a));
  return first?.getTargetNode() ?? null;
}

/** A file with several meshes, as one file for each. */
import { Document, type Mesh } from "@gltf-transform/core";
import { mergeDocuments, prune } from "@gltf-transform/functions";
import { InputError } from "../schema";
import { meshNodesOf, readGlb, writePlain } from "./gltf";

/** A file is not parted into more than so many. */
const MOST_PARTS = 200;

/**
 * Each mesh of a GLB where it stands in its scene, with what it needs and nothing else.
 *
 * @param name what to call the file in messages
 * @throws InputError when it is no GLB, is damaged, or has too many meshes
 */
export async function splitFile(bytes: Uint8Array, name: string): Promise<{ name: string; bytes: Uint8Array }[]> {
  const document = await readGlb(bytes, name);
  const shown = meshNodesOf(document);
  if (shown.length > MOST_PARTS) {
    throw new InputError(`“${name}” has ${shown.length} meshes; it can be parted into ${MOST_PARTS} at most.`);
  }
  const parts: { name: string; bytes: Uint8Array }[] = [];
  for (const [k, one] of shown.entries()) {
    const own = one.node.getName() || one.node.getMesh()?.getName() || `Part ${k + 1}`;
    const part = new Document().setLogger(document.getLogger());
    const merged = mergeDocuments(part, document);
    for (const scene of part.getRoot().listScenes()) scene.dispose();
    const mesh = merged.get(one.node.getMesh()!) as Mesh;
    for (const node of part.getRoot().listNodes()) node.dispose();
    part.createScene().addChild(part.createNode(own).setMesh(mesh).setMatrix(one.matrix));
    await part.transform(prune({ keepSolidTextures: true }));
    parts.push({ name: own, bytes: await writePlain(part) });
  }
  return parts;
}

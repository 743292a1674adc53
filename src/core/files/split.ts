/** A file with several meshes, as one file for each. */
import { prune } from "@gltf-transform/functions";
import { InputError } from "../schema";
import { glbIO, meshNodesOf, readGlb } from "./gltf";

/** A file is not parted into more than so many. */
const MOST_PARTS = 200;

/**
 * Each mesh of a GLB where it stands in its scene, with what it needs and nothing else.
 *
 * @param name what to call the file in messages
 * @throws InputError when it is no GLB, is damaged, or has too many meshes
 */
export async function splitFile(bytes: Uint8Array, name: string): Promise<{ name: string; bytes: Uint8Array }[]> {
  const count = meshNodesOf(await readGlb(bytes, name)).length;
  if (count > MOST_PARTS) {
    throw new InputError(`“${name}” has ${count} meshes; it can be parted into ${MOST_PARTS} at most.`);
  }
  const parts: { name: string; bytes: Uint8Array }[] = [];
  for (let k = 0; k < count; k++) {
    const document = await readGlb(bytes, name);
    const nodes = meshNodesOf(document);
    const own = nodes[k].getName() || nodes[k].getMesh()?.getName() || `Part ${k + 1}`;
    nodes.forEach((node, i) => void (i !== k && node.setMesh(null)));
    await document.transform(prune());
    parts.push({ name: own, bytes: await glbIO().writeBinary(document) });
  }
  return parts;
}

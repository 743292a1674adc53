/** STL, binary or text: triangles and nothing else. */
import { normalize } from "../../math";
import { InputError } from "../../schema";
import { addPart, emptyDocument, emptyPart, greyOf, newell } from "./soup";
import type { GivenFile } from "./given";
import type { GltfFile } from "../gltf";

/** Bytes before the triangles, and of each. */
const [HEAD, EACH] = [84, 50];

export function readStl({ name, bytes }: GivenFile): GltfFile {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = bytes.byteLength >= HEAD ? view.getUint32(80, true) : 0;
  const binary =
    bytes.byteLength >= HEAD && bytes.byteLength >= HEAD + EACH * count && count > 0 && !isText(bytes, count);
  const position: number[] = [];
  if (binary) {
    for (let t = 0; t < count; t++)
      for (let k = 0; k < 9; k++) position.push(view.getFloat32(HEAD + EACH * t + 12 + 4 * k, true));
  } else {
    const text = new TextDecoder().decode(bytes);
    for (const [, x, y, z] of text.matchAll(/\bvertex\s+(\S+)\s+(\S+)\s+(\S+)/g))
      position.push(Number(x), Number(y), Number(z));
    position.length -= position.length % 9;
  }
  if (position.length === 0) throw new InputError(`“${name}” cannot be read: there are no triangles in it.`);
  if (!position.every(Number.isFinite)) throw new InputError(`“${name}” cannot be read: a corner in it is no number.`);
  const part = emptyPart("Mesh");
  part.position = position;
  for (let v = 0; v < position.length / 3; v += 3) {
    // What the file says of normals is often wrong or nothing; which way corners go round counts.
    const one = normalize(newell(position, [v, v + 1, v + 2]), [0, 1, 0]);
    part.normal.push(...one, ...one, ...one);
    part.index.push(v, v + 1, v + 2);
  }
  const document = emptyDocument();
  part.material = greyOf(document);
  addPart(document, part);
  return { document, notes: [], packed: true };
}

/** Text begins with a word that binary files may begin with as well; then what their length says counts. */
const isText = (bytes: Uint8Array, count: number): boolean =>
  new TextDecoder().decode(bytes.subarray(0, 5)) === "solid" && bytes.byteLength !== HEAD + EACH * count;

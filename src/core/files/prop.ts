/** Reading a GLB as a prop: is it sound, how large is it, what does it bring. */
import { InputError } from "../scene";
import { meshNodesOf, readGlb, solidPrimitives, trianglesIn } from "./gltf";
import type { PropBounds } from "../place";

/** What a prop's file brings. */
export interface PropFile {
  /** The box around all its vertices, in metres, as its scene stands. */
  bounds: PropBounds;
  triangles: number;
}

/**
 * Reads a prop's file and looks it over.
 *
 * @param name the file's name, for messages
 * @throws InputError when it is no GLB, is damaged, has no triangles, lacks positions or has ones that are no numbers
 */
export async function readPropFile(bytes: Uint8Array, name: string): Promise<PropFile> {
  const document = await readGlb(bytes, name);
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  let triangles = 0;
  for (const node of meshNodesOf(document)) {
    const m = node.getWorldMatrix();
    const part = node.getMesh()!.getName() || node.getName() || "its mesh";
    for (const primitive of solidPrimitives(node)) {
      const positions = primitive.getAttribute("POSITION");
      if (!positions || positions.getCount() === 0) {
        throw new InputError(`“${name}” cannot be used: “${part}” has no vertex positions.`);
      }
      const v: number[] = [0, 0, 0];
      for (let i = 0; i < positions.getCount(); i++) {
        positions.getElement(i, v);
        for (let axis = 0; axis < 3; axis++) {
          const x = m[axis] * v[0] + m[axis + 4] * v[1] + m[axis + 8] * v[2] + m[axis + 12];
          if (!Number.isFinite(x)) {
            throw new InputError(
              `“${name}” cannot be used: a vertex of “${part}” (number ${i + 1}) has a position that is no number.`,
            );
          }
          if (x < min[axis]) min[axis] = x;
          if (x > max[axis]) max[axis] = x;
        }
      }
      const indices = primitive.getIndices()?.getArray();
      const beyond = indices?.find((index: number) => index >= positions.getCount());
      if (beyond !== undefined) {
        throw new InputError(
          `“${name}” cannot be used: a triangle of “${part}” asks for vertex ${beyond}, and there are ${positions.getCount()}.`,
        );
      }
      triangles += trianglesIn(primitive);
    }
  }
  if (triangles === 0) throw new InputError(`“${name}” cannot be used: there are no triangles in it.`);
  return { bounds: { min, max }, triangles };
}

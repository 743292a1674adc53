/** Meshes of GLB files as plain arrays, for reckoning with them. */
import { convertPrimitiveToTriangles } from "@gltf-transform/functions";
import { atRest, boxOf, flatMesh, floatsOf, liesFar, meshNodesOf, readGlbFile } from "./gltf";
import type { Attribute, Shape, TriangleMesh } from "../mesh";
import type { mat4, Primitive } from "@gltf-transform/core";

/** A mesh whose middle lies so many times its size from the origin would be rounded too coarsely in single precision. */
const FAR = 100;

/**
 * Everything that a GLB shows, as one mesh of positions in metres as its scene stands: in double precision where it lies far
 * from the origin for its size. With it comes what moves it, where its file has that.
 *
 * @param name what to call the file in messages
 * @throws InputError when it is no GLB or is damaged
 */
export async function readTriangleMesh(bytes: Uint8Array, name: string): Promise<Shape> {
  const { document } = await readGlbFile(bytes, name);
  const rig = atRest(document);
  const shown = meshNodesOf(document);
  const { min, max } = boxOf(shown);
  const middle = min.map((low, axis) => (low + max[axis]) / 2);
  const far = liesFar({ min, max }, FAR);
  const [x, y, z] = far ? middle : [0, 0, 0];
  const near = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -x, -y, -z, 1] as mat4;
  const parts = flatMesh(document, shown, name, far ? near : undefined)
    .listPrimitives()
    .map(plainArrays);
  const position = new (far ? Float64Array : Float32Array)(parts.reduce((sum, part) => sum + part.position.length, 0));
  const index = new Uint32Array(parts.reduce((sum, part) => sum + part.index.length, 0));
  let [vertices, corners] = [0, 0];
  for (const part of parts) {
    position.set(part.position, 3 * vertices);
    for (let k = 0; k < part.index.length; k++) index[corners + k] = vertices + part.index[k];
    vertices += part.position.length / 3;
    corners += part.index.length;
  }
  if (far) for (let p = 0; p < position.length; p++) position[p] += middle[p % 3];
  return {
    position,
    index,
    ...(rig && { rig }),
    attributes: [joined(parts, "TEXCOORD_0", 2), joined(parts, "COLOR_0", 3), normalsOf(parts)].flatMap(
      (one) => one ?? [],
    ),
  };
}

/** An attribute of all parts, ones where a part has none; null where none has it. */
function joined(parts: readonly TriangleMesh[], name: string, width: number): Attribute | null {
  if (!parts.some(({ attributes }) => attributes.some((one) => one.name === name))) return null;
  const array = new Float32Array(parts.reduce((sum, part) => sum + (width * part.position.length) / 3, 0)).fill(1);
  let vertices = 0;
  for (const part of parts) {
    const count = part.position.length / 3;
    const own = part.attributes.find((one) => one.name === name);
    if (own) {
      // Colours may have a fourth number, which does not matter here.
      for (let v = 0; v < count; v++)
        for (let k = 0; k < width; k++) array[width * (vertices + v) + k] = own.array[own.width * v + k];
    }
    vertices += count;
  }
  return { name, width, array };
}

/** The normals of all parts; null where one has none. */
function normalsOf(parts: readonly TriangleMesh[]): Attribute | null {
  const all = parts.every(({ attributes }) => attributes.some(({ name }) => name === "NORMAL"));
  return all ? joined(parts, "NORMAL", 3) : null;
}

/** A primitive's vertices and triangles, whatever form it has them in. */
export function plainArrays(source: Primitive): TriangleMesh {
  const primitive = source.clone();
  if (primitive.getMode() !== 4) convertPrimitiveToTriangles(primitive);
  const floats = (name: string) => floatsOf(primitive.getAttribute(name)!);
  const position = floats("POSITION");
  const indices = primitive.getIndices();
  const index = indices
    ? Uint32Array.from(indices.getArray()!)
    : Uint32Array.from({ length: position.length / 3 }, (_, i) => i);
  const attributes = primitive
    .listSemantics()
    .filter((name) => name !== "POSITION")
    .map((name): Attribute => {
      const array = floats(name);
      return { name, width: primitive.getAttribute(name)!.getElementSize(), array };
    });
  primitive.dispose();
  return { position, index: index.subarray(0, index.length - (index.length % 3)), attributes };
}

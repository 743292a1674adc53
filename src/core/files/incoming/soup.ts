/** Faces as text formats have them, of any number of corners, made into a document with triangles. */
import { Document, Logger, type Material, type Primitive } from "@gltf-transform/core";
import earcut from "earcut";

/** A part of one material. A corner is a vertex of its own; normals, UVs and colours are there for all corners or for none. */
export interface Part {
  name: string;
  material: Material | null;
  /** 3 numbers a vertex, metres. */
  position: number[];
  normal: number[];
  uv: number[];
  /** Red, green, blue, linear, from 0 to 1. */
  colour: number[];
  index: number[];
}

export const emptyPart = (name: string, material: Material | null = null): Part => ({
  name,
  material,
  position: [],
  normal: [],
  uv: [],
  colour: [],
  index: [],
});

export function emptyDocument(): Document {
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT));
  document.createBuffer();
  document.createScene();
  return document;
}

/** Neutral, and light enough for its shading to be seen. */
export const greyOf = (document: Document): Material =>
  document
    .createMaterial("Grey")
    .setBaseColorFactor([0.58, 0.54, 0.46, 1])
    .setRoughnessFactor(0.85)
    .setMetallicFactor(0);

/** Texture coordinates that are counted from a picture's foot, as glTF counts them: from its top. */
export const upsideDown = (uv: readonly number[]): number[] => uv.map((value, i) => (i % 2 === 1 ? 1 - value : value));

/** Adds a part as a mesh of its own; one without triangles is left out. */
export function addPart(document: Document, part: Part): void {
  if (part.index.length === 0) return;
  const buffer = document.getRoot().listBuffers()[0];
  const accessor = (type: "SCALAR" | "VEC2" | "VEC3", array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const primitive: Primitive = document
    .createPrimitive()
    .setMaterial(part.material)
    .setAttribute("POSITION", accessor("VEC3", Float32Array.from(part.position)))
    .setIndices(accessor("SCALAR", Uint32Array.from(part.index)));
  const vertices = part.position.length / 3;
  const add = (name: string, values: readonly number[], width: 2 | 3): void => {
    if (values.length === width * vertices)
      primitive.setAttribute(name, accessor(width === 2 ? "VEC2" : "VEC3", Float32Array.from(values)));
  };
  add("NORMAL", part.normal, 3);
  add("TEXCOORD_0", part.uv, 2);
  add("COLOR_0", part.colour, 3);
  const mesh = document.createMesh(part.name).addPrimitive(primitive);
  document.getRoot().listScenes()[0].addChild(document.createNode(part.name).setMesh(mesh));
}

/** The sum of a polygon's corners' crosses: along its normal, twice as long as its area (M. E. Newell, 1974). */
export function newell(position: ArrayLike<number>, corners: readonly number[]): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  // Counted from the first corner, so that what is far from the origin loses nothing.
  const o = 3 * corners[0];
  for (let k = 0; k < corners.length; k++) {
    const [a, b] = [3 * corners[k], 3 * corners[(k + 1) % corners.length]];
    for (let axis = 0; axis < 3; axis++) {
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
      sum[axis] +=
        (position[a + u] - position[o + u]) * (position[b + v] - position[o + v]) -
        (position[a + v] - position[o + v]) * (position[b + u] - position[o + u]);
    }
  }
  return sum;
}

/**
 * A polygon cut into triangles by its ears, so that hollows stay hollow; which way it faces stays as well.
 *
 * @param position 3 numbers a vertex
 * @param corners vertices of the polygon, three or more, all round
 * @returns three of the corners' places in the list for each triangle
 */
export function trianglesOf(position: ArrayLike<number>, corners: readonly number[]): number[] {
  if (corners.length === 3) return [0, 1, 2];
  const normal = newell(position, corners);
  const most = normal.reduce((best, value, axis) => (Math.abs(value) > Math.abs(normal[best]) ? axis : best), 0);
  if (normal[most] === 0) return fan(corners.length);
  // Seen from where it faces, whichever axis that is nearest to.
  const [u, v] = normal[most] > 0 ? [(most + 1) % 3, (most + 2) % 3] : [(most + 2) % 3, (most + 1) % 3];
  const flat = corners.flatMap((corner) => [
    position[3 * corner + u] - position[3 * corners[0] + u],
    position[3 * corner + v] - position[3 * corners[0] + v],
  ]);
  return earcut(flat);
}

const fan = (n: number): number[] => Array.from({ length: n - 2 }, (_, i) => [0, i + 1, i + 2]).flat();

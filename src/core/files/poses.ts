/** Props that stand at stills of their clips, as meshes: one for each still, which all that stand in it share. */
import type { Accessor, Document, Mesh } from "@gltf-transform/core";
import type { MovedShape } from "../movers";
import type { Poses } from "../place";

/** The still of a prop among a dressing's, by its number; null for as at rest. */
export const momentOf = ({ stills, moments }: Poses, prop: number, pose: number): number | null => {
  const moment = moments[stills * prop + pose];
  return Number.isFinite(moment) ? moment : null;
};

/** What a mesh of a prop at a still is known by among those that are prepared. */
export const stillName = (prop: string, clip: number, moment: number): string => `${prop} still ${clip} ${moment}`;
/** A shape with a matrix (12 numbers, rows first) worked in; normals go by the cofactors, which is the inverse transpose but for a factor. */
export function preparedShape({ position, normal }: MovedShape, rows: readonly number[]): MovedShape {
  const cofactor = (r: number, c: number): number => {
    const [a, b, d, e] = [(r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3];
    return rows[4 * a + d] * rows[4 * b + e] - rows[4 * a + e] * rows[4 * b + d];
  };
  const turn = Array.from({ length: 9 }, (_, k) => cofactor(Math.floor(k / 3), k % 3));
  const whole = rows[0] * turn[0] + rows[1] * turn[1] + rows[2] * turn[2];
  const out = { position: new Float32Array(position.length), normal: new Float32Array(normal.length) };
  for (let p = 0; p < position.length; p += 3) {
    let squared = 0;
    for (let k = 0; k < 3; k++) {
      const [x, y, z] = [position[p], position[p + 1], position[p + 2]];
      out.position[p + k] = rows[4 * k] * x + rows[4 * k + 1] * y + rows[4 * k + 2] * z + rows[4 * k + 3];
      const n = turn[3 * k] * normal[p] + turn[3 * k + 1] * normal[p + 1] + turn[3 * k + 2] * normal[p + 2];
      out.normal[p + k] = n;
      squared += n * n;
    }
    const length = (Math.sqrt(squared) || 1) * (whole < 0 ? -1 : 1);
    for (let k = 0; k < 3; k++) out.normal[p + k] /= length;
  }
  return out;
}

/** A mesh in another shape: all that it is made of otherwise is shared. */
export function meshAt(document: Document, base: Mesh, shape: MovedShape): Mesh {
  const mesh = document.createMesh(base.getName());
  let from = 0;
  for (const primitive of base.listPrimitives()) {
    const own = primitive.clone();
    const count = primitive.getAttribute("POSITION")!.getCount();
    for (const [name, values] of [
      ["POSITION", shape.position],
      ["NORMAL", shape.normal],
    ] as const) {
      const old = primitive.getAttribute(name);
      if (old) own.setAttribute(name, vectors(document, old, values.slice(3 * from, 3 * (from + count))));
    }
    own.setAttribute("TANGENT", null);
    mesh.addPrimitive(own);
    from += count;
  }
  return mesh;
}

const vectors = (document: Document, like: Accessor, array: Float32Array): Accessor =>
  document
    .createAccessor()
    .setType("VEC3")
    .setArray(array as Float32Array<ArrayBuffer>)
    .setBuffer(like.getBuffer());

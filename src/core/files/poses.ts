/** Meshes in other shapes than at rest: one for each still of a clip, which all that stand in it share; surfaces that move. */
import type { Accessor, Document, Mesh } from "@gltf-transform/core";
import type { MovedShape } from "../movers";
import type { Moving } from "./motion";

/**
 * A mesh with the shapes that it has in each frame, or in the only one for good; as it is where they are of something else.
 *
 * @param shapes of all its primitives' vertices, one behind the other
 */
export function takenOn(
  document: Document,
  mesh: Mesh,
  shapes: readonly MovedShape[] | null,
  moving: Moving | null,
): Mesh {
  const vertices = mesh.listPrimitives().reduce((sum, one) => sum + one.getAttribute("POSITION")!.getCount(), 0);
  if (!shapes || shapes[0].position.length !== 3 * vertices) return mesh;
  if (!moving || shapes.length === 1) return meshAt(document, mesh, shapes[0], true);
  moving.shaped(mesh, shapes);
  return mesh;
}

/**
 * A mesh in another shape: all that it is made of otherwise is shared.
 *
 * @param smooth whether it gets normals even where it had none
 */
export function meshAt(document: Document, base: Mesh, shape: MovedShape, smooth = false): Mesh {
  const mesh = document.createMesh(base.getName());
  let from = 0;
  for (const primitive of base.listPrimitives()) {
    const own = primitive.clone();
    const count = primitive.getAttribute("POSITION")!.getCount();
    for (const [name, values] of [
      ["POSITION", shape.position],
      ["NORMAL", shape.normal],
    ] as const) {
      const old = primitive.getAttribute(name) ?? (smooth ? primitive.getAttribute("POSITION") : null);
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

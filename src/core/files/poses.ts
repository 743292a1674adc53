/** Props that stand at stills of their clips, as meshes: one for each still, which all that stand in it share. */
import type { Accessor, Document, Mesh } from "@gltf-transform/core";
import type { MovedShape } from "../movers";

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

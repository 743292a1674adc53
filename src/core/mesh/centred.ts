/** A mesh as three-mesh-bvh wants it. */
import { Box3, BufferAttribute, BufferGeometry, Vector3 } from "three";

/**
 * The mesh counted from its middle, since its tree reckons in single precision.
 *
 * @param position of vertices: 3v, metres
 * @param index of triangles: 3m
 * @param size a factor by which it is made larger about its middle
 */
export function centred(
  position: ArrayLike<number>,
  index: Uint32Array,
  size = 1,
): { geometry: BufferGeometry; local: Float32Array; middle: Vector3 } {
  const box = new Box3().setFromArray(position);
  const middle = box.isEmpty() ? new Vector3() : box.getCenter(new Vector3());
  const at = middle.toArray();
  const local = new Float32Array(position.length);
  for (let p = 0; p < local.length; p++) local[p] = size * (position[p] - at[p % 3]);
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(local, 3));
  geometry.setIndex(new BufferAttribute(index.slice(), 1));
  return { geometry, local, middle };
}

/** Props as they are prepared. */
import type { Shape, TriangleMesh } from "@/core/mesh";

/** @param m a matrix of 12 numbers, rows first */
export function prepareMesh(mesh: Shape, m: readonly number[]): TriangleMesh {
  const position = new Float32Array(mesh.position.length);
  for (let p = 0; p < position.length; p += 3) {
    for (let axis = 0; axis < 3; axis++) {
      const r = 4 * axis;
      position[p + axis] =
        m[r] * mesh.position[p] + m[r + 1] * mesh.position[p + 1] + m[r + 2] * mesh.position[p + 2] + m[r + 3];
    }
  }
  return { ...mesh, position };
}

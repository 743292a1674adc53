/** A box that stands on its place: closed, each side a face of its own. */
import type { TriangleMesh } from "../mesh";
import type { Box } from "./schema";

/** The six faces: the axis that each looks along, and to which end of it. */
const FACES = [0, 1, 2].flatMap((axis) => [1, -1].map((end): [number, number] => [axis, end]));

export function box({ width, height, depth }: Box): TriangleMesh {
  const half = [width / 2, height / 2, depth / 2];
  const position: number[] = [];
  const uv: number[] = [];
  const index: number[] = [];
  for (const [axis, end] of FACES) {
    const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
    const first = position.length / 3;
    for (const [a, b] of [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ]) {
      const corner = [0, 0, 0];
      corner[axis] = end * half[axis];
      corner[u] = end * a * half[u];
      corner[v] = b * half[v];
      position.push(corner[0], corner[1] + half[1], corner[2]);
      uv.push((a + 1) / 2, (b + 1) / 2);
    }
    index.push(first, first + 1, first + 2, first, first + 2, first + 3);
  }
  return {
    position: Float32Array.from(position),
    index: Uint32Array.from(index),
    attributes: [{ name: "TEXCOORD_0", width: 2, array: Float32Array.from(uv) }],
  };
}

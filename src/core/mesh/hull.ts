/** The corners of the hull of a mesh: whichever way one looks, one of them is the farthest. */
import facesOfHull from "convex-hull";

/**
 * @param position of vertices: 3v, metres
 * @returns 3h numbers; all vertices, each once, where they lie in a plane and so have no hull
 */
export function hullOf(position: ArrayLike<number>): Float32Array {
  const once = new Map<string, [number, number, number]>();
  for (let p = 0; p + 2 < position.length; p += 3) {
    const point: [number, number, number] = [position[p], position[p + 1], position[p + 2]];
    once.set(point.join(" "), point);
  }
  const points = [...once.values()];
  const corners = new Set(facesOfHull(points).flat());
  return Float32Array.from((corners.size > 3 ? [...corners].map((i) => points[i]) : points).flat());
}

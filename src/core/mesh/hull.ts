/** The corners of the hull of a mesh: whichever way one looks, one of them is the farthest. */
import { Vector3 } from "three";
import { ConvexHull } from "three/examples/jsm/math/ConvexHull.js";

/** Points that lie this close to a plane, as a share of how far they reach, lie in it. */
const FLAT = 1e-7;

/**
 * @param position of vertices: 3v, metres
 * @returns 3h numbers; all vertices, each once, where they lie in a plane and so have no hull
 */
export function hullOf(position: ArrayLike<number>): Float32Array {
  const once = new Map<string, Vector3>();
  for (let p = 0; p + 2 < position.length; p += 3) {
    const point = new Vector3(position[p], position[p + 1], position[p + 2]);
    once.set(point.toArray().join(" "), point);
  }
  const points = [...once.values()];
  const corners = isFlat(points) ? points : cornersOf(points);
  return Float32Array.from(corners.flatMap((point) => point.toArray()));
}

/** Quickhull (C. B. Barber, D. P. Dobkin, H. Huhdanpaa, 1996). */
function cornersOf(points: readonly Vector3[]): Vector3[] {
  const corners = new Set<Vector3>();
  for (const face of new ConvexHull().setFromPoints([...points]).faces) {
    let edge = face.edge;
    do {
      corners.add(edge.head().point);
      edge = edge.next;
    } while (edge !== face.edge);
  }
  return points.filter((point) => corners.has(point));
}

/** Whether points lie in a plane, or on a line, or are one. */
function isFlat(points: readonly Vector3[]): boolean {
  if (points.length < 4) return true;
  const farthest = (by: (point: Vector3) => number) =>
    points.reduce((most, point) => (by(point) > by(most) ? point : most));
  const [first] = points;
  const second = farthest((point) => point.distanceToSquared(first));
  const along = second.clone().sub(first);
  const aside = (point: Vector3) => point.clone().sub(first).cross(along);
  const third = farthest((point) => aside(point).lengthSq());
  const normal = aside(third).normalize();
  const reach = along.length();
  return points.every((point) => Math.abs(point.clone().sub(first).dot(normal)) <= FLAT * reach);
}

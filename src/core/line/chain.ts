/** Distances to a chain of straight pieces. */
import { shareOnSegment } from "../math";

/** The squared distance of a point from the nearest place of a chain, 3n numbers; `way`, if given, gets the way there. */
export function squaredToChain(points: Float64Array, x: number, y: number, z: number, way?: Float64Array): number {
  let best = Infinity;
  for (let p = 0; p < points.length - 3; p += 3) {
    const dx = points[p + 3] - points[p];
    const dy = points[p + 4] - points[p + 1];
    const dz = points[p + 5] - points[p + 2];
    const ex = x - points[p];
    const ey = y - points[p + 1];
    const ez = z - points[p + 2];
    const share = shareOnSegment(ex, ey, ez, dx, dy, dz);
    const fx = share * dx - ex;
    const fy = share * dy - ey;
    const fz = share * dz - ez;
    const far = fx * fx + fy * fy + fz * fz;
    if (far >= best) continue;
    best = far;
    if (way) {
      way[0] = fx;
      way[1] = fy;
      way[2] = fz;
    }
  }
  return best;
}

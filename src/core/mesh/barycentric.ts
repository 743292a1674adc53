/** Where a point lies in a triangle. */
import type { Points } from "./facets";

/** Barycentric weights (3) of the point of a triangle that is nearest to (x, y, z); all on the first corner where it has no area. */
export function weightsIn(
  { position: P, index }: Points,
  t: number,
  x: number,
  y: number,
  z: number,
  out: Float64Array,
): void {
  const a = 3 * index[3 * t];
  const b = 3 * index[3 * t + 1];
  const c = 3 * index[3 * t + 2];
  const ux = P[b] - P[a];
  const uy = P[b + 1] - P[a + 1];
  const uz = P[b + 2] - P[a + 2];
  const vx = P[c] - P[a];
  const vy = P[c + 1] - P[a + 1];
  const vz = P[c + 2] - P[a + 2];
  const px = x - P[a];
  const py = y - P[a + 1];
  const pz = z - P[a + 2];
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const uv = ux * vx + uy * vy + uz * vz;
  const pu = px * ux + py * uy + pz * uz;
  const pv = px * vx + py * vy + pz * vz;
  const squared = uu * vv - uv * uv;
  const inverse = squared > 0 ? 1 / squared : 0;
  out[1] = (vv * pu - uv * pv) * inverse;
  out[2] = (uu * pv - uv * pu) * inverse;
  out[0] = 1 - out[1] - out[2];
}

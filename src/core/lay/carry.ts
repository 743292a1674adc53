/** Lines that lie on surfaces go along with them: bound to the meshes at rest, carried to where those are. */
import { bind, carryDirection, carryPoints, UNBOUND, type Bound, type Met, type WorldMesh } from "../mesh";
import type { LaidTrack } from "../line";

export interface BoundTrack {
  track: LaidTrack;
  bound: Bound;
  /** The meshes at rest that it is bound to. */
  rest: readonly WorldMesh[];
}

/** Up turns smoothly with the surface where it stood as square to it as this at rest; else it turns with its triangle. */
const SMOOTH = Math.cos(0.05);

/** What of a line's track lies on which of some meshes at rest, and where on it: each point on the nearest. */
export function boundTrack(track: LaidTrack, rest: readonly WorldMesh[]): BoundTrack {
  const { points } = track;
  const which = new Uint16Array(points.length / 3).fill(UNBOUND);
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  for (let i = 0; i < which.length; i++) {
    let least = Infinity;
    rest.forEach((mesh, k) => {
      const [x, y, z] = [points[3 * i], points[3 * i + 1], points[3 * i + 2]];
      mesh.tree.nearest(x, y, z, met);
      const far = met.triangle < 0 ? Infinity : Math.hypot(met.x - x, met.y - y, met.z - z);
      if (far < least) [least, which[i]] = [far, k];
    });
  }
  return { track, bound: bind(rest, which, points, null), rest };
}

/** The track where its meshes are at a moment. */
export function carriedTrack({ track, bound, rest }: BoundTrack, now: readonly WorldMesh[]): LaidTrack {
  const points = track.points.slice();
  carryPoints(bound, now, points);
  const normals = track.normals.slice();
  const [up, there, turned] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (let i = 0; i < bound.count; i++) {
    const [p, k, t] = [3 * bound.slot[i], bound.which[i], bound.triangle[i]];
    const own = track.normals.subarray(p, p + 3);
    rest[k].smoothNormal(t, track.points[p], track.points[p + 1], track.points[p + 2], up);
    if (own[0] * up[0] + own[1] * up[1] + own[2] * up[2] >= SMOOTH) {
      now[k].smoothNormal(t, points[p], points[p + 1], points[p + 2], there);
      normals.set(there, p);
      continue;
    }
    carryDirection(rest[k], now[k], t, own, turned);
    const length = Math.hypot(turned[0], turned[1], turned[2]);
    if (length > 0) for (let axis = 0; axis < 3; axis++) normals[p + axis] = turned[axis] / length;
  }
  return { ...track, points, normals };
}

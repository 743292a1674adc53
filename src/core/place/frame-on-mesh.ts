/** Where a place on a mesh is, and how the mesh lies there, wherever it has gone: what ties hold on to. */
import { bind, type Bound, type WorldMesh } from "../mesh";
import { carriedFrames } from "./carried-frames";
import type { Quat, Vec3 } from "../math";

/** A place bound to a mesh, on it: the nearest one. */
export function boundPlace(mesh: WorldMesh, point: Vec3): Bound {
  const bound = bind([mesh], Uint16Array.of(0), Float64Array.from(point), null, [[0, 0, 1]]);
  bound.height.fill(0);
  return bound;
}

/** The frame of a bound place where the mesh is now; null where there is no triangle to hold on to. */
export function frameOnMesh(bound: Bound, now: WorldMesh): { position: Vec3; rotation: Quat } | null {
  if (bound.count === 0) return null;
  // Counted from a corner of its triangle, so that nothing is lost far from the origin.
  const [x, y, z] = [0, 1, 2].map((axis) => now.position[bound.corner[0] + axis]);
  const [feet, rotation] = [new Float32Array(3), new Float32Array(4)];
  carriedFrames({ bound, meshes: [now] }, [x, y, z], { all: 0, each: null }, feet, rotation);
  const [a, b, c, d] = rotation;
  const length = Math.hypot(a, b, c, d);
  return {
    position: [x + feet[0], y + feet[1], z + feet[2]],
    rotation: [a / length, b / length, c / length, d / length],
  };
}

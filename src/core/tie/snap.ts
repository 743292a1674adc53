/** *Snap points*: places of a prop that others hang by, and how two that meet lie to each other. */
import { between, conjugate, fromAxisAngle, multiply, normalize, rotate, scale, type Quat, type Vec3 } from "../math";
import type { Frame } from "./carry";

export interface SnapPoint {
  name: string;
  /** In the prop's own metres, as it is prepared. */
  position: Vec3;
  /** Unit. */
  direction: Vec3;
  free: boolean;
  /** Whether the artist has set it; others come by themselves. */
  own: boolean;
}

/** How a prop stands: where, how turned, how large by each of its axes, below zero across where it is mirrored. */
export interface Standing extends Frame {
  scale: Vec3;
}

/** Where a snap point of a prop is that stands somewhere: its up is the snap point's direction. */
export function snapFrame({ position, rotation, scale: k }: Standing, snap: SnapPoint): Frame {
  const at = snap.position.map((x, axis) => x * k[axis]) as unknown as Vec3;
  const along = normalize(snap.direction.map((x, axis) => x * k[axis]) as unknown as Vec3, [0, 1, 0]);
  const [x, y, z] = rotate(rotation, at);
  return {
    position: [position[0] + x, position[1] + y, position[2] + z],
    rotation: multiply(rotation, between([0, 1, 0], along)),
  };
}

/**
 * How a prop stands that hangs by one of its snap points on another: both at one place, directions opposed, turned about them as
 * little as can be from how it stands now; in quarter turns against the other where that does not turn freely.
 *
 * @param turn how much further it is turned about the other's direction, radians
 */
export function hungBy(standing: Standing, own: SnapPoint, on: Frame, free: boolean, turn = 0): Frame {
  const up = rotate(on.rotation, [0, 1, 0]);
  const now = snapFrame(standing, own);
  let by = between(rotate(now.rotation, [0, 1, 0]), scale(up, -1));
  if (!free) by = multiply(fromAxisAngle(up, toQuarter(multiply(by, now.rotation), on.rotation)), by);
  by = multiply(fromAxisAngle(up, turn), by);
  const rotation = unitQuat(multiply(by, standing.rotation));
  const there = snapFrame({ ...standing, rotation, position: [0, 0, 0] }, own).position;
  return { position: on.position.map((x, k) => x - there[k]) as unknown as Vec3, rotation };
}

/** By how much what points against a frame's up is to be turned about that until both are a whole number of quarters apart. */
function toQuarter(turned: Quat, frame: Quat): number {
  const [x, , z] = rotate(conjugate(frame), rotate(turned, [1, 0, 0]));
  const angle = Math.atan2(z, x);
  return angle - Math.round(angle / (Math.PI / 2)) * (Math.PI / 2);
}

function unitQuat(q: Quat): Quat {
  const length = Math.hypot(...q);
  return [q[0] / length, q[1] / length, q[2] / length, q[3] / length];
}

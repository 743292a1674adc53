/** Unit quaternions `x y z w`, glTF's order, as tuples for a few and at offsets of typed arrays for many. */
import { anyPerpendicular, cross, dot, type Numbers, type Vec3 } from "./vector";

export type Quat = readonly [x: number, y: number, z: number, w: number];

/** The rotation by `angle` radians about unit `axis`, by the right-hand rule. */
export function fromAxisAngle(axis: Vec3, angle: number): Quat {
  const s = Math.sin(angle / 2);
  return [axis[0] * s, axis[1] * s, axis[2] * s, Math.cos(angle / 2)];
}

/** The rotation back. */
/** The least turn that takes one direction to another, both of length one; about any axis square to them where they are opposed. */
export function between(a: Vec3, b: Vec3): Quat {
  const w = 1 + dot(a, b);
  if (w > 1e-9) {
    const [x, y, z] = cross(a, b);
    const length = Math.hypot(x, y, z, w);
    return [x / length, y / length, z / length, w / length];
  }
  const [x, y, z] = anyPerpendicular(a);
  return [x, y, z, 0];
}

export const conjugate = ([x, y, z, w]: Quat): Quat => [-x, -y, -z, w];

/** The Hamilton product: first `b`, then `a`. */
export const multiply = (a: Quat, b: Quat): Quat => [
  a[3] * b[0] + a[0] * b[3] + a[1] * b[2] - a[2] * b[1],
  a[3] * b[1] - a[0] * b[2] + a[1] * b[3] + a[2] * b[0],
  a[3] * b[2] + a[0] * b[1] - a[1] * b[0] + a[2] * b[3],
  a[3] * b[3] - a[0] * b[0] - a[1] * b[1] - a[2] * b[2],
];

/** `v` turned by unit quaternion `q`. */
export function rotate(q: Quat, v: Vec3): Vec3 {
  const [x, y, z, w] = q;
  const tx = 2 * (y * v[2] - z * v[1]);
  const ty = 2 * (z * v[0] - x * v[2]);
  const tz = 2 * (x * v[1] - y * v[0]);
  return [v[0] + w * tx + y * tz - z * ty, v[1] + w * ty + z * tx - x * tz, v[2] + w * tz + x * ty - y * tx];
}

/** Writes many points (3n) `scale` times as large, turned by a unit quaternion and moved; works in place. */
export function writeTurned(
  out: Numbers,
  points: ArrayLike<number>,
  position: Vec3,
  [x, y, z, w]: Quat,
  scale: number,
): void {
  const [px, py, pz] = position;
  for (let p = 0; p < points.length; p += 3) {
    const a = scale * points[p];
    const b = scale * points[p + 1];
    const c = scale * points[p + 2];
    const tx = 2 * (y * c - z * b);
    const ty = 2 * (z * a - x * c);
    const tz = 2 * (x * b - y * a);
    out[p] = px + a + w * tx + y * tz - z * ty;
    out[p + 1] = py + b + w * ty + z * tx - x * tz;
    out[p + 2] = pz + c + w * tz + x * ty - y * tx;
  }
}

/**
 * The turn by three angles (radians) about a frame's own directions: first about `along` (+Z), then `across` (+X), then
 * `up` (+Y), each about the frame's fixed axis. Written out from the product of the three half-angle quaternions.
 */
export function fromTurns(along: number, across: number, up: number): Quat {
  return multiply(
    fromAxisAngle([0, 1, 0], up),
    multiply(fromAxisAngle([1, 0, 0], across), fromAxisAngle([0, 0, 1], along)),
  );
}

/** The three angles that {@link fromTurns} makes a rotation of; where it looks straight up or down, all the turn is about up. */
export function turnsOf([x, y, z, w]: Quat): { along: number; across: number; up: number } {
  const sine = Math.max(-1, Math.min(1, 2 * (w * x - y * z)));
  const across = Math.asin(sine);
  if (Math.abs(sine) > 1 - 1e-9)
    return { along: 0, across, up: Math.atan2(2 * (w * y - x * z), 1 - 2 * (y * y + z * z)) };
  return {
    along: Math.atan2(2 * (w * z + x * y), 1 - 2 * (x * x + z * z)),
    across,
    up: Math.atan2(2 * (w * y + x * z), 1 - 2 * (x * x + y * y)),
  };
}

/** The angle in radians, 0 to π, between two rotations. Signs of the quaternions do not matter. */
export function angleBetween(a: Quat, b: Quat): number {
  const [x, y, z, w] = multiply(a, conjugate(b));
  return 2 * Math.atan2(Math.hypot(x, y, z), Math.abs(w));
}

/**
 * Writes at `out[4i…]` the rotation that takes +X to (xx, xy, xz), +Y to (yx, yy, yz) and +Z to (zx, zy, zz), three
 * orthonormal right-handed directions. Branches on the largest of the four components (S. W. Shepperd, *Quaternion from
 * Rotation Matrix*, Journal of Guidance and Control 1(3), 1978), so it never divides by a small number.
 */
export function writeFromBasis(
  out: Numbers,
  i: number,
  xx: number,
  xy: number,
  xz: number,
  yx: number,
  yy: number,
  yz: number,
  zx: number,
  zy: number,
  zz: number,
): void {
  const o = 4 * i;
  const trace = xx + yy + zz;
  if (trace > 0) {
    const s = 0.5 / Math.sqrt(trace + 1);
    out[o] = (yz - zy) * s;
    out[o + 1] = (zx - xz) * s;
    out[o + 2] = (xy - yx) * s;
    out[o + 3] = 0.25 / s;
  } else if (xx > yy && xx > zz) {
    const s = 2 * Math.sqrt(Math.max(0, 1 + xx - yy - zz));
    out[o] = 0.25 * s;
    out[o + 1] = (yx + xy) / s;
    out[o + 2] = (zx + xz) / s;
    out[o + 3] = (yz - zy) / s;
  } else if (yy > zz) {
    const s = 2 * Math.sqrt(Math.max(0, 1 + yy - xx - zz));
    out[o] = (yx + xy) / s;
    out[o + 1] = 0.25 * s;
    out[o + 2] = (zy + yz) / s;
    out[o + 3] = (zx - xz) / s;
  } else {
    const s = 2 * Math.sqrt(Math.max(0, 1 + zz - xx - yy));
    out[o] = (zx + xz) / s;
    out[o + 1] = (zy + yz) / s;
    out[o + 2] = 0.25 * s;
    out[o + 3] = (xy - yx) / s;
  }
}

/** The quaternion at index `i` of an array of 4n numbers. */
export const quatAt = (array: ArrayLike<number>, i: number): Quat => [
  array[4 * i],
  array[4 * i + 1],
  array[4 * i + 2],
  array[4 * i + 3],
];

/**
 * Vectors of three numbers, as plain tuples for a few and as offsets into typed arrays for many.
 *
 * Functions on tuples return new ones and are for borders and set-up; hot loops work in place on arrays.
 */

export type Vec3 = readonly [x: number, y: number, z: number];

/** Any array of numbers that a kernel may read or write. */
export type Numbers = Float64Array | Float32Array | number[];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const lengthOf = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);
export const distance = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The vector at unit length; the zero vector gives `otherwise`. */
export function normalize(a: Vec3, otherwise: Vec3 = [0, 0, 1]): Vec3 {
  const length = lengthOf(a);
  return length > 0 ? scale(a, 1 / length) : otherwise;
}

/** The vector at index `i` of an array of 3n numbers. */
export const vectorAt = (array: ArrayLike<number>, i: number): Vec3 => [
  array[3 * i],
  array[3 * i + 1],
  array[3 * i + 2],
];

/** A unit vector perpendicular to unit `t`: the world axis that leans on it least, made perpendicular. */
export function anyPerpendicular(t: Vec3): Vec3 {
  const [x, y, z] = [Math.abs(t[0]), Math.abs(t[1]), Math.abs(t[2])];
  const axis: Vec3 = y <= x && y <= z ? [0, 1, 0] : z <= x ? [0, 0, 1] : [1, 0, 0];
  return normalize(subtract(axis, scale(t, dot(axis, t))));
}

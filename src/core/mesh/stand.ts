/** Points where a mesh stands, and in its own coordinates; metres. */
import { conjugate, rotate, type Vec3 } from "../math";
import type { Stand } from "./world-mesh";

/** Where a point of its own comes to lie. */
export function fromStand({ position, rotation, scale }: Stand, [x, y, z]: Vec3): Vec3 {
  const [u, v, w] = rotate(rotation, [scale * x, scale * y, scale * z]);
  return [position[0] + u, position[1] + v, position[2] + w];
}

/** The other way round. */
export function intoOwn({ position, rotation, scale }: Stand, [x, y, z]: Vec3): Vec3 {
  const [u, v, w] = rotate(conjugate(rotation), [x - position[0], y - position[1], z - position[2]]);
  return [u / scale, v / scale, w / scale];
}

/** How what is held goes along: as one piece with what holds it, by whatever that has turned and moved since it took hold. */
import { conjugate, multiply, rotate, type Quat, type Vec3 } from "../math";

/** A place with directions. */
export interface Frame {
  position: Vec3;
  rotation: Quat;
}

/** *A rigid motion*: turned about a point, which is moved to another. */
export interface Carry {
  turn: Quat;
  from: Vec3;
  to: Vec3;
}

/** What moves less than this, metres and sines, has not moved. */
const SLIGHT = 1e-9;

/** The motion that takes a frame to another; null where it is none. */
export function carryBetween(stood: Frame, now: Frame): Carry | null {
  const turn = multiply(now.rotation, conjugate(stood.rotation));
  const moved = Math.hypot(...now.position.map((x, k) => x - stood.position[k]));
  if (moved < SLIGHT && Math.hypot(turn[0], turn[1], turn[2]) < SLIGHT) return null;
  return { turn, from: stood.position, to: now.position };
}

export function carriedPoint({ turn, from, to }: Carry, [x, y, z]: Vec3): Vec3 {
  const [a, b, c] = rotate(turn, [x - from[0], y - from[1], z - from[2]]);
  return [to[0] + a, to[1] + b, to[2] + c];
}

export const carriedTurn = ({ turn }: Carry, rotation: Quat): Quat => {
  const q = multiply(turn, rotation);
  const length = Math.hypot(...q);
  return [q[0] / length, q[1] / length, q[2] / length, q[3] / length];
};

/** A frame carried along. */
export const carriedFrame = (carry: Carry, { position, rotation }: Frame): Frame => ({
  position: carriedPoint(carry, position),
  rotation: carriedTurn(carry, rotation),
});

/** The motion back. */
export const back = ({ turn, from, to }: Carry): Carry => ({ turn: conjugate(turn), from: to, to: from });

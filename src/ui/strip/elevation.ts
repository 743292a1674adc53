/**
 * *How placements look from the side of their line*: along it to the right, up upwards, seen from its right. Turns are taken in
 * steps, so that a few pictures do for many placements.
 */
import { fromTurns, multiply, quatAt, rotate, turnsOf, writeFromBasis, type Quat } from "@/core/math";
import type { GuideLine } from "@/core/line";
import type { PropBounds } from "@/core/mesh";
import { FLAG, type Dressing, type Placements } from "@/core/place";

/** Pictures are of turns in steps of so much, radians; quarter turns are among them. */
export const TURN_STEP = Math.PI / 12;

/** How a placement stands against its line. */
export interface Pose {
  /** Its turn in the line's frame, in whole steps. */
  turn: Quat;
  mirrored: boolean;
  /** What poses that look alike have in common. */
  key: string;
  /** How high its box is as it stands, metres. */
  tall: number;
}

/**
 * The line's frames at some placements (4n): upright where up comes from the world, else the line's own.
 */
export function sideFrames(guide: GuideLine, { up }: Pick<Dressing["stance"], "up">, at: Float64Array): Float64Array {
  const n = at.length;
  const own = up === "line" || up === "roll" || up === "normal";
  const position = new Float64Array(3 * n);
  const rotation = new Float64Array(4 * n);
  guide.frames(own ? up : "world", at, n, position, rotation);
  if (own) return rotation;
  for (let i = 0; i < n; i++) {
    const [x, , z] = rotate(quatAt(rotation, i), [0, 0, 1]);
    const level = Math.hypot(x, z);
    // Straight up or down there is no level way forward.
    if (level < 1e-3) continue;
    const [fx, fz] = [x / level, z / level];
    writeFromBasis(rotation, i, fz, 0, -fx, 0, 1, 0, fx, 0, fz);
  }
  return rotation;
}

/** @param frame that of its line there */
export function poseOf(p: Placements, i: number, frame: Quat, { min, max }: PropBounds): Pose {
  const [fx, fy, fz, fw] = frame;
  const exact = multiply([-fx, -fy, -fz, fw], quatAt(p.rotation, i));
  const { along, across, up } = turnsOf(exact);
  const steps = [along, across, up].map((turn) => Math.round(turn / TURN_STEP) + 0);
  const mirrored = (p.flags[i] & FLAG.mirrored) !== 0;
  const half = [0, 1, 2].map((k) => ((max[k] - min[k]) / 2) * p.scale[3 * i + k]);
  const ups = [rotate(exact, [1, 0, 0])[1], rotate(exact, [0, 1, 0])[1], rotate(exact, [0, 0, 1])[1]];
  const tall = 2 * ups.reduce((sum, y, k) => sum + Math.abs(y) * half[k], 0);
  const [a, b, c] = steps.map((step) => step * TURN_STEP);
  return { turn: fromTurns(a, b, c), mirrored, key: `${steps.join(" ")}${mirrored ? " m" : ""}`, tall };
}

/**
 * *Banking*: what goes along a line leans into its bends as a gull or a rider does, so that weight and the pull outwards are
 * felt straight down: the tangent of the lean is v²κ / g, for a speed v and the curvature κ of the way as seen from above.
 */
import type { Curve } from "../../line";
import type { Spacing } from "../spacing/schema";
import type { Stance } from "./schema";

/** How fast things go along their lines at the moment, and how they lean for it. */
export interface Bank {
  /** Metres a second. */
  speed: number;
  /** How often all along the line, a second. */
  rounds: number;
  /** No more than this to either side, radians. */
  most: number;
  /** They lean for where they were so long ago, seconds. */
  after: number;
}

/** Null where nothing leans. */
export function bankOf(
  { banks, bankMost, bankAfter }: Pick<Stance, "banks" | "bankMost" | "bankAfter">,
  { gone }: Pick<Spacing, "gone">,
): Bank | null {
  const { speed = 0, rate = 0 } = gone ?? {};
  if (!banks || (speed === 0 && rate === 0)) return null;
  return { speed, rounds: rate, most: bankMost, after: bankAfter };
}

const GRAVITY = 9.80665;

/** The bend is taken over what is gone through in so many seconds, but not over less than this, metres: corners are bends too. */
const SECONDS = 0.5;
const LEAST = 0.05;

/** What the tangents are written into, for each place the way before it and behind it. */
let room = { at: new Float64Array(0), position: new Float64Array(0), tangent: new Float64Array(0) };

function roomFor(n: number): typeof room {
  if (room.at.length < n)
    room = { at: new Float64Array(n), position: new Float64Array(3 * n), tangent: new Float64Array(3 * n) };
  return room;
}

/**
 * Rolls frames about their own forward.
 *
 * @param at arc lengths: n
 * @param rotation quaternions, changed in place: 4n
 */
export function bankInto(
  rotation: Float64Array,
  curve: Curve,
  { speed, rounds, most, after }: Bank,
  at: Float64Array,
  n: number,
): void {
  const v = speed + rounds * curve.length;
  if (v === 0 || !(curve.length > 0)) return;
  const reach = Math.min(curve.length / 8, Math.max(LEAST, (Math.abs(v) * SECONDS) / 2));
  const { at: places, position, tangent } = roomFor(2 * n);
  for (let i = 0; i < n; i++) {
    const here = at[i] - v * after;
    places[2 * i] = here - reach;
    places[2 * i + 1] = here + reach;
  }
  curve.sample(places, 2 * n, position, tangent);
  for (let i = 0; i < n; i++) {
    const p = 6 * i;
    const [ax, az, bx, bz] = [tangent[p], tangent[p + 2], tangent[p + 3], tangent[p + 5]];
    // Seen from above, counter-clockwise; what goes straight up or down has no heading.
    const bend = Math.atan2(az * bx - ax * bz, az * bz + ax * bx);
    const lean = Math.atan((v * v * bend) / (2 * reach) / GRAVITY);
    rollBy(rotation, 4 * i, -Math.max(-most, Math.min(most, lean)));
  }
}

/** Turns a frame about its own +Z. */
function rollBy(q: Float64Array, o: number, angle: number): void {
  const [s, c] = [Math.sin(angle / 2), Math.cos(angle / 2)];
  const [x, y, z, w] = [q[o], q[o + 1], q[o + 2], q[o + 3]];
  q[o] = x * c + y * s;
  q[o + 1] = y * c - x * s;
  q[o + 2] = z * c + w * s;
  q[o + 3] = w * c - z * s;
}

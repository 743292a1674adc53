/** Roll: an angle at some knots that turns the frame about the line's direction, eased from one to the next between them. */
import { arcLengthWithin, type Curve } from "./curve";
import type { Line } from "./schema";

/** *The roll along a line*: arc lengths of the knots that have one, rising, and the angles there in radians. */
export interface Roll {
  at: Float64Array;
  angle: Float64Array;
  length: number;
  closed: boolean;
}

/** The line's roll, or null where no knot has any. */
export function rollOf(line: Line, { knotAt, length, closed }: Curve): Roll | null {
  const rolled = line.knots.flatMap(({ roll }, i) =>
    roll !== undefined && i < knotAt.length ? [{ at: knotAt[i], roll }] : [],
  );
  if (rolled.every(({ roll }) => roll === 0)) return null;
  return {
    at: Float64Array.from(rolled, ({ at }) => at),
    angle: Float64Array.from(rolled, ({ roll }) => roll),
    length,
    closed,
  };
}

/** The angle at an arc length: held before the first and after the last knot of an open line, going round on a closed one. */
export function rollAt(roll: Roll, s: number): number {
  const { at, angle, length, closed } = roll;
  const n = at.length;
  const place = arcLengthWithin(roll, s);
  let i = n - 1;
  while (i >= 0 && at[i] > place) i--;
  if (!closed && (i < 0 || i === n - 1)) return angle[i < 0 ? 0 : n - 1];
  const from = i < 0 ? n - 1 : i;
  const to = i < 0 || i === n - 1 ? 0 : i + 1;
  const start = i < 0 ? at[from] - length : at[from];
  const end = i === n - 1 ? at[to] + length : at[to];
  const share = end > start ? (place - start) / (end - start) : 1;
  return angle[from] + (angle[to] - angle[from]) * share * share * (3 - 2 * share);
}

/** Turns frames (quaternions, 4n) about their own forward by the roll at their places. */
export function applyRoll(roll: Roll, at: ArrayLike<number>, n: number, rotation: Float64Array): void {
  for (let i = 0; i < n; i++) {
    const half = rollAt(roll, at[i]) / 2;
    const c = Math.cos(half);
    const k = Math.sin(half);
    const q = 4 * i;
    const [x, y, z, w] = [rotation[q], rotation[q + 1], rotation[q + 2], rotation[q + 3]];
    rotation[q] = x * c + y * k;
    rotation[q + 1] = y * c - x * k;
    rotation[q + 2] = z * c + w * k;
    rotation[q + 3] = w * c - z * k;
  }
}

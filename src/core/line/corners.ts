/** Corners: knots at which a line turns at once, or by its sides where a corner is rounded. */
import { dot, vectorAt } from "../math";
import type { Curve } from "./curve";
import { hasKnots, type Line } from "./schema";

export interface Corner {
  /** The number of its knot, or which side of a shape it is, and its arc length. */
  knot: number;
  at: number;
}

/** Directions are looked at so far before and after a knot, as a share of the line's length. */
const NEAR = 1e-6;

/**
 * The knots at which the line turns by at least `angle` radians. The ends of an open line are none. Lines with sides are
 * looked at in the middles of their sides, so that a rounded corner counts as well.
 */
export function cornersOf(line: Line, curve: Curve, angle: number): Corner[] {
  const { knotAt, length, closed } = curve;
  const n = knotAt.length;
  if (!(length > 0) || n < 2) return [];
  const sides = line.kind === "polyline" || line.kind === "rectangle";
  const corners: Corner[] = [];
  for (let knot = 0; knot < n; knot++) {
    const at = knotAt[knot];
    if (!closed && (knot === 0 || knot === n - 1)) continue;
    const before = knot > 0 ? knotAt[knot - 1] : knotAt[n - 1] - length;
    const after = knot < n - 1 ? knotAt[knot + 1] : knotAt[0] + length;
    const [back, on] = sides ? [(at - before) / 2, (after - at) / 2] : [NEAR * length, NEAR * length];
    if (turnBetween(curve, at - back, at + on) >= angle - 1e-9) corners.push({ knot: numberOf(line, knot), at });
  }
  return corners;
}

const numberOf = (line: Line, knot: number): number => (hasKnots(line) ? (line.knots[knot]?.id ?? knot) : knot);

function turnBetween(curve: Curve, from: number, to: number): number {
  const tangent = new Float64Array(6);
  curve.sample(Float64Array.of(from, to), 2, new Float64Array(6), tangent);
  return Math.acos(Math.max(-1, Math.min(1, dot(vectorAt(tangent, 0), vectorAt(tangent, 1)))));
}

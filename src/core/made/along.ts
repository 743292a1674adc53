/** Points along a line at equal shares of its length, and at its corners. */
import type { Curve } from "../line";

/** @returns 3 · (pieces + 1) numbers, metres */
export function pointsAlong(curve: Curve, pieces: number): Float64Array {
  const at = Float64Array.from({ length: pieces + 1 }, (_, i) => (curve.length * i) / pieces);
  const out = new Float64Array(3 * (pieces + 1));
  curve.sample(at, pieces + 1, out, null);
  // The end of a closed line is its start, to the last bit.
  if (curve.closed) out.copyWithin(3 * pieces, 0, 3);
  return out;
}

/** As {@link pointsAlong}, with the nearest of the places between moved onto each knot, so that corners stay sharp. */
export function pointsWithKnots(curve: Curve, pieces: number): Float64Array {
  const at = Float64Array.from({ length: pieces + 1 }, (_, i) => (curve.length * i) / pieces);
  for (const knot of curve.knotAt) {
    const nearest = Math.round((pieces * knot) / (curve.length || 1));
    if (nearest > 0 && nearest < pieces) at[nearest] = knot;
  }
  const out = new Float64Array(3 * (pieces + 1));
  curve.sample(at.sort(), pieces + 1, out, null);
  if (curve.closed) out.copyWithin(3 * pieces, 0, 3);
  return out;
}

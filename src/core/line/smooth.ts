/**
 * Smooth line: a centripetal Catmull–Rom spline through the knots (E. Catmull and R. Rom 1974; centripetal after P. J. Barry
 * and R. N. Goldman 1988, C. Yuksel, S. Schaefer, J. Keyser 2011: no cusps and no loops within a span).
 *
 * Knots that coincide with their neighbour count once, so that doubled knots leave the curve smooth; their span has length
 * zero. An open line is led on past its ends by the mirror image of the second knot, and so is each side of a knot that is
 * a corner.
 */
import { distance, subtract, add, type Vec3 } from "../math";
import { PiecewiseCubic } from "./piecewise";
import type { Curve } from "./curve";
import type { SmoothLine } from "./schema";

/** Two knots nearer than this share of the whole line's extent are one. */
const SAME = 1e-9;

export function smooth(line: SmoothLine): Curve {
  const knots = line.knots.map((knot) => knot.position);
  const closed = line.closed && knots.length > 2;
  const spans = closed ? knots.length : knots.length - 1;
  const coefficients = new Float64Array(12 * spans);

  const extent = knots.reduce((sum, knot, i) => sum + (i > 0 ? distance(knot, knots[i - 1]) : 0), 0);
  const { points, indexOf } = distinct(knots, closed, SAME * extent);
  const last = points.length - 1;
  const neighbour = (i: number): Vec3 => {
    if (closed) return points[(i + points.length) % points.length];
    if (i < 0) return mirrored(points[Math.min(1, last)], points[0]);
    if (i > last) return mirrored(points[Math.max(0, last - 1)], points[last]);
    return points[i];
  };

  for (let span = 0; span < spans; span++) {
    const from = indexOf[span];
    const to = indexOf[(span + 1) % knots.length];
    const o = 12 * span;
    if (from === to) {
      for (let axis = 0; axis < 3; axis++) coefficients[o + axis] = points[from][axis];
      continue;
    }
    const [p1, p2] = [points[from], points[to]];
    const isCorner = (knot: number) => line.knots[knot % knots.length].corner === true;
    const p0 = isCorner(span) ? mirrored(p2, p1) : neighbour(from - 1);
    const p3 = isCorner(span + 1) ? mirrored(p1, p2) : neighbour(from + 2);
    writeSpan(coefficients, o, p0, p1, p2, p3);
  }
  return new PiecewiseCubic(coefficients, closed, knots[0]);
}

/** The point on the other side of `middle`, as far away. */
const mirrored = (point: Vec3, middle: Vec3): Vec3 => subtract(add(middle, middle), point);

/** The knots without repeats of their predecessor, and for each knot which of those it is. */
function distinct(knots: readonly Vec3[], closed: boolean, same: number): { points: Vec3[]; indexOf: number[] } {
  const points: Vec3[] = [];
  const indexOf: number[] = [];
  for (const knot of knots) {
    if (points.length === 0 || distance(knot, points[points.length - 1]) > same) points.push(knot);
    indexOf.push(points.length - 1);
  }
  while (closed && points.length > 1 && distance(points[0], points[points.length - 1]) <= same) {
    const repeated = points.length - 1;
    points.pop();
    for (let i = 0; i < indexOf.length; i++) if (indexOf[i] === repeated) indexOf[i] = 0;
  }
  return { points, indexOf };
}

/** Writes the cubic from `p1` to `p2` with neighbours `p0` and `p3`, knot intervals being square roots of distances. */
function writeSpan(out: Float64Array, o: number, p0: Vec3, p1: Vec3, p2: Vec3, p3: Vec3): void {
  const d1 = Math.sqrt(distance(p1, p2));
  const d0 = Math.sqrt(distance(p0, p1)) || d1;
  const d2 = Math.sqrt(distance(p2, p3)) || d1;
  for (let axis = 0; axis < 3; axis++) {
    const [a, b, c, d] = [p0[axis], p1[axis], p2[axis], p3[axis]];
    const m1 = ((b - a) / d0 - (c - a) / (d0 + d1) + (c - b) / d1) * d1;
    const m2 = ((c - b) / d1 - (d - b) / (d1 + d2) + (d - c) / d2) * d1;
    out[o + axis] = b;
    out[o + 3 + axis] = m1;
    out[o + 6 + axis] = 3 * (c - b) - 2 * m1 - m2;
    out[o + 9 + axis] = 2 * (b - c) + m1 + m2;
  }
}

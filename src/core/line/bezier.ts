/**
 * Bézier line: a cubic from knot to knot with a handle at each end (P. Bézier, P. de Casteljau). The handles of a knot that
 * has none lie along the way from its neighbour to its other one, a third of the way to each.
 */
import { add, distance, lengthOf, normalize, scale, subtract, type Vec3 } from "../math";
import { PiecewiseCubic } from "./piecewise";
import type { Curve } from "./curve";
import type { BezierLine, Knot } from "./schema";

const NONE: Vec3 = [0, 0, 0];

export interface Handles {
  before: Vec3;
  after: Vec3;
}

export function bezier(line: BezierLine): Curve {
  const { knots } = line;
  const closed = line.closed && knots.length > 2;
  const spans = closed ? knots.length : knots.length - 1;
  const coefficients = new Float64Array(12 * spans);
  const handles = knots.map((_, i) => handlesOf(knots, closed, i));
  for (let span = 0; span < spans; span++) {
    const next = (span + 1) % knots.length;
    const [p0, p3] = [knots[span].position, knots[next].position];
    const [p1, p2] = [add(p0, handles[span].after), add(p3, handles[next].before)];
    for (let axis = 0; axis < 3; axis++) {
      const o = 12 * span + axis;
      coefficients[o] = p0[axis];
      coefficients[o + 3] = 3 * (p1[axis] - p0[axis]);
      coefficients[o + 6] = 3 * (p2[axis] - 2 * p1[axis] + p0[axis]);
      coefficients[o + 9] = p3[axis] - 3 * p2[axis] + 3 * p1[axis] - p0[axis];
    }
  }
  return new PiecewiseCubic(coefficients, closed, knots[0].position);
}

/** The handles that knot `i` has, or those that suit its neighbours. */
export function handlesOf(knots: readonly Knot[], closed: boolean, i: number): Handles {
  const knot = knots[i];
  if (knot.join === "corner") return { before: NONE, after: NONE };
  const suitable = suitableHandles(knots, closed, i);
  const before = knot.before ?? suitable.before;
  const after = knot.after ?? suitable.after;
  if (knot.join === "free" || (!knot.before && !knot.after)) return { before, after };
  // Smooth: both on one line, which the handle that leads on gives.
  const direction = lengthOf(after) > 0 ? normalize(after) : scale(normalize(before, NONE), -1);
  return { before: scale(direction, -lengthOf(before)), after };
}

function suitableHandles(knots: readonly Knot[], closed: boolean, i: number): Handles {
  const last = knots.length - 1;
  const at = knots[i].position;
  const previous = i > 0 ? knots[i - 1].position : closed ? knots[last].position : at;
  const next = i < last ? knots[i + 1].position : closed ? knots[0].position : at;
  const direction = normalize(subtract(next, previous), NONE);
  return {
    before: scale(direction, -distance(at, previous) / 3),
    after: scale(direction, distance(at, next) / 3),
  };
}

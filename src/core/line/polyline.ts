/** Polyline: straight from knot to knot. */
import { PiecewiseCubic } from "./piecewise";
import type { Curve } from "./curve";
import type { Polyline } from "./schema";

export function polyline(line: Polyline): Curve {
  const knots = line.knots.map((knot) => knot.position);
  const closed = line.closed && knots.length > 2;
  const spans = closed ? knots.length : knots.length - 1;
  const coefficients = new Float64Array(12 * spans);
  for (let span = 0; span < spans; span++) {
    const from = knots[span];
    const to = knots[(span + 1) % knots.length];
    for (let axis = 0; axis < 3; axis++) {
      coefficients[12 * span + axis] = from[axis];
      coefficients[12 * span + 3 + axis] = to[axis] - from[axis];
    }
  }
  return new PiecewiseCubic(coefficients, closed, knots[0]);
}

/** *A line that has been laid onto a surface*: the points that it goes through, straight from each to the next. */
import { PiecewiseCubic } from "./piecewise";
import type { Curve } from "./curve";

export interface LaidTrack {
  /** World coordinates, metres: 3n. */
  points: Float64Array;
  /** Unit normals of the surface there: 3n. */
  normals: Float32Array;
  closed: boolean;
  /** Which of the points are the line's knots, rising; null where it has none of its own. */
  knots: Uint32Array | null;
  /** How often it leaps from one part of the surface to another, as the mesh leads nowhere between; none where left out. */
  leaps?: number;
}

/** Where a line's up comes from that lies on a surface: unit normals (3n) at rising arc lengths (n). */
export interface Normals {
  at: Float64Array;
  normal: Float32Array;
}

/** Numbers a span of a cubic: constant and linear coefficients are all that a straight one has. */
const SPAN = 12;

export function curveThrough({ points, closed, knots }: LaidTrack): Curve {
  const n = points.length / 3;
  const spans = closed && n > 2 ? n : n - 1;
  const coefficients = new Float64Array(SPAN * spans);
  for (let span = 0; span < spans; span++) {
    const next = (span + 1) % n;
    for (let axis = 0; axis < 3; axis++) {
      const from = points[3 * span + axis];
      coefficients[SPAN * span + axis] = from;
      coefficients[SPAN * span + 3 + axis] = points[3 * next + axis] - from;
    }
  }
  const start: [number, number, number] = [points[0], points[1], points[2]];
  return new PiecewiseCubic(coefficients, closed && n > 2, start, knots ? [...knots] : undefined);
}

/** The normals of a track along the curve through it; a closed one comes back to its first. */
export function normalsAlong({ normals, closed }: LaidTrack, curve: Curve): Normals {
  const at = curve.spanAt.slice();
  const normal = new Float32Array(3 * at.length);
  normal.set(normals.subarray(0, Math.min(normals.length, normal.length)));
  if (closed) normal.set(normals.subarray(0, 3), 3 * (at.length - 1));
  return { at, normal };
}

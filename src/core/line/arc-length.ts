/**
 * Arc length by adaptive Gauss–Legendre quadrature, and its inverse as a table of cubic Hermite cells.
 *
 * The table is refined until each cell's cubic, put back into the integral, gives the arc length it was asked for. All
 * iteration is done then: looking an arc length up means finding its cell and evaluating one cubic.
 */

/** Abscissae and weights of the 8-point Gauss–Legendre rule on [-1, 1] (Abramowitz and Stegun, table 25.4). */
const NODES = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const WEIGHTS = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

const MAX_DEPTH = 40;

export type Speed = (t: number) => number;

function gaussLegendre(speed: Speed, from: number, to: number): number {
  const middle = (from + to) / 2;
  const half = (to - from) / 2;
  let sum = 0;
  for (let i = 0; i < 4; i++) sum += WEIGHTS[i] * (speed(middle - half * NODES[i]) + speed(middle + half * NODES[i]));
  return sum * half;
}

/** The integral of a non-negative `speed` from `from` to `to`, to about `tolerance` (absolute), halving where needed. */
export function arcLength(speed: Speed, from: number, to: number, tolerance: number, depth = 0): number {
  const whole = gaussLegendre(speed, from, to);
  const middle = (from + to) / 2;
  const left = gaussLegendre(speed, from, middle);
  const right = gaussLegendre(speed, middle, to);
  if (Math.abs(whole - left - right) <= tolerance || depth >= MAX_DEPTH) return left + right;
  return (
    arcLength(speed, from, middle, tolerance / 2, depth + 1) + arcLength(speed, middle, to, tolerance / 2, depth + 1)
  );
}

/** Cells of the inverse: in cell `i`, `t` is a cubic of the arc length between `at[i]` and `at[i + 1]`. */
export interface InverseCells {
  /** Arc lengths of the cells' ends, rising; one more than there are cells. */
  at: number[];
  /** Per cell: t at its start, t at its end, and dt/d(share of the cell) at both. */
  t0: number[];
  t1: number[];
  slope0: number[];
  slope1: number[];
  /** Per cell: the span it belongs to. */
  span: number[];
}

/** The cubic through (0, a) and (1, b) with slopes `m` and `n`: its four coefficients, the constant first. */
export const hermiteCoefficients = (a: number, b: number, m: number, n: number): [number, number, number, number] => [
  a,
  m,
  3 * (b - a) - 2 * m - n,
  m + n - 2 * (b - a),
];

function hermite(a: number, b: number, m: number, n: number, x: number): number {
  const d = b - a;
  return a + x * (m + x * (3 * d - 2 * m - n + x * (m + n - 2 * d)));
}

/** The slope that keeps a Hermite cell monotone: at most three times the mean (Fritsch and Carlson, 1980). */
const monotoneSlope = (ds: number, speed: number, dt: number): number => (speed * 3 * dt > ds ? ds / speed : 3 * dt);

/**
 * Appends the cells of one span (t from 0 to 1) to `cells`, starting at arc length `start`; returns the span's length.
 *
 * @param tolerance the largest error along the curve, in metres, that a look-up in the finished cells may have
 */
export function appendInverse(
  cells: InverseCells,
  span: number,
  speed: Speed,
  start: number,
  tolerance: number,
): number {
  let at = start;
  const refine = (t0: number, t1: number, depth: number): void => {
    const middle = (t0 + t1) / 2;
    const left = gaussLegendre(speed, t0, middle);
    const length = left + gaussLegendre(speed, middle, t1);
    // Nothing that could be told from what is already there: a cell of no length could not be looked up in.
    if (at + length === at) return;
    const slope0 = monotoneSlope(length, speed(t0), t1 - t0);
    const slope1 = monotoneSlope(length, speed(t1), t1 - t0);
    const exact = Math.abs(gaussLegendre(speed, t0, t1) - length) <= 0.01 * tolerance;
    const fits = (share: number) => {
      const t = hermite(t0, t1, slope0, slope1, share);
      return Math.abs(gaussLegendre(speed, t0, t) - share * length) <= 0.5 * tolerance;
    };
    if (length > tolerance && depth < MAX_DEPTH && !(exact && fits(0.5) && fits(0.25) && fits(0.75))) {
      refine(t0, middle, depth + 1);
      refine(middle, t1, depth + 1);
      return;
    }
    cells.t0.push(t0);
    cells.t1.push(t1);
    cells.slope0.push(slope0);
    cells.slope1.push(slope1);
    cells.span.push(span);
    at += length;
    cells.at.push(at);
  };
  refine(0, 1, 0);
  return at - start;
}

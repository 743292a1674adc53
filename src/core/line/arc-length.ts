/**
 * Arc length by adaptive Gauss–Legendre quadrature, and its inverse as a table of Hermite cells: quintic, by place, speed and
 * its change at both ends, or cubic, by place and speed, where the curve all but stands still.
 *
 * The table is refined until each cell's polynomial, put back into the integral, gives the arc length it was asked for. All
 * iteration is done then: looking an arc length up means finding its cell and evaluating one polynomial.
 */

/** Abscissae and weights of the 8-point Gauss–Legendre rule on [-1, 1] (Abramowitz and Stegun, table 25.4). */
const [X0, X1, X2, X3] = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const [W0, W1, W2, W3] = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

/** Those of the 4-point rule, for the short cells of the inverse. */
const [Y0, Y1] = [0.33998104358485626, 0.8611363115940526];
const [V0, V1] = [0.6521451548625461, 0.34785484513745385];

const MAX_DEPTH = 40;
/** A cell's ends are slow where it goes so many times faster elsewhere; but a cell as short as so many tolerances may be. */
const SLOW = 10;
const FEW = 20;

/** *The speed |dr/dt| along one cubic*, one after the other: r′ is quadratic, three coefficients an axis. */
export class Speed {
  readonly #c = new Float64Array(9);

  /** Takes over another one. @param coefficients of r, 12 numbers from `offset` on: constant, linear, quadratic, cubic, x y z each */
  of(coefficients: Float64Array, offset: number): this {
    for (let k = 0; k < 9; k++) this.#c[k] = coefficients[offset + 3 + k] * (k < 3 ? 1 : k < 6 ? 2 : 3);
    return this;
  }

  at(t: number): number {
    const c = this.#c;
    const x = c[0] + t * (c[3] + t * c[6]);
    const y = c[1] + t * (c[4] + t * c[7]);
    const z = c[2] + t * (c[5] + t * c[8]);
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** The derivative of the speed by t. */
  change(t: number): number {
    const c = this.#c;
    const x = c[0] + t * (c[3] + t * c[6]);
    const y = c[1] + t * (c[4] + t * c[7]);
    const z = c[2] + t * (c[5] + t * c[8]);
    const dx = c[3] + 2 * t * c[6];
    const dy = c[4] + 2 * t * c[7];
    const dz = c[5] + 2 * t * c[8];
    return (x * dx + y * dy + z * dz) / Math.sqrt(x * x + y * y + z * z);
  }

  /** Whether the curve runs back between any two of three places: it turns sharply between them, or stands still. */
  turnsBack(a: number, b: number, c: number): boolean {
    return this.#along(a, b) < 0 || this.#along(b, c) < 0 || this.#along(a, c) < 0;
  }

  /** The scalar product of the derivatives at two places. */
  #along(a: number, b: number): number {
    const c = this.#c;
    return (
      (c[0] + a * (c[3] + a * c[6])) * (c[0] + b * (c[3] + b * c[6])) +
      (c[1] + a * (c[4] + a * c[7])) * (c[1] + b * (c[4] + b * c[7])) +
      (c[2] + a * (c[5] + a * c[8])) * (c[2] + b * (c[5] + b * c[8]))
    );
  }
}

function gaussLegendre(speed: Speed, from: number, to: number): number {
  const middle = (from + to) / 2;
  const half = (to - from) / 2;
  // Written out: this is where nearly all the time of making a curve goes.
  return (
    half *
    (W0 * (speed.at(middle - half * X0) + speed.at(middle + half * X0)) +
      W1 * (speed.at(middle - half * X1) + speed.at(middle + half * X1)) +
      W2 * (speed.at(middle - half * X2) + speed.at(middle + half * X2)) +
      W3 * (speed.at(middle - half * X3) + speed.at(middle + half * X3)))
  );
}

/** The same by four points: enough where halves are compared with the whole and cut further. */
function gaussLegendre4(speed: Speed, from: number, to: number): number {
  const middle = (from + to) / 2;
  const half = (to - from) / 2;
  return (
    half *
    (V0 * (speed.at(middle - half * Y0) + speed.at(middle + half * Y0)) +
      V1 * (speed.at(middle - half * Y1) + speed.at(middle + half * Y1)))
  );
}

/** The integral of the speed from `from` to `to`, to about `tolerance` (absolute), halving where needed. */
export function arcLength(speed: Speed, from: number, to: number, tolerance: number, depth = 0): number {
  const whole = gaussLegendre(speed, from, to);
  const middle = (from + to) / 2;
  const left = gaussLegendre(speed, from, middle);
  const right = gaussLegendre(speed, middle, to);
  // A standstill close to an end lies beyond the outermost abscissae of the whole and of its half alike, so both agree without
  // having seen it; where the curve runs back there is one.
  const seen = left + right <= tolerance || !speed.turnsBack(from, middle, to);
  if ((seen && Math.abs(whole - left - right) <= tolerance) || depth >= MAX_DEPTH) return left + right;
  return (
    arcLength(speed, from, middle, tolerance / 2, depth + 1) + arcLength(speed, middle, to, tolerance / 2, depth + 1)
  );
}

/** Coefficients a cell. */
export const CELL = 6;
/** So many cells there is room for before more is made. */
const FIRST_CELLS = 256;

/** *Cells of the inverse*: in cell `i`, t is a polynomial of the share of the arc length between `at[i]` and `at[i + 1]`. */
export class InverseCells {
  count = 0;
  /** Arc lengths of the cells' ends, rising; one more than there are cells. */
  at = new Float64Array(1 + FIRST_CELLS);
  /** Six coefficients a cell, the constant first. */
  polynomial = new Float64Array(CELL * FIRST_CELLS);
  /** Per cell: the span it belongs to. */
  span = new Uint32Array(FIRST_CELLS);

  /** Appends a cell that ends at an arc length, with its coefficients. */
  append(span: number, end: number, c0: number, c1: number, c2: number, c3: number, c4: number, c5: number): void {
    const i = this.count++;
    if (i === this.span.length) this.#grow();
    const c = this.polynomial;
    const o = CELL * i;
    c[o] = c0;
    c[o + 1] = c1;
    c[o + 2] = c2;
    c[o + 3] = c3;
    c[o + 4] = c4;
    c[o + 5] = c5;
    this.span[i] = span;
    this.at[i + 1] = end;
  }

  #grow(): void {
    const room = 2 * this.span.length;
    const { at, polynomial, span } = this;
    (this.at = new Float64Array(1 + room)).set(at);
    (this.polynomial = new Float64Array(CELL * room)).set(polynomial);
    (this.span = new Uint32Array(room)).set(span);
  }
}

/** The cubic through (0, a) and (1, b) with slopes `m` and `n`: its four coefficients, the constant first. */
export const hermiteCoefficients = (a: number, b: number, m: number, n: number): [number, number, number, number] => [
  a,
  m,
  3 * (b - a) - 2 * m - n,
  m + n - 2 * (b - a),
];

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
  const halves = [gaussLegendre4(speed, 0, 0.5), gaussLegendre4(speed, 0.5, 1)] as const;
  return (
    appendCell({ cells, span, speed, tolerance }, 0, 1, halves[0], halves[1], speed.at(0), speed.at(1), start, 0) -
    start
  );
}

/** The length of a cubic that goes straight on and evenly, of 12 coefficients; -1 for any other. */
export function evenLength(coefficients: Float64Array, offset: number): number {
  for (let k = offset + 6; k < offset + 12; k++) if (coefficients[k] !== 0) return -1;
  return Math.hypot(coefficients[offset + 3], coefficients[offset + 4], coefficients[offset + 5]);
}

/** As {@link appendInverse}, for one of those. */
export function appendEven(cells: InverseCells, span: number, length: number, start: number): number {
  cells.append(span, start + length, 0, 1, 0, 0, 0, 0);
  return length;
}

const polynomialAt = (x: number, c1: number, c2: number, c3: number, c4: number, c5: number): number =>
  x * (c1 + x * (c2 + x * (c3 + x * (c4 + x * c5))));

interface Inverting {
  cells: InverseCells;
  span: number;
  speed: Speed;
  tolerance: number;
}

/**
 * Appends the cell from `t0` to `t1`, or its halves where one polynomial does not follow closely enough; returns the arc length
 * at its end.
 *
 * @param left the lengths of its two halves, as one integral each
 * @param v0 the speeds at its ends
 */
function appendCell(
  work: Inverting,
  t0: number,
  t1: number,
  left: number,
  right: number,
  v0: number,
  v1: number,
  at: number,
  depth: number,
): number {
  const { cells, span, speed, tolerance } = work;
  const dt = t1 - t0;
  const quarter = dt / 4;
  const middle = t0 + 2 * quarter;
  const q0 = gaussLegendre4(speed, t0, t0 + quarter);
  const q1 = gaussLegendre4(speed, t0 + quarter, middle);
  const q2 = gaussLegendre4(speed, middle, t1 - quarter);
  const q3 = gaussLegendre4(speed, t1 - quarter, t1);
  const length = q0 + q1 + q2 + q3;
  // Nothing that could be told from what is already there: a cell of no length could not be looked up in.
  if (at + length === at) return at;
  const m = monotoneSlope(length, v0, dt);
  const n = monotoneSlope(length, v1, dt);
  let square = 3 * dt - 2 * m - n;
  let cube = m + n - 2 * dt;
  let [fourth, fifth] = [0, 0];
  if (length > tolerance && depth < MAX_DEPTH) {
    const fastest = Math.max(v0, v1, q0 / quarter, q1 / quarter, q2 / quarter, q3 / quarter);
    // Where the speed changes many times over, as about a cusp, three places do not speak for all between them.
    const even = SLOW * Math.min(v0, v1) >= fastest && !speed.turnsBack(t0, middle, t1);
    const long = length > FEW * tolerance;
    let fits = Math.abs(q0 + q1 - left) + Math.abs(q2 + q3 - right) <= 0.01 * tolerance && (even || !long);
    if (fits && long && m < 3 * dt && n < 3 * dt) {
      // Half the second derivatives of t at both ends, by the share of the arc length.
      const a = (-0.5 * m * m * speed.change(t0)) / v0;
      const b = (-0.5 * n * n * speed.change(t1)) / v1;
      square = a;
      cube = 10 * dt - 6 * m - 4 * n - 3 * a + b;
      fourth = -15 * dt + 8 * m + 7 * n + 3 * a - 2 * b;
      fifth = 6 * dt - 3 * m - 3 * n - a + b;
    }
    // At each quarter the polynomial is asked for the arc length there; its answer should be where the quarter is.
    const allowed = (0.4 * tolerance) / fastest;
    fits &&=
      Math.abs(polynomialAt((q0 + q1) / length, m, square, cube, fourth, fifth) - 2 * quarter) <= allowed &&
      Math.abs(polynomialAt(q0 / length, m, square, cube, fourth, fifth) - quarter) <= allowed &&
      Math.abs(polynomialAt((length - q3) / length, m, square, cube, fourth, fifth) - 3 * quarter) <= allowed;
    if (!fits) {
      const v = speed.at(middle);
      const end = appendCell(work, t0, middle, q0, q1, v0, v, at, depth + 1);
      return appendCell(work, middle, t1, q2, q3, v, v1, end, depth + 1);
    }
  }
  cells.append(span, at + length, t0, m, square, cube, fourth, fifth);
  return at + length;
}

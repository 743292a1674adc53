/** *A curve made of cubic polynomials*, one a span: straight lines and smooth lines alike. */
import { appendInverse, arcLength, hermiteCoefficients, type InverseCells, type Speed } from "./arc-length";
import { arcLengthWithin, type Curve } from "./curve";

/** Numbers a span: constant, linear, quadratic and cubic coefficient, x y z each. */
const SPAN = 12;
const LINEAR = 3;
const QUADRATIC = 6;
const CUBIC = 9;

/** Arc-length look-ups are exact to this share of the curve's length. */
const RELATIVE_TOLERANCE = 2e-8;

/** The derivative counts as standing still below this share of the length. */
const STILL = 1e-9;

export class PiecewiseCubic implements Curve {
  readonly length: number;
  readonly closed: boolean;
  readonly spans: number;
  readonly spanAt: Float64Array;
  readonly knotAt: Float64Array;

  readonly #coefficients: Float64Array;
  readonly #start: readonly [number, number, number];
  readonly #cellAt: Float64Array;
  /** Per cell, with x its share of arc length from 0 to 1: t = c₀ + c₁x + c₂x² + c₃x³, four numbers. */
  readonly #cellCubic: Float64Array;
  readonly #cellSpan: Uint32Array;
  /** For each of `buckets` equal stretches of the curve, the first cell that reaches into it. */
  readonly #bucket: Uint32Array;

  /**
   * @param coefficients 12 numbers a span, in metres: r(t) = c₀ + c₁t + c₂t² + c₃t³ for t in 0…1
   * @param start the position of a curve that has no span
   * @param knots the parameters of the knots, where they are not just the ends of the spans
   */
  constructor(
    coefficients: Float64Array,
    closed: boolean,
    start: readonly [number, number, number],
    knots?: readonly number[],
  ) {
    this.#coefficients = coefficients;
    this.#start = start;
    this.closed = closed;
    this.spans = coefficients.length / SPAN;
    this.spanAt = new Float64Array(this.spans + 1);

    const cells: InverseCells = { at: [0], t0: [], t1: [], slope0: [], slope1: [], span: [] };
    const tolerance = RELATIVE_TOLERANCE * this.#roughLength();
    let at = 0;
    for (let span = 0; span < this.spans; span++) {
      if (tolerance > 0) at += appendInverse(cells, span, this.#speedOn(span), at, tolerance);
      this.spanAt[span + 1] = at;
    }
    this.length = at;
    this.#cellAt = Float64Array.from(cells.at);
    this.#cellCubic = Float64Array.from(
      cells.t0.flatMap((t, i) => hermiteCoefficients(t, cells.t1[i], cells.slope0[i], cells.slope1[i])),
    );
    this.#cellSpan = Uint32Array.from(cells.span);
    this.#bucket = bucketsOf(this.#cellAt, at);
    this.knotAt = knots
      ? Float64Array.from(knots, (u) => this.arcLengthTo(u))
      : this.spanAt.slice(0, closed ? this.spans : this.spans + 1);
  }

  evaluate(u: number): { position: [number, number, number]; derivative: [number, number, number] } {
    if (this.spans === 0) return { position: [...this.#start], derivative: [0, 0, 0] };
    const span = Math.max(0, Math.min(this.spans - 1, Math.floor(u)));
    const t = u - span;
    const c = this.#coefficients;
    const position: [number, number, number] = [0, 0, 0];
    const derivative: [number, number, number] = [0, 0, 0];
    for (let axis = 0; axis < 3; axis++) {
      const o = span * SPAN + axis;
      position[axis] = c[o] + t * (c[o + LINEAR] + t * (c[o + QUADRATIC] + t * c[o + CUBIC]));
      derivative[axis] = c[o + LINEAR] + t * (2 * c[o + QUADRATIC] + t * 3 * c[o + CUBIC]);
    }
    return { position, derivative };
  }

  arcLengthTo(u: number): number {
    if (this.spans === 0) return 0;
    const span = Math.max(0, Math.min(this.spans - 1, Math.floor(u)));
    const tolerance = RELATIVE_TOLERANCE * 0.1 * this.length;
    return this.spanAt[span] + arcLength(this.#speedOn(span), 0, u - span, tolerance);
  }

  parameterAt(at: number): number {
    if (this.#cellSpan.length === 0) return 0;
    const s = arcLengthWithin(this, at);
    const cell = this.#cellOf(s);
    return this.#cellSpan[cell] + this.#inCell(cell, s);
  }

  sample(at: Float64Array, n: number, position: Float64Array, tangent: Float64Array): void {
    if (this.#cellSpan.length === 0) {
      const { position: p } = this.evaluate(0);
      for (let i = 0; i < n; i++) {
        position.set(p, 3 * i);
        tangent.set([0, 0, 1], 3 * i);
      }
      return;
    }
    const c = this.#coefficients;
    const cellAt = this.#cellAt;
    const cubic = this.#cellCubic;
    const { length, closed } = this;
    const still = (STILL * length) ** 2;
    for (let i = 0; i < n;) {
      let s = at[i];
      let beyond = 0;
      if (!(s >= 0 && s < length)) {
        s = arcLengthWithin(this, s);
        if (!closed) beyond = at[i] - s;
      }

      // Neighbours mostly share a cell: what belongs to the cell and its span is read once for all of them.
      const cell = this.#cellOf(s);
      const from = cellAt[cell];
      const to = cellAt[cell + 1];
      const share = 1 / (to - from);
      const k = 4 * cell;
      const t0 = cubic[k];
      const t1 = cubic[k + 1];
      const t2 = cubic[k + 2];
      const t3 = cubic[k + 3];
      const o = SPAN * this.#cellSpan[cell];
      const x0 = c[o];
      const y0 = c[o + 1];
      const z0 = c[o + 2];
      const x1 = c[o + LINEAR];
      const y1 = c[o + LINEAR + 1];
      const z1 = c[o + LINEAR + 2];
      const x2 = c[o + QUADRATIC];
      const y2 = c[o + QUADRATIC + 1];
      const z2 = c[o + QUADRATIC + 2];
      const x3 = c[o + CUBIC];
      const y3 = c[o + CUBIC + 1];
      const z3 = c[o + CUBIC + 2];
      do {
        const x = (s - from) * share;
        const t = t0 + x * (t1 + x * (t2 + x * t3));
        let dx = x1 + t * (2 * x2 + t * 3 * x3);
        let dy = y1 + t * (2 * y2 + t * 3 * y3);
        let dz = z1 + t * (2 * z2 + t * 3 * z3);
        let squared = dx * dx + dy * dy + dz * dz;
        if (squared <= still) {
          const chord = this.#directionNear(cell, t);
          dx = chord[0];
          dy = chord[1];
          dz = chord[2];
          squared = dx * dx + dy * dy + dz * dz;
        }
        const inverse = 1 / Math.sqrt(squared);
        dx *= inverse;
        dy *= inverse;
        dz *= inverse;
        const p = 3 * i;
        position[p] = x0 + t * (x1 + t * (x2 + t * x3)) + beyond * dx;
        position[p + 1] = y0 + t * (y1 + t * (y2 + t * y3)) + beyond * dy;
        position[p + 2] = z0 + t * (z1 + t * (z2 + t * z3)) + beyond * dz;
        tangent[p] = dx;
        tangent[p + 1] = dy;
        tangent[p + 2] = dz;
        beyond = 0;
        i++;
        s = i < n ? at[i] : NaN;
      } while (s >= from && s < to);
    }
  }

  /** The cell that holds arc length `s`, which lies within the curve. */
  #cellOf(s: number): number {
    const cells = this.#cellSpan.length;
    const buckets = this.#bucket.length;
    let cell = this.#bucket[Math.min(buckets - 1, Math.floor((s / this.length) * buckets))];
    while (cell > 0 && s < this.#cellAt[cell]) cell--;
    while (cell < cells - 1 && s >= this.#cellAt[cell + 1]) cell++;
    return cell;
  }

  #inCell(cell: number, s: number): number {
    const from = this.#cellAt[cell];
    const x = (s - from) / (this.#cellAt[cell + 1] - from);
    const c = this.#cellCubic;
    const o = 4 * cell;
    return c[o] + x * (c[o + 1] + x * (c[o + 2] + x * c[o + 3]));
  }

  /** The direction where the derivative vanishes: a short chord onward, or, at the end of a span, from behind. */
  #directionNear(cell: number, t: number): [number, number, number] {
    const span = this.#cellSpan[cell];
    for (const reach of [1e-4, 1e-2, 1]) {
      const from = this.evaluate(span + Math.max(0, Math.min(1 - reach, t))).position;
      const to = this.evaluate(span + Math.min(0.9999999999, Math.max(reach, t + reach))).position;
      const chord: [number, number, number] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
      if (Math.hypot(...chord) > 0) return chord;
    }
    return [0, 0, 1];
  }

  /** The speed |dr/dt| on one span, as a function of t. */
  #speedOn(span: number): Speed {
    const c = this.#coefficients;
    const o = span * SPAN;
    const [ax, ay, az] = [c[o + 3], c[o + 4], c[o + 5]];
    const [bx, by, bz] = [2 * c[o + 6], 2 * c[o + 7], 2 * c[o + 8]];
    const [cx, cy, cz] = [3 * c[o + 9], 3 * c[o + 10], 3 * c[o + 11]];
    return (t) => {
      const x = ax + t * (bx + t * cx);
      const y = ay + t * (by + t * cy);
      const z = az + t * (bz + t * cz);
      return Math.sqrt(x * x + y * y + z * z);
    };
  }

  /** Near enough to the length to set the tolerance by. */
  #roughLength(): number {
    let sum = 0;
    for (let span = 0; span < this.spans; span++) {
      const speed = this.#speedOn(span);
      sum += (speed(0) + 4 * speed(0.5) + speed(1)) / 6;
    }
    return sum;
  }
}

function bucketsOf(cellAt: Float64Array, length: number): Uint32Array {
  const cells = cellAt.length - 1;
  const buckets = new Uint32Array(Math.max(1, 2 * cells));
  let cell = 0;
  for (let b = 0; b < buckets.length; b++) {
    const from = (b / buckets.length) * length;
    while (cell < cells - 1 && cellAt[cell + 1] <= from) cell++;
    buckets[b] = cell;
  }
  return buckets;
}

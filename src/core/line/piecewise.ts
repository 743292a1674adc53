/** *A curve made of cubic polynomials*, one a span: straight lines and smooth lines alike. */
import { CELL, appendEven, appendInverse, arcLength, evenLength, InverseCells, Speed } from "./arc-length";
import { normalize } from "../math";
import { writeChordLengths, writeChords } from "./chords";
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

/** Room for the cells of the curve that is being made. */
const cells = new InverseCells();

export class PiecewiseCubic implements Curve {
  readonly length: number;
  readonly closed: boolean;
  readonly spans: number;
  readonly spanAt: Float64Array;
  readonly knotAt: Float64Array;

  readonly #coefficients: Float64Array;
  readonly #start: readonly [number, number, number];
  readonly #cellAt: Float64Array;
  /** Per cell, with x its share of arc length from 0 to 1: t = c₀ + c₁x + … + c₅x⁵, six numbers. */
  readonly #cellPolynomial: Float64Array;
  readonly #cellSpan: Uint32Array;
  /** For each of `buckets` equal stretches of the curve, the first cell that reaches into it. */
  readonly #bucket: Uint32Array;
  /** The cell that was last asked for by itself: the next one is mostly the same or the one beside it. */
  #last = 0;

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

    cells.count = 0;
    const speed = new Speed();
    const tolerance = RELATIVE_TOLERANCE * this.#roughLength(speed);
    let at = 0;
    for (let span = 0; span < this.spans; span++) {
      if (!(tolerance > 0)) continue;
      const even = evenLength(coefficients, SPAN * span);
      at +=
        even > tolerance
          ? appendEven(cells, span, even, at)
          : appendInverse(cells, span, speed.of(coefficients, SPAN * span), at, tolerance);
      this.spanAt[span + 1] = at;
    }
    this.length = at;
    this.#cellAt = cells.at.slice(0, cells.count + 1);
    this.#cellPolynomial = cells.polynomial.slice(0, CELL * cells.count);
    this.#cellSpan = cells.span.slice(0, cells.count);
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
    const speed = new Speed().of(this.#coefficients, SPAN * span);
    return this.spanAt[span] + arcLength(speed, 0, u - span, tolerance);
  }

  parameterAt(at: number): number {
    if (this.#cellSpan.length === 0) return 0;
    const s = arcLengthWithin(this, at);
    const cell = this.#cellOf(s);
    return this.#cellSpan[cell] + this.#inCell(cell, s);
  }

  sample(at: Float64Array, n: number, position: Float64Array, tangent: Float64Array | null): void {
    const cellAt = this.#cellAt;
    const { length } = this;
    const empty = this.#cellSpan.length === 0;
    for (let i = 0; i < n;) {
      if (empty || !(at[i] >= 0 && at[i] < length)) {
        this.#sampleOutside(at[i], i++, position, tangent);
        continue;
      }
      // Neighbours mostly share a cell: what belongs to the cell and its span is read once for all of them.
      const cell = this.#cellOf(at[i]);
      const from = cellAt[cell];
      const to = cellAt[cell + 1];
      let end = i + 1;
      while (end < n && at[end] >= from && at[end] < to) end++;
      this.#sampleCell(cell, at, i, end, position, tangent);
      i = end;
    }
  }

  /** Places from `i` to before `end`, all in one cell. */
  #sampleCell(
    cell: number,
    at: Float64Array,
    start: number,
    end: number,
    position: Float64Array,
    tangent: Float64Array | null,
  ): void {
    const from = this.#cellAt[cell];
    const share = 1 / (this.#cellAt[cell + 1] - from);
    const polynomial = this.#cellPolynomial;
    const k = CELL * cell;
    const t0 = polynomial[k];
    const t1 = polynomial[k + 1];
    const t2 = polynomial[k + 2];
    const t3 = polynomial[k + 3];
    const t4 = polynomial[k + 4];
    const t5 = polynomial[k + 5];
    const c = this.#coefficients;
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
    const still = (STILL * this.length) ** 2;
    for (let i = start; i < end; i++) {
      const x = (at[i] - from) * share;
      const t = t0 + x * (t1 + x * (t2 + x * (t3 + x * (t4 + x * t5))));
      const p = 3 * i;
      position[p] = x0 + t * (x1 + t * (x2 + t * x3));
      position[p + 1] = y0 + t * (y1 + t * (y2 + t * y3));
      position[p + 2] = z0 + t * (z1 + t * (z2 + t * z3));
      if (!tangent) continue;
      const dx = x1 + t * (2 * x2 + t * 3 * x3);
      const dy = y1 + t * (2 * y2 + t * 3 * y3);
      const dz = z1 + t * (2 * z2 + t * 3 * z3);
      const squared = dx * dx + dy * dy + dz * dz;
      if (squared <= still) {
        tangent.set(normalize(this.#directionNear(cell, t)), p);
        continue;
      }
      const inverse = 1 / Math.sqrt(squared);
      tangent[p] = dx * inverse;
      tangent[p + 1] = dy * inverse;
      tangent[p + 2] = dz * inverse;
    }
  }

  /** A place before the start, at or past the end, or on a curve without length. */
  #sampleOutside(s: number, i: number, position: Float64Array, tangent: Float64Array | null): void {
    const place = new Float64Array(6);
    this.sampleAt(s, place);
    position.set(place.subarray(0, 3), 3 * i);
    tangent?.set(place.subarray(3), 3 * i);
  }

  sampleAt(at: number, out: Float64Array): void {
    const cells = this.#cellSpan.length;
    if (cells === 0) {
      out.set(this.#start);
      out[3] = out[4] = 0;
      out[5] = 1;
      return;
    }
    const { length } = this;
    const s = at >= 0 && at < length ? at : arcLengthWithin(this, at);
    const cellAt = this.#cellAt;
    let cell = this.#last;
    if (s < cellAt[cell] || s >= cellAt[cell + 1]) {
      cell = cell + 1 < cells && s >= cellAt[cell + 1] && s < cellAt[cell + 2] ? cell + 1 : this.#cellOf(s);
      this.#last = cell;
    }
    const t = this.#inCell(cell, s);
    const c = this.#coefficients;
    const o = SPAN * this.#cellSpan[cell];
    let dx = c[o + LINEAR] + t * (2 * c[o + QUADRATIC] + t * 3 * c[o + CUBIC]);
    let dy = c[o + LINEAR + 1] + t * (2 * c[o + QUADRATIC + 1] + t * 3 * c[o + CUBIC + 1]);
    let dz = c[o + LINEAR + 2] + t * (2 * c[o + QUADRATIC + 2] + t * 3 * c[o + CUBIC + 2]);
    let squared = dx * dx + dy * dy + dz * dz;
    if (squared <= (STILL * length) ** 2) {
      [dx, dy, dz] = this.#directionNear(cell, t);
      squared = dx * dx + dy * dy + dz * dz;
    }
    const inverse = 1 / Math.sqrt(squared);
    dx *= inverse;
    dy *= inverse;
    dz *= inverse;
    const beyond = this.closed ? 0 : at - s;
    out[0] = c[o] + t * (c[o + LINEAR] + t * (c[o + QUADRATIC] + t * c[o + CUBIC])) + beyond * dx;
    out[1] = c[o + 1] + t * (c[o + LINEAR + 1] + t * (c[o + QUADRATIC + 1] + t * c[o + CUBIC + 1])) + beyond * dy;
    out[2] = c[o + 2] + t * (c[o + LINEAR + 2] + t * (c[o + QUADRATIC + 2] + t * c[o + CUBIC + 2])) + beyond * dz;
    out[3] = dx;
    out[4] = dy;
    out[5] = dz;
  }

  chords(spans: Float64Array, n: number, middle: Float64Array, direction: Float64Array): void {
    for (let i = 0; i < n;) {
      const cell = this.#cellAround(spans[2 * i]);
      let end = this.#leaving(cell, spans, i, n);
      if (end > i) this.#chordsInCell(cell, spans, i, end, middle, direction);
      else {
        end = i + 1;
        writeChords(this, spans.subarray(2 * i), 1, middle.subarray(3 * i), direction.subarray(3 * i));
      }
      i = end;
    }
  }

  chordLengths(spans: Float64Array, n: number, out: Float64Array): void {
    for (let i = 0; i < n;) {
      const cell = this.#cellAround(spans[2 * i]);
      let end = this.#leaving(cell, spans, i, n);
      if (end > i) this.#chordLengthsInCell(cell, spans, i, end, out);
      else {
        end = i + 1;
        writeChordLengths(this, spans.subarray(2 * i), 1, out.subarray(i));
      }
      i = end;
    }
  }

  /** The cell that holds arc length `s`; -1 where that is not within the curve. */
  #cellAround(s: number): number {
    return s >= 0 && s < this.length ? this.#cellOf(s) : -1;
  }

  /** Of the stretches from `i` on, the first that is not all in the cell, or runs back. */
  #leaving(cell: number, spans: Float64Array, i: number, n: number): number {
    if (cell < 0) return i;
    const from = this.#cellAt[cell];
    const to = this.#cellAt[cell + 1];
    while (i < n && spans[2 * i] >= from && spans[2 * i + 1] < to && spans[2 * i + 1] >= spans[2 * i]) i++;
    return i;
  }

  /** As {@link #chordsInCell}, for the lengths alone. */
  #chordLengthsInCell(cell: number, spans: Float64Array, start: number, stop: number, out: Float64Array): void {
    const from = this.#cellAt[cell];
    const share = 1 / (this.#cellAt[cell + 1] - from);
    const polynomial = this.#cellPolynomial;
    const k = CELL * cell;
    const t0 = polynomial[k];
    const t1 = polynomial[k + 1];
    const t2 = polynomial[k + 2];
    const t3 = polynomial[k + 3];
    const t4 = polynomial[k + 4];
    const t5 = polynomial[k + 5];
    const c = this.#coefficients;
    const o = SPAN * this.#cellSpan[cell];
    const x1 = c[o + LINEAR];
    const y1 = c[o + LINEAR + 1];
    const z1 = c[o + LINEAR + 2];
    const x2 = 2 * c[o + QUADRATIC];
    const y2 = 2 * c[o + QUADRATIC + 1];
    const z2 = 2 * c[o + QUADRATIC + 2];
    const x3 = c[o + CUBIC];
    const y3 = c[o + CUBIC + 1];
    const z3 = c[o + CUBIC + 2];
    for (let i = start; i < stop; i++) {
      const a = (spans[2 * i] - from) * share;
      const b = (spans[2 * i + 1] - from) * share;
      const ta = t0 + a * (t1 + a * (t2 + a * (t3 + a * (t4 + a * t5))));
      const tb = t0 + b * (t1 + b * (t2 + b * (t3 + b * (t4 + b * t5))));
      const t = 0.5 * (ta + tb);
      const cube = 3 * t * t + 0.25 * (tb - ta) * (tb - ta);
      const dx = x1 + t * x2 + cube * x3;
      const dy = y1 + t * y2 + cube * y3;
      const dz = z1 + t * z2 + cube * z3;
      out[i] = (tb - ta) * Math.sqrt(dx * dx + dy * dy + dz * dz);
    }
  }

  /**
   * Stretches from `start` to before `stop`, all in one cell. With a parameter of t ± h at its ends, a cubic's chord has its
   * middle at r(t) + h²·r″(t)/2 and runs along r′(t) + h²·r‴/6, exactly: one place to look at instead of two.
   */
  #chordsInCell(
    cell: number,
    spans: Float64Array,
    start: number,
    stop: number,
    middle: Float64Array,
    direction: Float64Array,
  ): void {
    const from = this.#cellAt[cell];
    const share = 1 / (this.#cellAt[cell + 1] - from);
    const polynomial = this.#cellPolynomial;
    const k = CELL * cell;
    const t0 = polynomial[k];
    const t1 = polynomial[k + 1];
    const t2 = polynomial[k + 2];
    const t3 = polynomial[k + 3];
    const t4 = polynomial[k + 4];
    const t5 = polynomial[k + 5];
    const c = this.#coefficients;
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
    const still = (STILL * this.length) ** 2;
    for (let i = start, p = 3 * start; i < stop; i++, p += 3) {
      const a = (spans[2 * i] - from) * share;
      const b = (spans[2 * i + 1] - from) * share;
      const ta = t0 + a * (t1 + a * (t2 + a * (t3 + a * (t4 + a * t5))));
      const tb = t0 + b * (t1 + b * (t2 + b * (t3 + b * (t4 + b * t5))));
      const t = 0.5 * (ta + tb);
      const hh = 0.25 * (tb - ta) * (tb - ta);
      const dx = x1 + t * (2 * x2 + t * 3 * x3) + hh * x3;
      const dy = y1 + t * (2 * y2 + t * 3 * y3) + hh * y3;
      const dz = z1 + t * (2 * z2 + t * 3 * z3) + hh * z3;
      const squared = dx * dx + dy * dy + dz * dz;
      if (squared <= still) {
        writeChords(this, spans.subarray(2 * i), 1, middle.subarray(p), direction.subarray(p));
        continue;
      }
      middle[p] = x0 + t * (x1 + t * (x2 + t * x3)) + hh * (x2 + 3 * t * x3);
      middle[p + 1] = y0 + t * (y1 + t * (y2 + t * y3)) + hh * (y2 + 3 * t * y3);
      middle[p + 2] = z0 + t * (z1 + t * (z2 + t * z3)) + hh * (z2 + 3 * t * z3);
      const inverse = 1 / Math.sqrt(squared);
      direction[p] = dx * inverse;
      direction[p + 1] = dy * inverse;
      direction[p + 2] = dz * inverse;
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
    const c = this.#cellPolynomial;
    const o = CELL * cell;
    return c[o] + x * (c[o + 1] + x * (c[o + 2] + x * (c[o + 3] + x * (c[o + 4] + x * c[o + 5]))));
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

  /** Near enough to the length to set the tolerance by. */
  #roughLength(speed: Speed): number {
    let sum = 0;
    for (let span = 0; span < this.spans; span++) {
      speed.of(this.#coefficients, SPAN * span);
      sum += (speed.at(0) + 4 * speed.at(0.5) + speed.at(1)) / 6;
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

/**
 * Hanging rope: a catenary between each two neighbouring knots, y = a·cosh(x / a), whose arc length and inverse are closed
 * formulas. With σ the arc length from the lowest point: x = a·asinh(σ / a), y = √(a² + σ²), direction (a, σ) / √(a² + σ²).
 */
import { distance, type Vec3 } from "../math";
import { writeChordLengths, writeChords } from "./chords";
import { arcLengthWithin, type Curve } from "./curve";
import type { HangingRope } from "./schema";

/** A rope less than this share longer than the straight way is drawn straight. */
const TAUT = 1e-9;

/** Two knots nearer than this (metres) are one: no rope hangs between them. */
const POINT = 1e-9;

/** Solves for the shape are carried out over at least this share of the rope's length sideways. */
const NARROW = 1e-6;

/** One catenary. `a` is 0 for a taut one, which is straight. */
interface Swag {
  start: Vec3;
  end: Vec3;
  length: number;
  /** The catenary's parameter in metres, and the arc length from its lowest point to the start (negative before it). */
  a: number;
  sigma0: number;
  /** Unit heading of the span on the level. */
  headingX: number;
  headingZ: number;
  /** True horizontal distance over the one that the shape was solved for: below 1 only where the ends are above each other. */
  squeeze: number;
}

export function hangingRope(line: HangingRope): Curve {
  const knots = line.knots.map((knot) => knot.position);
  const chords = knots.slice(1).map((knot, i) => distance(knots[i], knot));
  const straight = chords.reduce((sum, chord) => sum + chord, 0);
  const swags = chords.map((chord, i) => {
    const length = straight > 0 ? (line.length * chord) / straight : 0;
    return line.by === "sag"
      ? swagBySag(knots[i], knots[i + 1], line.sag)
      : swagByLength(knots[i], knots[i + 1], length);
  });
  return new HangingCurve(swags, knots[0]);
}

class HangingCurve implements Curve {
  readonly length: number;
  readonly closed = false;
  readonly spans: number;
  readonly spanAt: Float64Array;
  readonly knotAt: Float64Array;
  readonly #swags: readonly Swag[];
  readonly #start: Vec3;
  readonly #one = new Float64Array(1);
  readonly #tangent = new Float64Array(3);

  constructor(swags: readonly Swag[], start: Vec3) {
    this.#swags = swags;
    this.#start = start;
    this.spans = swags.length;
    this.spanAt = new Float64Array(swags.length + 1);
    swags.forEach((swag, i) => (this.spanAt[i + 1] = this.spanAt[i] + swag.length));
    this.length = this.spanAt[swags.length];
    this.knotAt = this.spanAt;
  }

  evaluate(u: number): { position: [number, number, number]; derivative: [number, number, number] } {
    const position = new Float64Array(3);
    const tangent = new Float64Array(3);
    this.sample(Float64Array.of(this.arcLengthTo(u)), 1, position, tangent);
    const span = Math.max(0, Math.min(this.spans - 1, Math.floor(u)));
    const k = this.spans > 0 ? this.#swags[span].length : 0;
    return {
      position: [position[0], position[1], position[2]],
      derivative: [tangent[0] * k, tangent[1] * k, tangent[2] * k],
    };
  }

  /** Within a span the parameter is proportional to the arc length. */
  arcLengthTo(u: number): number {
    if (this.spans === 0) return 0;
    const span = Math.max(0, Math.min(this.spans - 1, Math.floor(u)));
    return this.spanAt[span] + (u - span) * this.#swags[span].length;
  }

  parameterAt(at: number): number {
    if (this.length === 0) return 0;
    const s = arcLengthWithin(this, at);
    const span = this.#spanOf(s, 0);
    return span + (s - this.spanAt[span]) / this.#swags[span].length;
  }

  sample(at: Float64Array, n: number, position: Float64Array, tangent: Float64Array | null): void {
    if (this.length === 0) {
      for (let i = 0; i < n; i++) {
        position.set(this.#start, 3 * i);
        tangent?.set([0, 0, 1], 3 * i);
      }
      return;
    }
    let span = 0;
    for (let i = 0; i < n; i++) {
      const s = arcLengthWithin(this, at[i]);
      span = this.#spanOf(s, span);
      writeOnSwag(this.#swags[span], s - this.spanAt[span], at[i] - s, position, tangent, 3 * i);
    }
  }

  sampleAt(at: number, out: Float64Array): void {
    this.#one[0] = at;
    this.sample(this.#one, 1, out, this.#tangent);
    out.set(this.#tangent, 3);
  }

  chords(spans: Float64Array, n: number, middle: Float64Array, direction: Float64Array): void {
    writeChords(this, spans, n, middle, direction);
  }

  chordLengths(spans: Float64Array, n: number, out: Float64Array): void {
    writeChordLengths(this, spans, n, out);
  }

  /** The span that holds arc length `s`, looked for from `hint`; spans without length are passed over. */
  #spanOf(s: number, hint: number): number {
    let span = hint;
    while (span > 0 && s < this.spanAt[span]) span--;
    while (span < this.spans - 1 && s >= this.spanAt[span + 1]) span++;
    while (span > 0 && this.#swags[span].length === 0) span--;
    return span;
  }
}

function writeOnSwag(
  swag: Swag,
  s: number,
  beyond: number,
  position: Float64Array,
  tangent: Float64Array | null,
  o: number,
): void {
  const { a, sigma0, start, end, length } = swag;
  let forward: number, up: number, tangentForward: number, tangentUp: number;
  if (a === 0) {
    const k = s / length;
    forward = k * Math.hypot(end[0] - start[0], end[2] - start[2]);
    up = k * (end[1] - start[1]);
    tangentForward = Math.hypot(end[0] - start[0], end[2] - start[2]) / length;
    tangentUp = (end[1] - start[1]) / length;
  } else {
    const sigma = sigma0 + s;
    const height = Math.sqrt(a * a + sigma * sigma);
    forward = swag.squeeze * a * (Math.asinh(sigma / a) - Math.asinh(sigma0 / a));
    up = height - Math.sqrt(a * a + sigma0 * sigma0);
    tangentForward = a / height;
    tangentUp = sigma / height;
  }
  const tx = tangentForward * swag.headingX;
  const tz = tangentForward * swag.headingZ;
  position[o] = start[0] + forward * swag.headingX + beyond * tx;
  position[o + 1] = start[1] + up + beyond * tangentUp;
  position[o + 2] = start[2] + forward * swag.headingZ + beyond * tz;
  if (!tangent) return;
  tangent[o] = tx;
  tangent[o + 1] = tangentUp;
  tangent[o + 2] = tz;
}

/** The catenary of the given length; a taut one where that is not longer than the straight way. */
function swagByLength(start: Vec3, end: Vec3, length: number): Swag {
  const chord = distance(start, end);
  if (chord < POINT || !(length > chord * (1 + TAUT))) return taut(start, end);
  const rise = end[1] - start[1];
  const across = Math.max(Math.hypot(end[0] - start[0], end[2] - start[2]), NARROW * length);
  // √(length² − rise²) / across = sinh(b) / b, with b = across / 2a
  const ratio = Math.sqrt((length - rise) * (length + rise)) / across;
  const b = bisect((x) => Math.sinh(x) / x - ratio, 1e-7, 60);
  return swag(start, end, across, across / (2 * b));
}

/** The catenary that hangs `sag` below the straight line between its ends, where it hangs deepest. */
function swagBySag(start: Vec3, end: Vec3, sag: number): Swag {
  const chord = distance(start, end);
  if (chord < POINT || !(sag > chord * 1e-6)) return taut(start, end);
  const across = Math.max(Math.hypot(end[0] - start[0], end[2] - start[2]), NARROW * (chord + sag));
  const b = bisect((x) => sagOf(across, end[1] - start[1], across / (2 * x)) - sag, 1e-7, 60);
  return swag(start, end, across, across / (2 * b));
}

/** How far the catenary of parameter `a` hangs below its chord: its depth where it runs parallel to the chord. */
function sagOf(across: number, rise: number, a: number): number {
  const sigma0 = startSigma(across, rise, a);
  const sigma = (a * rise) / across;
  const x = a * (Math.asinh(sigma / a) - Math.asinh(sigma0 / a));
  const y = Math.sqrt(a * a + sigma * sigma) - Math.sqrt(a * a + sigma0 * sigma0);
  return (rise * x) / across - y;
}

/** Arc length from the lowest point to the start of the catenary of parameter `a` over `across` with the given rise. */
function startSigma(across: number, rise: number, a: number): number {
  const half = across / (2 * a);
  const middle = Math.asinh(rise / (2 * a * Math.sinh(half)));
  return a * Math.sinh(middle - half);
}

function swag(start: Vec3, end: Vec3, across: number, a: number): Swag {
  const rise = end[1] - start[1];
  const sigma0 = startSigma(across, rise, a);
  const half = across / (2 * a);
  const middle = Math.asinh(rise / (2 * a * Math.sinh(half)));
  const length = a * Math.sinh(middle + half) - sigma0;
  return { ...taut(start, end), length, a, sigma0, squeeze: Math.hypot(end[0] - start[0], end[2] - start[2]) / across };
}

function taut(start: Vec3, end: Vec3): Swag {
  const [dx, dz] = [end[0] - start[0], end[2] - start[2]];
  const level = Math.hypot(dx, dz);
  const [headingX, headingZ] = level > 0 ? [dx / level, dz / level] : [0, 1];
  return { start, end, length: distance(start, end), a: 0, sigma0: 0, headingX, headingZ, squeeze: 1 };
}

/** The root of a rising function between `low` and `high`, to the last digits: the interval is halved in ratio. */
function bisect(f: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 200 && high / low > 1 + 1e-15; i++) {
    const middle = Math.sqrt(low * high);
    if (f(middle) < 0) low = middle;
    else high = middle;
  }
  return Math.sqrt(low * high);
}

/**
 * *A curve: what every kind of line becomes.* It consists of spans, one between each two knots; parameter `u` runs from 0
 * to the number of spans, its whole part says which span. Everything that is placed asks by arc length instead.
 *
 *     const curve = smooth(line);
 *     curve.sample([0, curve.length / 2], 2, position, tangent); // two positions, two directions
 */
export interface Curve {
  /** Arc length in metres; 0 for a curve that is a single point. */
  readonly length: number;
  /** Whether the end is joined to the start. */
  readonly closed: boolean;
  /** How many spans there are: one fewer than the knots, or as many when closed. */
  readonly spans: number;
  /** Arc length at the start of each span, and at last the whole length: `spans + 1` numbers. */
  readonly spanAt: Float64Array;
  /** Arc length at each knot, rising. A shape has some of its own: a circle's quarters, a rectangle's corners, ends. */
  readonly knotAt: Float64Array;

  /** Position (metres) at parameter `u`, and the exact derivative with respect to `u`. */
  evaluate(u: number): { position: [number, number, number]; derivative: [number, number, number] };

  /** Arc length in metres from the start to parameter `u`. */
  arcLengthTo(u: number): number;

  /** The parameter at an arc length: the inverse of {@link arcLengthTo}, within 1e-7 of the curve's length. */
  parameterAt(at: number): number;

  /**
   * Writes the positions (3n, metres) and unit tangents (3n) at `n` arc lengths, in any order. A closed curve wraps round;
   * an open one runs on straight past its ends. Where the curve stands still (a cusp) the tangent is that of its immediate
   * surroundings; a curve of length zero has tangent +Z.
   *
   * @param tangent where only positions are wanted, null
   */
  sample(at: Float64Array, n: number, position: Float64Array, tangent: Float64Array | null): void;

  /** As {@link sample} for a single place: writes its position and unit tangent, six numbers. */
  sampleAt(at: number, out: Float64Array): void;

  /**
   * For `n` stretches of the curve, 2n arc lengths, writes the points halfway between their ends (3n) and the unit
   * directions from one end straight to the other (3n); where both ends are one point, the tangent there.
   */
  chords(spans: Float64Array, n: number, middle: Float64Array, direction: Float64Array): void;

  /** How far apart as the crow flies the ends of `n` stretches are, 2n arc lengths: n, metres. */
  chordLengths(spans: Float64Array, n: number, out: Float64Array): void;
}

/** What it takes to find places along a curve. */
export type Track = Pick<Curve, "length" | "closed" | "knotAt" | "sample" | "sampleAt" | "chordLengths">;

/** An arc length brought into 0…length: wrapped on a closed curve, held at the ends of an open one. */
export function arcLengthWithin(curve: Pick<Curve, "length" | "closed">, at: number): number {
  if (curve.length === 0) return 0;
  if (curve.closed) {
    const wrapped = at - Math.floor(at / curve.length) * curve.length;
    return wrapped < curve.length ? wrapped : 0;
  }
  return at < 0 ? 0 : at > curve.length ? curve.length : at;
}

/** Lines: each kind in a file of its own, all becoming a {@link Curve}; frames along any of them. */
import { cornersOf, type Corner } from "./corners";
import { curveOf } from "./kinds";
import { writeFrames, writeSpanFrames, type UpRule } from "./frames";
import { marksOf } from "./marks";
import { applyRoll, rollOf, type Roll } from "./roll";
import { stationsOf, type Stations } from "./stations";
import { arcLengthWithin, type Curve } from "./curve";
import { curveThrough, normalsAlong, type LaidTrack, type Normals } from "./track";
import { distinctNumbers } from "./members";
import type { Line } from "./schema";

export { handleShare, handlesOf, type Handles } from "./bezier";
export { squaredToChain } from "./chain";
export { chained } from "./chained";
export { ChordFinder, LEAST_STEP, TOGETHER } from "./chord";
export type { Corner } from "./corners";
export {
  familyOf,
  memberId,
  memberNumber,
  membersOf,
  MOST_MEMBERS,
  nameOfMember,
  NO_MEMBERS,
  shortName,
  type Members,
  type Pair,
} from "./members";
export { MOST_PAIRS, pairsOfDivisions, pairsPicked } from "./pairs";
export { placeOnLine } from "./place-on-line";
export { asKind, joined, reversed, splitAt } from "./convert";
export { arcLengthWithin, type Curve, type Track } from "./curve";
export { withKnotAt } from "./insert";
export { curveOf, LINE_KINDS } from "./kinds";
export { writeFrames, type UpRule } from "./frames";
export {
  placeOn,
  placesOn,
  pointsInStep,
  polygonOf,
  seenPoints,
  spanMiddles,
  taggedSpans,
  type DrawnLine,
} from "./polygon";
export * from "./schema";
export type { LaidTrack } from "./track";

/** *A line ready to be placed along*: its curve, and its stations, marks and corners as soon as somebody asks for them. */
export class GuideLine {
  readonly id: string;
  readonly number: number;
  /** Added to what slots on it draw by; 0 but for lines in variants of assemblies. */
  readonly salt: number;
  readonly curve: Curve;
  /** Whether any span has a tag. */
  readonly tagged: boolean;
  /** How often it leaps where it is laid to the nearest place of a surface. */
  readonly leaps: number;
  readonly #line: Line;
  readonly #roll: Roll | null;
  /** Up along a line that lies on a surface. */
  readonly #normals: Normals | null;
  readonly #track: LaidTrack | null;
  #renumbered: GuideLine | undefined;
  #stations: Stations | undefined;
  #marks: Float64Array | undefined;

  /** The line that runs just as this one, of which it has what is worked out. */
  readonly #like: GuideLine | null;

  /**
   * @param track where the line lies once it has been laid onto a surface, see `core/lay`
   * @param like one that runs just so
   */
  constructor(line: Line, track: LaidTrack | null = null, like: GuideLine | null = null, salt = 0) {
    this.#line = line;
    this.#track = track;
    this.#like = like;
    this.id = line.id;
    this.number = line.number;
    this.salt = salt;
    this.curve = like?.curve ?? (track ? curveThrough(track) : curveOf(line));
    this.#normals = like ? like.#normals : track && normalsAlong(track, this.curve);
    this.leaps = track?.leaps ?? 0;
    this.tagged = like?.tagged ?? line.knots.some(({ tag }) => tag !== undefined);
    this.#roll = like ? like.#roll : rollOf(line, this.curve);
  }

  /** The same line, on which slots draw otherwise. */
  salted(salt: number): GuideLine {
    return new GuideLine(this.#line, this.#track, this, salt);
  }

  /** The same line under another number. */
  numbered(number: number): GuideLine {
    if (number === this.number) return this;
    if (this.#renumbered?.number !== number)
      this.#renumbered = new GuideLine({ ...this.#line, number }, this.#track, this, this.salt);
    return this.#renumbered;
  }

  get stations(): Stations {
    return this.#like?.stations ?? (this.#stations ??= stationsOf(this.curve));
  }

  /** Arc lengths of the marks between the parts that the line is divided into. */
  get marks(): Float64Array {
    return this.#like?.marks ?? (this.#marks ??= marksOf(this.#line, this.curve));
  }

  /** The knots at which the line turns by at least `angle` radians. */
  corners(angle: number): Corner[] {
    return cornersOf(this.#line, this.curve, angle);
  }

  /** The word for the span at an arc length, if it has one. */
  tagAt(at: number): string | undefined {
    if (!this.tagged) return undefined;
    const { knotAt } = this.curve;
    const { knots } = this.#line;
    // What stands on a knot to within rounding belongs to the span that begins there.
    const place = arcLengthWithin(this.curve, at) + 1e-9 * this.curve.length;
    let low = 0;
    let high = Math.min(knotAt.length, knots.length) - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (knotAt[middle] <= place) low = middle;
      else high = middle - 1;
    }
    return knots[low].tag;
  }

  /** Positions (3n, metres) and frames (4n, quaternions) at `n` arc lengths, with the line's roll where `up` asks for it. */
  frames(up: UpRule, at: Float64Array, n: number, position: Float64Array, rotation: Float64Array): void {
    writeFrames(this.curve, this, this.#upRule(up), at, n, position, rotation);
    this.#rolled(up, at, n, rotation);
  }

  /** As {@link frames}, for props that reach from one arc length to another, `span` (2n). */
  spanFrames(
    up: UpRule,
    at: Float64Array,
    span: Float64Array,
    n: number,
    position: Float64Array,
    rotation: Float64Array,
  ): void {
    writeSpanFrames(this.curve, this, this.#upRule(up), at, span, n, position, rotation);
    this.#rolled(up, at, n, rotation);
  }

  /** The frame of a line on a surface stands square to it; elsewhere there is no normal, and up is the world's. */
  #upRule(up: UpRule): Exclude<UpRule, "normal"> | Normals {
    if (this.#normals && (up === "line" || up === "normal")) return this.#normals;
    return up === "normal" ? "world" : up;
  }

  #rolled(up: UpRule, at: Float64Array, n: number, rotation: Float64Array): void {
    if (this.#roll && (up === "line" || up === "roll")) applyRoll(this.#roll, at, n, rotation);
  }
}

/** The lines, each with a number that no other of them has. */
export function distinctly(lines: GuideLine[]): GuideLine[] {
  const numbers = distinctNumbers(lines);
  return lines.every(({ number }, i) => number === numbers[i])
    ? lines
    : lines.map((line, i) => line.numbered(numbers[i]));
}

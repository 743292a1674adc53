/**
 * How a line runs about one place, in its frame there: what a prop that lies along it is bent by. Arc length is measured
 * along the parallel curve on which the prop stands, so that its length is kept in any row.
 */
import { angleBetween, conjugate, multiply, quatAt, rotate, vectorAt, type Quat, type Vec3 } from "../../math";
import { SAMPLE } from "../../mesh";
import type { GuideLine, UpRule } from "../../line";

/** Samples are taken so close that the frame turns by no more than this from one to the next, radians; within bounds. */
const TURN = 0.08;
const FEWEST = 4;
const MOST = 256;
/** The way is first felt out with so many. */
const FEELERS = 8;

/** A place on a line with what stands there: the foot's frame in the world, and how the prop reaches along from it. */
export interface BentPath {
  at: number;
  across: number;
  up: number;
  behind: number;
  before: number;
  position: Vec3;
  rotation: Quat;
}

/** *The ways along one line.* */
export class Profiles {
  readonly #line: GuideLine;
  readonly #up: UpRule;
  #at = new Float64Array(0);
  #position = new Float64Array(0);
  #rotation = new Float64Array(0);

  constructor(line: GuideLine, up: UpRule) {
    this.#line = line;
    this.#up = up;
  }

  /** @param span from where to where a stiff prop spans the line, if its ends lie on it: its frame is that of the chord */
  at(at: number, across: number, up: number, behind: number, before: number, span: Float64Array | null): BentPath {
    const [position, rotation] = [new Float64Array(3), new Float64Array(4)];
    if (span) this.#line.spanFrames(this.#up, Float64Array.of(at), Float64Array.from(span), 1, position, rotation);
    else this.#line.frames(this.#up, Float64Array.of(at), 1, position, rotation);
    const turn = quatAt(rotation, 0);
    return {
      at,
      across,
      up,
      behind,
      before,
      rotation: turn,
      position: beside(vectorAt(position, 0), turn, across, up),
    };
  }

  /**
   * The bent way from where the prop begins to where it ends: {@link SAMPLE} numbers a sample. None where it is straight to
   * within `fine` metres.
   */
  samples(way: BentPath, fine: number): Float64Array {
    if (!(this.#line.curve.length > 0) || !(way.behind + way.before > 0)) return new Float64Array(0);
    const { sharpest } = this.#sampled(way, FEELERS);
    const count = Math.max(FEWEST, Math.min(MOST, Math.ceil((FEELERS * sharpest) / TURN)));
    const { samples } = this.#sampled(way, count);
    return isStraight(samples, fine) ? new Float64Array(0) : samples;
  }

  /** Two planes in the foot's frame, before and past which there is no line: a b c d each. */
  planes(way: BentPath, bent: boolean): Float64Array {
    const { length } = this.#line.curve;
    const planes = Float64Array.of(0, 0, -1, Infinity, 0, 0, 1, Infinity);
    [0, length].forEach((end, k) => {
      const sign = k === 0 ? -1 : 1;
      if (sign * (end - way.at) > (k === 0 ? way.behind : way.before)) return;
      if (bent) planes.set([0, 0, sign, sign * this.#between(way, end)], 4 * k);
      else planes.set(this.#planeAt(way, end, sign), 4 * k);
    });
    return planes;
  }

  /** Square to the line at one of its ends, for what is stiff. */
  #planeAt({ position, rotation, across, up }: BentPath, end: number, sign: number): number[] {
    const there = this.at(end, across, up, 0, 0, null);
    const inverse = conjugate(rotation);
    const normal = rotate(inverse, rotate(there.rotation, [0, 0, sign]));
    const point = rotate(inverse, [0, 1, 2].map((k) => there.position[k] - position[k]) as unknown as Vec3);
    return [...normal, normal[0] * point[0] + normal[1] * point[1] + normal[2] * point[2]];
  }

  /** How far it is from the foot to an arc length of the line, along the parallel curve. */
  #between(way: BentPath, end: number): number {
    if (way.across === 0 && way.up === 0) return end - way.at;
    const { lengths } = this.#walk(way, Math.min(way.at, end), Math.max(way.at, end), FEELERS * 4);
    const total = lengths[lengths.length - 1];
    return end < way.at ? -total : total;
  }

  /** The samples, and how much the frame turns at most from one to the next, radians. */
  #sampled(way: BentPath, count: number): { samples: Float64Array; sharpest: number } {
    const { at, behind, before, across, up } = way;
    let [from, to] = [at - behind, at + before];
    // Beside the line a stretch of it is longer or shorter: it is made to fit what the prop measures.
    for (let i = 0; i < 3 && (across !== 0 || up !== 0); i++) {
      const back = from < at ? total(this.#walk(way, from, at, count).lengths) : 0;
      const on = to > at ? total(this.#walk(way, at, to, count).lengths) : 0;
      if (back > 0) from = at - (at - from) * Math.min(4, behind / back);
      if (on > 0) to = at + (to - at) * Math.min(4, before / on);
    }
    const { lengths, positions, rotations } = this.#walk(way, from, to, count);
    const scale = (behind + before) / Math.max(1e-12, lengths[count]);
    const inverse = conjugate(way.rotation);
    const samples = new Float64Array(SAMPLE * (count + 1));
    let sharpest = 0;
    for (let k = 0; k <= count; k++) {
      const position = rotate(inverse, [0, 1, 2].map((x) => positions[k][x] - way.position[x]) as unknown as Vec3);
      const rotation = multiply(inverse, rotations[k]);
      samples.set(
        [lengths[k] * scale - behind, ...position, ...(rotation[3] < 0 ? rotation.map((x) => -x) : rotation)],
        SAMPLE * k,
      );
      if (k > 0) sharpest = Math.max(sharpest, angleBetween(rotations[k - 1], rotations[k]));
    }
    return { samples, sharpest };
  }

  /** `count` equal steps of the line: positions and rotations on the parallel curve, and its arc length up to each. */
  #walk({ across, up }: BentPath, from: number, to: number, count: number) {
    const n = count + 1;
    if (this.#at.length < n) {
      this.#at = new Float64Array(n);
      this.#position = new Float64Array(3 * n);
      this.#rotation = new Float64Array(4 * n);
    }
    for (let k = 0; k < n; k++) this.#at[k] = from + ((to - from) * k) / count;
    this.#line.frames(this.#up, this.#at.subarray(0, n), n, this.#position, this.#rotation);
    const positions: Vec3[] = [];
    const rotations: Quat[] = [];
    const lengths = [0];
    for (let k = 0; k < n; k++) {
      const rotation = quatAt(this.#rotation, k);
      positions.push(beside(vectorAt(this.#position, k), rotation, across, up));
      rotations.push(rotation);
      if (k > 0) lengths.push(lengths[k - 1] + arcBetween(positions[k - 1], positions[k], rotations[k - 1], rotation));
    }
    return { lengths, positions, rotations };
  }
}

const total = (lengths: readonly number[]): number => lengths[lengths.length - 1];

function beside(position: Vec3, rotation: Quat, across: number, up: number): Vec3 {
  if (across === 0 && up === 0) return position;
  const [x, y, z] = rotate(rotation, [across, up, 0]);
  return [position[0] + x, position[1] + y, position[2] + z];
}

/** The length of the arc over a chord: that of the circle which turns by the same angle. */
function arcBetween(a: Vec3, b: Vec3, from: Quat, to: Quat): number {
  const chord = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
  const [p, q] = [rotate(from, [0, 0, 1]), rotate(to, [0, 0, 1])];
  const half = Math.acos(Math.max(-1, Math.min(1, p[0] * q[0] + p[1] * q[1] + p[2] * q[2]))) / 2;
  return half > 1e-4 && half < 1.5 ? (chord * half) / Math.sin(half) : chord;
}

function isStraight(samples: Float64Array, fine: number): boolean {
  for (let o = 0; o < samples.length; o += SAMPLE) {
    const off = Math.hypot(samples[o + 1], samples[o + 2], samples[o + 3] - samples[o]);
    const turned = Math.hypot(samples[o + 4], samples[o + 5], samples[o + 6]);
    if (off > fine || turned > 1e-5) return false;
  }
  return true;
}

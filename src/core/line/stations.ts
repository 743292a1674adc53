/**
 * The line's own frame, rotation-minimizing by double reflection (W. Wang, B. Jüttler, D. Zheng, Y. Liu, *Computation of
 * Rotation Minimizing Frames*, ACM TOG 27(1), 2008), carried along fixed *stations* of the curve. In between it is carried
 * from the station before, so that a frame depends on the curve alone and not on how densely it is asked.
 */
import { anyPerpendicular, cross, dot, normalize, scale, subtract, vectorAt, writeFromBasis, type Vec3 } from "../math";
import type { Curve } from "./curve";

/** Stations are added until the tangent turns by no more than this between neighbours (radians). */
const MAX_TURN = 0.08;
const MAX_PASSES = 14;
/** Corners are crossed between two stations this share of the length apart. */
const CORNER = 1e-9;
/** World up counts as parallel to the tangent below this sine of the angle between them. */
export const PARALLEL = 1e-6;

/** The stations of a curve: arc length, position, tangent and up at each, and the twist left over on a closed one. */
export interface Stations {
  at: Float64Array;
  position: Float64Array;
  tangent: Float64Array;
  up: Float64Array;
  /** The frame at each as a quaternion, 4 numbers. */
  rotation: Float64Array;
  /** Radians about the tangent by which the frame comes back turned after a whole round; shared out by arc length. */
  twist: number;
  /** For each of equal stretches of the curve, the last station at or before its start. */
  bucket: Uint32Array;
}

/**
 * Carries the stations of `curve`. The first up is the world's, made perpendicular to the tangent; where the line starts
 * straight up or down, it is the world axis that leans least on it.
 */
export function stationsOf(curve: Curve): Stations {
  const at = stationArcLengths(curve);
  const n = at.length;
  const position = new Float64Array(3 * n);
  const tangent = new Float64Array(3 * n);
  const up = new Float64Array(3 * n);
  curve.sample(at, n, position, tangent);

  const first = vectorAt(tangent, 0);
  up.set(perpendicularUp(first) ?? anyPerpendicular(first), 0);
  for (let i = 1; i < n; i++) reflectTwice(position, tangent, up, i - 1, position, tangent, i, up);

  let twist = 0;
  if (curve.closed && n > 1) {
    // Carry the last frame across the seam onto the first tangent, and see how far from the first up it arrives.
    const seam = Float64Array.of(...vectorAt(up, n - 1));
    const end = Float64Array.of(...vectorAt(position, 0));
    reflectTwice(position, tangent, up, n - 1, end, Float64Array.of(...first), 0, seam);
    const [r0, r1] = [vectorAt(up, 0), vectorAt(seam, 0)];
    const across = cross(r0, first);
    twist = Math.atan2(-dot(r1, across), dot(r1, r0));
  }
  return { at, position, tangent, up, rotation: rotationsOf(tangent, up), twist, bucket: bucketsOf(at, curve.length) };
}

/**
 * Carries the up of frame `i` to the place `j`: reflect in the plane that halves the way, then in the one that halves the
 * angle between the reflected tangent and the one there. Where the way is nothing only the angle counts; where the curve
 * turns right back, up stays. The result is made perpendicular to the tangent once more, so rounding cannot add up.
 */
export function reflectTwice(
  fromPosition: Float64Array,
  fromTangent: Float64Array,
  fromUp: Float64Array,
  i: number,
  toPosition: Float64Array,
  toTangent: Float64Array,
  j: number,
  out: Float64Array,
  outIndex = j,
): void {
  const a = 3 * i;
  const b = 3 * j;
  let rx = fromUp[a];
  let ry = fromUp[a + 1];
  let rz = fromUp[a + 2];
  let sx = fromTangent[a];
  let sy = fromTangent[a + 1];
  let sz = fromTangent[a + 2];
  const tx = toTangent[b];
  const ty = toTangent[b + 1];
  const tz = toTangent[b + 2];

  let vx = toPosition[b] - fromPosition[a];
  let vy = toPosition[b + 1] - fromPosition[a + 1];
  let vz = toPosition[b + 2] - fromPosition[a + 2];
  let squared = vx * vx + vy * vy + vz * vz;
  if (!(squared > 1e-300)) {
    vx = sx;
    vy = sy;
    vz = sz;
    squared = 1;
  }
  let k = (2 * (vx * rx + vy * ry + vz * rz)) / squared;
  rx -= k * vx;
  ry -= k * vy;
  rz -= k * vz;
  k = (2 * (vx * sx + vy * sy + vz * sz)) / squared;
  sx -= k * vx;
  sy -= k * vy;
  sz -= k * vz;

  vx = tx - sx;
  vy = ty - sy;
  vz = tz - sz;
  squared = vx * vx + vy * vy + vz * vz;
  if (squared > 1e-20) {
    k = (2 * (vx * rx + vy * ry + vz * rz)) / squared;
    rx -= k * vx;
    ry -= k * vy;
    rz -= k * vz;
  }
  k = rx * tx + ry * ty + rz * tz;
  rx -= k * tx;
  ry -= k * ty;
  rz -= k * tz;
  const inverse = 1 / Math.sqrt(rx * rx + ry * ry + rz * rz);
  const o = 3 * outIndex;
  out[o] = rx * inverse;
  out[o + 1] = ry * inverse;
  out[o + 2] = rz * inverse;
}

/** Arc lengths of stations: close about each knot, and between them as many as the turning of the tangent asks for. */
function stationArcLengths(curve: Curve): Float64Array {
  if (curve.length === 0) return Float64Array.of(0);
  const least = CORNER * curve.length;
  let at: number[] = [0];
  for (let span = 1; span <= curve.spans; span++) {
    const end = curve.spanAt[span];
    const start = at[at.length - 1];
    if (end - start <= 4 * least) continue;
    at.push(start + (end - start) / 2, end - least);
    if (span < curve.spans) at.push(end);
  }
  for (let pass = 0; pass < MAX_PASSES; pass++) {
    const tangent = new Float64Array(3 * at.length);
    curve.sample(Float64Array.from(at), at.length, new Float64Array(3 * at.length), tangent);
    const finer: number[] = [at[0]];
    for (let i = 1; i < at.length; i++) {
      const gap = at[i] - at[i - 1];
      const turns = dot(vectorAt(tangent, i - 1), vectorAt(tangent, i)) < Math.cos(MAX_TURN);
      if (turns && gap > 4 * least) finer.push(at[i - 1] + gap / 2);
      finer.push(at[i]);
    }
    if (finer.length === at.length) break;
    at = finer;
  }
  return Float64Array.from(at);
}

function rotationsOf(tangent: Float64Array, up: Float64Array): Float64Array {
  const n = tangent.length / 3;
  const rotation = new Float64Array(4 * n);
  for (let i = 0; i < n; i++) {
    const t = vectorAt(tangent, i);
    const u = vectorAt(up, i);
    writeFromBasis(rotation, i, ...cross(u, t), ...u, ...t);
  }
  return rotation;
}

/** The last station at or before arc length `s`, which lies within the curve. */
export function stationAt(stations: Stations, length: number, s: number): number {
  const { at, bucket } = stations;
  const last = at.length - 1;
  let station = length > 0 ? bucket[Math.min(bucket.length - 1, Math.floor((s / length) * bucket.length))] : 0;
  while (station < last && at[station + 1] <= s) station++;
  return station;
}

function bucketsOf(at: Float64Array, length: number): Uint32Array {
  const buckets = new Uint32Array(2 * at.length);
  let station = 0;
  for (let b = 0; b < buckets.length; b++) {
    while (station < at.length - 1 && at[station + 1] <= (b / buckets.length) * length) station++;
    buckets[b] = station;
  }
  return buckets;
}

function perpendicularUp(t: Vec3): Vec3 | null {
  const up = subtract([0, 1, 0], scale(t, t[1]));
  return dot(up, up) > PARALLEL * PARALLEL ? normalize(up) : null;
}

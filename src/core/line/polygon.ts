/** Lines as polygons, for drawing and picking: fine enough to look curved where they are. */
import { arcLengthWithin, type Curve } from "./curve";
import { LINE_KINDS } from "./kinds";
import type { Line, Polyline } from "./schema";
import type { LaidTrack } from "./track";
import { squaredToSegment, type Vec3 } from "../math";

export interface DrawnLine {
  curve: Curve;
  /** Metres; the first once more at the end of a closed line. */
  points: Vec3[];
  /** Arc length at each point, metres. */
  at: number[];
}

/** A curved span has so many points, fewer where there would be more than so many in all. */
const PER_SPAN = { least: 4, most: 32 };
const POINTS = 4000;

/** @param track where the line lies once it has been laid onto a surface: then its own points are taken */
export function polygonOf(line: Line, curve: Curve, track: LaidTrack | null): DrawnLine {
  if (track) {
    const points = pointsOf(track.points);
    return { curve, points: curve.closed ? [...points, points[0]] : points, at: [...curve.spanAt] };
  }
  const { least, most } = PER_SPAN;
  const fine = Math.max(least, Math.min(most, Math.ceil(POINTS / Math.max(1, curve.spans))));
  const perSpan = LINE_KINDS[line.kind].curved || line.ring ? fine : 1;
  const at: number[] = [];
  for (let span = 0; span < curve.spans; span++) {
    const [from, to] = [curve.spanAt[span], curve.spanAt[span + 1]];
    for (let k = 0; k < perSpan; k++) at.push(from + ((to - from) * k) / perSpan);
  }
  at.push(curve.length);
  return { curve, points: placesOn(curve, Float64Array.from(at)), at };
}

/**
 * One line at several moments with as many points in each, so that each point goes from one moment to the next: as they are
 * where they have the same number, else at the same shares of the length as in the one that has most.
 *
 * @returns 3n numbers each, metres
 */
export function pointsInStep(moments: readonly DrawnLine[]): Float64Array[] {
  const finest = moments.reduce((most, one) => (one.at.length > most.at.length ? one : most));
  const shares = finest.at.map((at) => at / (finest.curve.length || 1));
  return moments.map(({ curve, points }) => {
    if (points.length === shares.length) return Float64Array.from(points.flat());
    const position = new Float64Array(3 * shares.length);
    curve.sample(
      Float64Array.from(shares, (share) => share * curve.length),
      shares.length,
      position,
      null,
    );
    return position;
  });
}

/** What is left out may lie so far beside what is drawn, as a share of the polygon's extent. */
const SEEN = 3e-4;
/** So many points are left out in a row at most. */
const RUN = 32;

/**
 * A polygon as it is looked at from where all of it is seen: without points that the others lie between. A line that winds or
 * lies on a fine mesh has many that nobody tells apart, and each is drawn as a strip of its own.
 */
export function seenPoints(points: readonly Vec3[]): Vec3[] {
  const extent = Math.hypot(
    ...[0, 1, 2].map((k) => {
      const [least, most] = points.reduce(([a, b], p) => [Math.min(a, p[k]), Math.max(b, p[k])], [Infinity, -Infinity]);
      return Math.max(0, most - least);
    }),
  );
  const squared = (SEEN * extent) ** 2;
  const liesBetween = (a: Vec3, b: Vec3, p: Vec3): boolean =>
    squaredToSegment(p[0] - a[0], p[1] - a[1], p[2] - a[2], b[0] - a[0], b[1] - a[1], b[2] - a[2]) <= squared;
  const kept = points.slice(0, 1);
  for (let last = 0; last < points.length - 1;) {
    const end = Math.min(points.length - 1, last + RUN);
    let next = last + 1;
    while (next < end && points.slice(last + 1, next + 1).every((p) => liesBetween(points[last], points[next + 1], p)))
      next++;
    kept.push(points[next]);
    last = next;
  }
  return kept;
}

/** The positions at arc lengths of a curve. */
export function placesOn(curve: Curve, at: Float64Array): Vec3[] {
  const position = new Float64Array(3 * at.length);
  curve.sample(at, at.length, position, null);
  return pointsOf(position);
}

/** The position at an arc length of a curve, wherever it ends. */
export const placeOn = (curve: Curve, at: number): Vec3 =>
  placesOn(curve, Float64Array.of(arcLengthWithin(curve, at)))[0];

const pointsOf = (position: ArrayLike<number>): Vec3[] =>
  Array.from({ length: position.length / 3 }, (_, i): Vec3 => [
    position[3 * i],
    position[3 * i + 1],
    position[3 * i + 2],
  ]);

/** The spans of a line that have a tag, as pieces of its polygon. */
export function taggedSpans(
  { knots }: Pick<Line, "knots">,
  { curve, points, at }: DrawnLine,
): { tag: string; points: Vec3[]; middle: Vec3 }[] {
  const { knotAt, length, closed } = curve;
  return knots.flatMap(({ tag }, i) => {
    const to = i + 1 < knotAt.length ? knotAt[i + 1] : length;
    if (tag === undefined || knotAt[i] === undefined || (i + 1 >= knotAt.length && !closed)) return [];
    const inner = points.filter((_, k) => at[k] > knotAt[i] && at[k] < to);
    const last = to >= length && closed ? points[0] : placeOn(curve, to);
    return [{ tag, points: [placeOn(curve, knotAt[i]), ...inner, last], middle: placeOn(curve, (knotAt[i] + to) / 2) }];
  });
}

/** The middle of each way from knot to knot, where a knot can be inserted. */
export function spanMiddles(line: Line, curve: Curve): Vec3[] {
  if (line.kind === "polyline") return chordMiddles(line);
  const ends = curve.closed ? [...curve.knotAt, curve.length] : [...curve.knotAt];
  return ends.slice(1).map((end, i) => placeOn(curve, (ends[i] + end) / 2));
}

function chordMiddles({ knots, closed }: Polyline): Vec3[] {
  const next = closed && knots.length > 2 ? [...knots.slice(1), knots[0]] : knots.slice(1);
  return next.map(({ position: [x, y, z] }, i) => {
    const [a, b, c] = knots[i].position;
    return [(a + x) / 2, (b + y) / 2, (c + z) / 2];
  });
}

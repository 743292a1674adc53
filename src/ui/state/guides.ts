/** Lines as polygons for drawing and picking; worked out once for each state of a line. */
import {
  arcLengthWithin,
  GuideLine,
  isKnotted,
  type Curve,
  type LaidTrack,
  type Line,
  type Polyline,
} from "@/core/line";
import type { Vec3 } from "@/core/math";
import { trackOf } from "./laid";

export interface DrawnLine {
  curve: Curve;
  points: Vec3[];
  /** Arc length at each point. */
  at: number[];
}

/** Something worked out of a line, and of where it lies on a surface. */
class Known<T> {
  readonly #known = new WeakMap<Line, { track: LaidTrack | null; value: T }>();
  readonly #make: (line: Line, track: LaidTrack | null) => T;

  constructor(make: (line: Line, track: LaidTrack | null) => T) {
    this.#make = make;
  }

  of(line: Line): T {
    const track = trackOf(line);
    const known = this.#known.get(line);
    if (known?.track === track) return known.value;
    const value = this.#make(line, track);
    this.#known.set(line, { track, value });
    return value;
  }
}

const drawn = new Known(draw);

export const drawnLine = (line: Line): DrawnLine => drawn.of(line);

function draw(line: Line, track: LaidTrack | null): DrawnLine {
  const { curve } = guideOf(line);
  if (track) {
    const points = Array.from({ length: track.points.length / 3 }, (_, i): Vec3 => [
      track.points[3 * i],
      track.points[3 * i + 1],
      track.points[3 * i + 2],
    ]);
    return { curve, points: curve.closed ? [...points, points[0]] : points, at: [...curve.spanAt] };
  }
  const at: number[] = [];
  const curved = line.kind === "smooth" || line.kind === "hanging" || line.kind === "bezier" || line.ring;
  const perSpan = curved ? Math.max(4, Math.min(32, Math.ceil(4000 / Math.max(1, curve.spans)))) : 1;
  for (let span = 0; span < curve.spans; span++) {
    const [from, to] = [curve.spanAt[span], curve.spanAt[span + 1]];
    for (let k = 0; k < perSpan; k++) at.push(from + ((to - from) * k) / perSpan);
  }
  at.push(curve.length);
  const position = new Float64Array(3 * at.length);
  curve.sample(Float64Array.from(at), at.length, position, new Float64Array(3 * at.length));
  const points = at.map((_, i): Vec3 => [position[3 * i], position[3 * i + 1], position[3 * i + 2]]);
  if (curve.closed) points[points.length - 1] = points[0];
  return { curve, points, at };
}

const guides = new Known((line, track) => new GuideLine(line, track));

/** The line as placing sees it: frames, marks, corners. */
export const guideOf = (line: Line): GuideLine => guides.of(line);

/** The position at an arc length of a line. */
export function placeAt({ curve }: DrawnLine, at: number): Vec3 {
  const position = new Float64Array(3);
  curve.sample(Float64Array.of(arcLengthWithin(curve, at)), 1, position, null);
  return [position[0], position[1], position[2]];
}

/** The positions of a line's marks. */
export function markPositions(line: Line): Vec3[] {
  const { marks, curve } = guideOf(line);
  const position = new Float64Array(3 * marks.length);
  curve.sample(marks, marks.length, position, null);
  return Array.from(marks, (_, i) => [position[3 * i], position[3 * i + 1], position[3 * i + 2]]);
}

/** The tags of a line's spans, each once, in the order of the alphabet. */
export const tagsOf = (line: Line): string[] => [...new Set(line.knots.flatMap(({ tag }) => tag ?? []))].sort();

/** Colours of spans with a tag, by its place among the line's tags. */
const TAG_COLOURS = ["#c98a1b", "#4f7f4a", "#7a5ea8", "#b5636a", "#3b7fb0", "#8f7650"];
export const tagColour = (line: Line, tag: string): string =>
  TAG_COLOURS[tagsOf(line).indexOf(tag) % TAG_COLOURS.length] ?? TAG_COLOURS[0];

/** The spans of a line that have a tag, as pieces of its polygon. */
export function taggedSpans(line: Line): { tag: string; points: Vec3[]; middle: Vec3 }[] {
  const drawn = drawnLine(line);
  const { knotAt, length, closed } = drawn.curve;
  return line.knots.flatMap(({ tag }, i) => {
    const to = i + 1 < knotAt.length ? knotAt[i + 1] : length;
    if (tag === undefined || knotAt[i] === undefined || (i + 1 >= knotAt.length && !closed)) return [];
    const inner = drawn.points.filter((_, k) => drawn.at[k] > knotAt[i] && drawn.at[k] < to);
    const points = [placeAt(drawn, knotAt[i]), ...inner, to >= length && closed ? drawn.points[0] : placeAt(drawn, to)];
    return [{ tag, points, middle: placeAt(drawn, (knotAt[i] + to) / 2) }];
  });
}

/** The middle of each way from knot to knot, where a knot can be inserted; a shape has none. */
export function spanMiddles(line: Line): Vec3[] {
  if (!isKnotted(line)) return [];
  if (line.kind === "polyline") return chordMiddles(line);
  const drawn = drawnLine(unbent(line));
  const { knotAt, length, closed } = drawn.curve;
  const ends = closed ? [...knotAt, length] : [...knotAt];
  return ends.slice(1).map((end, i) => placeAt(drawn, (ends[i] + end) / 2));
}

const straight = new WeakMap<Line, Line>();

/** The line before it is bent into a ring or laid onto a surface: where its knots lie. */
export function unbent<T extends Line>(line: T): T {
  if (!line.ring && !line.laid) return line;
  let found = straight.get(line);
  if (!found) straight.set(line, (found = { ...line, ring: false, laid: null }));
  return found as T;
}

function chordMiddles({ knots, closed }: Polyline): Vec3[] {
  const next = closed && knots.length > 2 ? [...knots.slice(1), knots[0]] : knots.slice(1);
  return next.map(({ position: [x, y, z] }, i) => {
    const [a, b, c] = knots[i].position;
    return [(a + x) / 2, (b + y) / 2, (c + z) / 2];
  });
}

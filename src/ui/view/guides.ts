/** Lines as polygons for drawing and picking; worked out once for each state of a line. */
import { curveOf, hasKnots, type Curve, type Line, type Polyline } from "@/core/line";
import type { Vec3 } from "@/core/math";

export interface DrawnLine {
  curve: Curve;
  points: Vec3[];
  /** Arc length at each point. */
  at: number[];
}

const known = new WeakMap<Line, DrawnLine>();

export function drawnLine(line: Line): DrawnLine {
  let drawn = known.get(line);
  if (!drawn) known.set(line, (drawn = draw(line)));
  return drawn;
}

function draw(line: Line): DrawnLine {
  const curve = curveOf(line);
  const at: number[] = [];
  const perSpan =
    line.kind !== "smooth" && line.kind !== "hanging"
      ? 1
      : Math.max(4, Math.min(32, Math.ceil(4000 / Math.max(1, curve.spans))));
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

/** The middle of each way from knot to knot, where a knot can be inserted; a shape has none. */
export function spanMiddles(line: Line): Vec3[] {
  if (!hasKnots(line)) return [];
  if (line.kind === "polyline") return chordMiddles(line);
  const { curve } = drawnLine(line);
  const middles: Vec3[] = [];
  for (let span = 0; span < curve.spans; span++) {
    const position = new Float64Array(3);
    const at = Float64Array.of((curve.spanAt[span] + curve.spanAt[span + 1]) / 2);
    curve.sample(at, 1, position, new Float64Array(3));
    middles.push([position[0], position[1], position[2]]);
  }
  return middles;
}

function chordMiddles({ knots, closed }: Polyline): Vec3[] {
  const next = closed && knots.length > 2 ? [...knots.slice(1), knots[0]] : knots.slice(1);
  return next.map(({ position: [x, y, z] }, i) => {
    const [a, b, c] = knots[i].position;
    return [(a + x) / 2, (b + y) / 2, (c + z) / 2];
  });
}

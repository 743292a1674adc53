/** Lines as polygons for drawing and picking; worked out once for each state of a line. */
import { curveOf, type Curve, type Line } from "@/core/line";
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
  const perSpan = line.kind === "polyline" ? 1 : Math.max(4, Math.min(32, Math.ceil(4000 / Math.max(1, curve.spans))));
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

/** The middle of each span, where a knot can be inserted. */
export function spanMiddles(line: Line): Vec3[] {
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

/** Arcs of SVG by their middle. */
import type { Point, Segment } from "./drawing";

interface Arc {
  centre: Point;
  radii: Point;
  cosine: number;
  sine: number;
  start: number;
  sweep: number;
}

/** An arc by its middle (SVG 1.1, appendix F.6.5), its radii made large enough where they are not. */
export function centred(from: Point, { radii, turn, large, sweep, to }: Extract<Segment, { kind: "arc" }>): Arc {
  const angle = (turn * Math.PI) / 180;
  const [cosine, sine] = [Math.cos(angle), Math.sin(angle)];
  const [dx, dy] = [(from[0] - to[0]) / 2, (from[1] - to[1]) / 2];
  const [x, y] = [cosine * dx + sine * dy, -sine * dx + cosine * dy];
  const wide = (x / radii[0]) ** 2 + (y / radii[1]) ** 2;
  const grown = wide > 1 ? Math.sqrt(wide) : 1;
  const [rx, ry] = [radii[0] * grown, radii[1] * grown];
  const rest = Math.max(0, 1 / ((x / rx) ** 2 + (y / ry) ** 2) - 1);
  const root = (large === sweep ? -1 : 1) * Math.sqrt(rest);
  const [cx, cy] = [(root * rx * y) / ry, (-root * ry * x) / rx];
  const centre: Point = [
    cosine * cx - sine * cy + (from[0] + to[0]) / 2,
    sine * cx + cosine * cy + (from[1] + to[1]) / 2,
  ];
  const start = Math.atan2((y - cy) / ry, (x - cx) / rx);
  const end = Math.atan2((-y - cy) / ry, (-x - cx) / rx);
  let round = end - start;
  if (sweep && round <= 0) round += 2 * Math.PI;
  if (!sweep && round >= 0) round -= 2 * Math.PI;
  return { centre, radii: [rx, ry], cosine, sine, start, sweep: round };
}

export function pointOn({ centre, radii, cosine, sine }: Arc, t: number): Point {
  const [x, y] = [radii[0] * Math.cos(t), radii[1] * Math.sin(t)];
  return [centre[0] + cosine * x - sine * y, centre[1] + sine * x + cosine * y];
}

export function slopeOn({ radii, cosine, sine }: Arc, t: number): Point {
  const [x, y] = [-radii[0] * Math.sin(t), radii[1] * Math.cos(t)];
  return [cosine * x - sine * y, sine * x + cosine * y];
}

/** How many points stand for a curved piece where only its rough way counts. */
const ROUGHLY = 16;

/** Points along a segment, its end among them. */
export function pointsAlong(from: Point, segment: Segment): Point[] {
  if (segment.kind === "line") return [segment.to];
  const shares = Array.from({ length: ROUGHLY }, (_, k) => (k + 1) / ROUGHLY);
  if (segment.kind === "arc") {
    const arc = centred(from, segment);
    return shares.map((share) => pointOn(arc, arc.start + share * arc.sweep));
  }
  const { first, second, to } = segment;
  return shares.map((t): Point => {
    const [a, b, c, d] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
    const at = (k: 0 | 1) => a * from[k] + b * first[k] + c * second[k] + d * to[k];
    return [at(0), at(1)];
  });
}

/** Moving and adding points of a curve along a line, which stay in the order of their shares. */

export type Point = readonly [share: number, value: number];

/** The points with one of them moved, as far as its neighbours let it. */
export const withPoint = (points: readonly Point[], index: number, point: Point): Point[] =>
  points.map((old, i) => (i === index ? between(points, index, point) : old));

/** A point's share kept between those of its neighbours, so that points never pass each other. */
function between(points: readonly Point[], index: number, [share, value]: Point): Point {
  const least = points[index - 1]?.[0] ?? 0;
  const most = points[index + 1]?.[0] ?? 1;
  return [Math.min(most, Math.max(least, share)), Math.max(0, value)];
}

export function inserted(points: readonly Point[], point: Point): { points: Point[]; index: number } {
  const index = points.findIndex(([share]) => share > point[0]);
  const at = index < 0 ? points.length : index;
  return { points: [...points.slice(0, at), point, ...points.slice(at)], index: at };
}

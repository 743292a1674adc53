/** What knots catch on while they are drawn and moved: other knots, ends and marks of lines, and the grid. */
import { hasKnots, type Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { drawnLine, markPositions } from "../state";

export interface SnapTarget {
  position: Vec3;
  /** What it is, in words. */
  what: string;
}

/** More targets than this are not looked at. */
const MAX_TARGETS = 20_000;

/** All that can be caught on, but for the knots that are being moved themselves. */
export function snapTargets(
  lines: readonly Line[],
  moving?: { line: string; knots: ReadonlySet<number> },
): SnapTarget[] {
  const targets: SnapTarget[] = [];
  for (const line of lines) {
    if (targets.length > MAX_TARGETS) break;
    const own = line.id === moving?.line;
    const n = line.knots.length;
    line.knots.forEach(({ position }, i) => {
      if (own && moving.knots.has(i)) return;
      const end = hasKnots(line) && (i === 0 || i === n - 1);
      const what = hasKnots(line)
        ? end
          ? `an end of ${line.name}`
          : `knot ${i + 1} of ${line.name}`
        : `the middle of ${line.name}`;
      targets.push({ position, what });
    });
    if (own) continue;
    for (const position of markPositions(line)) targets.push({ position, what: `a mark of ${line.name}` });
    if (!hasKnots(line) && !drawnLine(line).curve.closed) {
      const { points } = drawnLine(line);
      for (const position of [points[0], points[points.length - 1]]) {
        targets.push({ position, what: `an end of ${line.name}` });
      }
    }
  }
  return targets;
}

/** A position on the nearest crossing of a grid, by its level directions alone. */
export const onGrid = ([x, y, z]: Vec3, step: number): Vec3 => [round(x, step), y, round(z, step)];

const round = (value: number, step: number): number => Number((Math.round(value / step) * step).toFixed(9)) + 0;

/** From `start` the way that `to` lies, but so many metres far; along X where they are one point. */
export function atDistance(start: Vec3, to: Vec3, metres: number): Vec3 {
  const by = [to[0] - start[0], to[1] - start[1], to[2] - start[2]];
  const length = Math.hypot(...by);
  const way = length > 1e-9 ? by.map((value) => value / length) : [1, 0, 0];
  return [start[0] + way[0] * metres, start[1] + way[1] * metres, start[2] + way[2] * metres];
}

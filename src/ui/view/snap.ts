/** What knots catch on while they are drawn and moved: other knots, ends and marks of lines, and the grid; see also `snap-field.ts`. */
import { familyOf, hasKnots, placeOnLine, type Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import type { Frame, LinePlace, Tie } from "@/core/tie";
import { drawnLine, guideOf, lineNames, markPositions, useFamilies } from "../state";

export interface SnapTarget {
  position: Vec3;
  /** What it is, in words. */
  what: string;
  /** Ties what catches there to it; null where it cannot be tied. */
  tie?: () => Tie | null;
  /** Where it is with its direction, which is up, and whether what hangs there turns freely about that. */
  frame?: Frame;
  free?: boolean;
  /** Its name, where it is shown beside it. */
  name?: string;
}

/** More targets than this are not looked at. */
const MAX_TARGETS = 20_000;

/** A tie to a place of a line, or of a member of a family. */
function lineTie(line: Line, at: LinePlace): Tie | null {
  const family = familyOf(line.id);
  const isMember = family !== null && useFamilies.getState().families.has(family);
  const stood = placeOnLine(line, guideOf(line), at);
  if (!stood) return null;
  const of = isMember ? { line: family, member: line.id.slice(family.length + 1) } : { line: line.id };
  return { kind: "line", ...of, at, stood };
}

/** All that can be caught on of lines, but for the knots that are being moved themselves. */
export function snapTargets(
  lines: readonly Line[],
  moving?: { line: string; knots: ReadonlySet<number> },
): SnapTarget[] {
  const targets: SnapTarget[] = [];
  const nameOf = lineNames();
  for (const line of lines) {
    if (targets.length > MAX_TARGETS) break;
    const own = line.id === moving?.line;
    const name = nameOf(line);
    const n = line.knots.length;
    const add = (position: Vec3, what: string, at: LinePlace): void =>
      void targets.push({ position, what, ...(!own && { tie: () => lineTie(line, at) }) });
    line.knots.forEach(({ position, id = 0 }, i) => {
      if (own && moving.knots.has(i)) return;
      const end = hasKnots(line) && (i === 0 || i === n - 1);
      const what = hasKnots(line) ? (end ? `an end of ${name}` : `knot ${i + 1} of ${name}`) : `the middle of ${name}`;
      add(position, what, { by: "knot", number: id });
    });
    if (own) continue;
    markPositions(line).forEach((position, k) => add(position, `a mark of ${name}`, { by: "mark", number: k }));
    if (!hasKnots(line) && !drawnLine(line).curve.closed) {
      const { points } = drawnLine(line);
      [points[0], points[points.length - 1]].forEach((position, number) =>
        add(position, `an end of ${name}`, { by: "end", number }),
      );
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

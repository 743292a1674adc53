/** Where a place of a line is that others are tied to: a knot, a mark, an end; and which way the line runs there. */
import { quatAt, vectorAt } from "../math";
import type { Frame, LinePlace } from "../tie";
import type { Curve } from "./curve";
import { hasKnots, type Knot, type Line } from "./schema";

/** A line with its frames. */
interface Framed {
  curve: Curve;
  marks: Float64Array;
  frames(up: "world", at: Float64Array, n: number, position: Float64Array, rotation: Float64Array): void;
}

/** The frame of a place of a line; null where it has no such place. */
export function placeOnLine(line: Line, guide: Framed, { by, number }: LinePlace): Frame | null {
  const { curve, marks } = guide;
  if (by === "knot") {
    const index = (line.knots as Knot[]).findIndex(({ id }) => id === number);
    if (index < 0) return null;
    const { rotation } = frameAt(guide, hasKnots(line) ? (curve.knotAt[index] ?? 0) : 0);
    return { position: line.knots[index].position, rotation };
  }
  if (by === "end") return curve.closed || number > 1 ? null : frameAt(guide, number * curve.length);
  return number < marks.length ? frameAt(guide, marks[number]) : null;
}

function frameAt(guide: Framed, at: number): Frame {
  const [position, rotation] = [new Float64Array(3), new Float64Array(4)];
  guide.frames("world", Float64Array.of(at), 1, position, rotation);
  return { position: vectorAt(position, 0), rotation: quatAt(rotation, 0) };
}

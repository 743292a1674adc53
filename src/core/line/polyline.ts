/**
 * Polyline: straight from knot to knot. A corner with a radius is a circle's arc that touches both sides; where the sides
 * are too short for it the arc is smaller, so that two corners never overlap.
 */
import { cross, distance, dot, lengthOf, normalize, scale, subtract, add, type Vec3 } from "../math";
import { AT_ORIGIN, Pieces, type Bend } from "./pieces";
import type { Curve } from "./curve";
import type { Polyline } from "./schema";

/** A corner that turns by less than this, or right back, has no arc (radians). */
const STRAIGHT = 1e-6;

interface Corner {
  start: Vec3;
  end: Vec3;
  /** The arc between them, if there is one, over its angle from 0 to `angle`. */
  arc: Bend | null;
  angle: number;
}

export function polyline(line: Pick<Polyline, "knots" | "closed" | "cornerRadius">): Curve {
  const { knots } = line;
  const closed = line.closed && knots.length > 2;
  const last = knots.length - 1;
  const corners = knots.map((knot, i): Corner => {
    const before = knots[i > 0 ? i - 1 : last].position;
    const after = knots[i < last ? i + 1 : 0].position;
    const end = !closed && (i === 0 || i === last);
    // Sides between two corners are shared by them, an open line's first and last belong to one corner alone.
    const [sideBefore, sideAfter] = [closed || i > 1 ? 0.5 : 1, closed || i < last - 1 ? 0.5 : 1];
    const room = Math.min(sideBefore * distance(before, knot.position), sideAfter * distance(knot.position, after));
    return cornerAt(before, knot.position, after, end ? 0 : (knot.radius ?? line.cornerRadius), room);
  });
  const pieces = new Pieces();
  corners.forEach((corner, i) => {
    if (corner.arc) pieces.bend(corner.arc, 0, corner.angle, 1);
    else pieces.knot();
    if (closed || i < last) pieces.straight(corner.end, corners[(i + 1) % corners.length].start);
  });
  return pieces.finish(closed, AT_ORIGIN, knots[0].position);
}

function cornerAt(before: Vec3, knot: Vec3, after: Vec3, radius: number, room: number): Corner {
  const sharp: Corner = { start: knot, end: knot, arc: null, angle: 0 };
  if (radius === 0) return sharp;
  const [from, to] = [normalize(subtract(knot, before), [0, 0, 0]), normalize(subtract(after, knot), [0, 0, 0])];
  const angle = Math.atan2(lengthOf(cross(from, to)), dot(from, to));
  if (!(angle > STRAIGHT && angle < Math.PI - STRAIGHT)) return sharp;
  const trimmed = Math.min(radius * Math.tan(angle / 2), room);
  const r = trimmed / Math.tan(angle / 2);
  if (!(r > 0)) return sharp;
  const start = subtract(knot, scale(from, trimmed));
  const inward = normalize(subtract(to, scale(from, dot(from, to))));
  const middle = add(start, scale(inward, r));
  const arc: Bend = {
    position: (t) => add(middle, add(scale(inward, -r * Math.cos(t)), scale(from, r * Math.sin(t)))),
    derivative: (t) => add(scale(inward, r * Math.sin(t)), scale(from, r * Math.cos(t))),
  };
  return { start, end: add(knot, scale(to, trimmed)), arc, angle };
}

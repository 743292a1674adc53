/**
 * Bézier line: a cubic from knot to knot with a handle at each end (P. Bézier, P. de Casteljau). The handles of a knot that
 * has none lie along the way from its neighbour to its other one, a third of the way to each.
 */
import { add, distance, lengthOf, normalize, scale, subtract, type Vec3 } from "../math";
import { AT_ORIGIN, Pieces, type Bend } from "./pieces";
import type { Curve } from "./curve";
import type { BezierLine, Knot } from "./schema";

const NONE: Vec3 = [0, 0, 0];

export interface Handles {
  before: Vec3;
  after: Vec3;
}

export function bezier(line: BezierLine): Curve {
  const { knots } = line;
  const closed = line.closed && knots.length > 2;
  const spans = closed ? knots.length : knots.length - 1;
  const pieces = new Pieces();
  const handles = knots.map((_, i) => handlesOf(knots, closed, i));
  for (let span = 0; span < spans; span++) {
    const next = (span + 1) % knots.length;
    const [p0, p3] = [knots[span].position, knots[next].position];
    const { sweep } = knots[span];
    const bend = sweep === undefined ? null : ellipseThrough(p0, p3, handles[span].after, handles[next].before, sweep);
    pieces.knot();
    if (bend) pieces.bend(bend, 0, sweep!, 0, PER_TURN);
    else pieces.cubic(p0, add(p0, handles[span].after), add(p3, handles[next].before), p3);
  }
  if (!closed) pieces.knot();
  return pieces.finish(closed, AT_ORIGIN, knots[0].position);
}

/** Cubics in a whole turn of an ellipse: they are as long as it to 1e-10 of its size. */
const PER_TURN = 512;
/** Handles are those of an ellipse where the end of the way differs by no more than this share of their length. */
const ALIKE = 1e-6;

/**
 * A piece of an ellipse from one point to another that begins along a handle and goes round by an angle: both are known once
 * the handles are those of the cubic that comes nearest to it, 4/3 · tan(angle / 4) of the derivative. Null where the handle
 * at its end says otherwise.
 */
function ellipseThrough(from: Vec3, to: Vec3, after: Vec3, before: Vec3, angle: number): Bend | null {
  const share = handleShare(angle);
  const [cosine, sine] = [Math.cos(angle), Math.sin(angle)];
  if (1 - cosine < 1e-9) return null;
  const v = scale(after, 1 / share);
  const u = scale(subtract(add(from, scale(v, sine)), to), 1 / (1 - cosine));
  const centre = subtract(from, u);
  const derivative = (t: number): Vec3 => subtract(scale(v, Math.cos(t)), scale(u, Math.sin(t)));
  const off = distance(scale(derivative(angle), -share), before);
  if (!(off <= ALIKE * (lengthOf(after) + lengthOf(before)))) return null;
  return { position: (t) => add(centre, add(scale(u, Math.cos(t)), scale(v, Math.sin(t)))), derivative };
}

/** How long a handle is for a piece of an ellipse that goes round by an angle, as a share of the derivative there. */
export const handleShare = (angle: number): number => (4 / 3) * Math.tan(angle / 4);

/** The handles that knot `i` has, or those that suit its neighbours. */
export function handlesOf(knots: readonly Knot[], closed: boolean, i: number): Handles {
  const knot = knots[i];
  if (knot.join === "corner") return { before: NONE, after: NONE };
  const suitable = suitableHandles(knots, closed, i);
  const before = knot.before ?? suitable.before;
  const after = knot.after ?? suitable.after;
  if (knot.join === "free" || (!knot.before && !knot.after)) return { before, after };
  // Smooth: both on one line, which the handle that leads on gives.
  const direction = lengthOf(after) > 0 ? normalize(after) : scale(normalize(before, NONE), -1);
  return { before: scale(direction, -lengthOf(before)), after };
}

function suitableHandles(knots: readonly Knot[], closed: boolean, i: number): Handles {
  const last = knots.length - 1;
  const at = knots[i].position;
  const previous = i > 0 ? knots[i - 1].position : closed ? knots[last].position : at;
  const next = i < last ? knots[i + 1].position : closed ? knots[0].position : at;
  const direction = normalize(subtract(next, previous), NONE);
  return {
    before: scale(direction, -distance(at, previous) / 3),
    after: scale(direction, distance(at, next) / 3),
  };
}

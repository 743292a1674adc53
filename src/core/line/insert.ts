/** Inserting a knot where a line runs. A Bézier line keeps its shape (P. de Casteljau's algorithm). */
import { add, scale, subtract, type Vec3 } from "../math";
import { nextNumber } from "../schema";
import { handlesOf } from "./bezier";
import { curveOf } from "./kinds";
import type { Knot, KnottedLine } from "./schema";

const STEPS = 64;
const HALVINGS = 40;

/** The line with a knot more at arc length `at` (metres), and which one it is. The span's tag holds for both its parts. */
export function withKnotAt(line: KnottedLine, at: number): { line: KnottedLine; knot: number } {
  const curve = curveOf(line);
  const { knotAt } = curve;
  let span = 0;
  while (span + 1 < line.knots.length && span + 1 < knotAt.length && knotAt[span + 1] <= at) span++;
  const open = line.kind === "hanging" || !line.closed || line.knots.length < 3;
  if (open) span = Math.min(span, line.knots.length - 2);
  const place = new Float64Array(3);
  curve.sample(Float64Array.of(Math.max(0, Math.min(curve.length, at))), 1, place, null);
  const position: Vec3 = [place[0], place[1], place[2]];
  const { tag } = line.knots[span];
  const knot: Knot = { id: nextNumber(line.knots), position, ...(tag !== undefined && { tag }) };
  const knots = [...line.knots];
  if (line.kind === "bezier") splitSpan(line.knots, !open, span, position, knots, knot);
  knots.splice(span + 1, 0, knot);
  return { line: { ...line, knots }, knot: span + 1 };
}

/** Gives the new knot and the two beside it the handles with which the span keeps its shape. */
function splitSpan(
  old: readonly Knot[],
  closed: boolean,
  span: number,
  position: Vec3,
  knots: Knot[],
  knot: Knot,
): void {
  const next = (span + 1) % old.length;
  const [first, last] = [handlesOf(old, closed, span), handlesOf(old, closed, next)];
  const [p0, p3] = [old[span].position, old[next].position];
  const [p1, p2] = [add(p0, first.after), add(p3, last.before)];
  const between = (a: Vec3, b: Vec3, t: number): Vec3 => add(a, scale(subtract(b, a), t));
  const at = (t: number) => {
    const [a, b, c] = [between(p0, p1, t), between(p1, p2, t), between(p2, p3, t)];
    const [d, e] = [between(a, b, t), between(b, c, t)];
    return { a, c, d, e, point: between(d, e, t) };
  };
  const away = (t: number) => Math.hypot(...subtract(at(t).point, position));
  let best = 0;
  for (let k = 1; k <= STEPS; k++) if (away(k / STEPS) < away(best / STEPS)) best = k;
  let [low, high] = [Math.max(0, best - 1) / STEPS, Math.min(STEPS, best + 1) / STEPS];
  for (let k = 0; k < HALVINGS; k++) {
    const [m, n] = [low + (high - low) / 3, high - (high - low) / 3];
    if (away(m) < away(n)) high = n;
    else low = m;
  }
  const { a, c, d, e } = at((low + high) / 2);
  // Both sides of a smooth knot stay on one line: only lengths change.
  const own = (i: number): Knot => ({ ...old[i], ...(old[i].join !== "corner" && handlesOf(old, closed, i)) });
  knots[span] = { ...own(span), ...(old[span].join !== "corner" && { after: subtract(a, p0) }) };
  knots[next] = { ...own(next), ...(old[next].join !== "corner" && { before: subtract(c, p3) }) };
  Object.assign(knot, { join: "smooth", before: subtract(d, position), after: subtract(e, position) });
}

/** Lines made of lines: another kind, the other way round, cut at a knot, joined at their ends. All keep what they can. */
import { distance, vectorAt, type Vec3 } from "../math";
import { distinct } from "../schema";
import { handlesOf } from "./bezier";
import { curveOf } from "./kinds";
import {
  hasKnots,
  isFamily,
  lineSchema,
  type Knot,
  type KnottedLine,
  type Line,
  type LineKind,
  type Shape,
} from "./schema";

/** Knots in a whole turn of a shape that gets knots: a smooth line through them leaves it by less than a thousandth. */
const KNOTS_PER_TURN = 12;
const MAX_KNOTS = 2000;

/** Ends nearer than this are one knot when lines are joined, metres. */
const SAME = 1e-6;

/** How large a line is and where its middle lies. */
interface Extent {
  center: Vec3;
  length: number;
  width: number;
  height: number;
}

/**
 * The same line as another kind, divided as it was. Knots stay knots; a shape gets the size of what was there, and knots lie on the
 * old line. A family stays one, and nothing becomes one.
 */
export function asKind(line: Line, kind: LineKind): Line {
  if (kind === line.kind || kind === "between" || isFamily(line)) return line;
  const { id, number, name, ring, ringRadius, marks, marksFrom, marksPer } = line;
  const divided = { marks, marksFrom, marksPer };
  const knotted = kind === "polyline" || kind === "smooth" || kind === "bezier" || kind === "hanging";
  if (knotted)
    return lineSchema.parse(
      hasKnots(line) ? { ...line, kind } : { id, number, name, ...divided, ...withKnots(line, kind) },
    );
  const { center, length, width, height } = extentOf(line);
  const radius = Math.max(length, width) / 2 || undefined;
  const sizes = { radius, endRadius: radius, length: length || undefined, width: width || undefined };
  const lies = hasKnots(line) ? {} : { heading: line.heading, lean: line.lean };
  const rise = height > 0 ? { height } : {};
  return lineSchema.parse({
    id,
    number,
    name,
    kind,
    ring,
    ringRadius,
    ...divided,
    knots: [{ position: center }],
    ...sizes,
    ...rise,
    ...lies,
  });
}

function extentOf(line: KnottedLine | Shape): Extent {
  if (hasKnots(line)) {
    const positions = line.knots.map((knot) => knot.position);
    const [low, high] = [Math.min, Math.max].map((pick) =>
      [0, 1, 2].map((axis) => positions.reduce((value, p) => pick(value, p[axis]), positions[0][axis])),
    );
    const [length, height, width] = high.map((value, axis) => value - low[axis]);
    const center = low.map((value, axis) => (value + high[axis]) / 2) as [number, number, number];
    return { center, length, width, height };
  }
  const center = line.knots[0].position;
  const height = line.kind === "coil" ? line.height : 0;
  if (line.kind === "ellipse" || line.kind === "rectangle") {
    return { center, length: line.length, width: line.width, height };
  }
  return { center, length: 2 * line.radius, width: 2 * line.radius, height };
}

function withKnots(line: Shape, kind: KnottedLine["kind"]) {
  const curve = curveOf(line);
  const whole = line.kind === "coil" ? line.turns : line.kind === "arc" ? line.sweep / (2 * Math.PI) : 1;
  const pieces = Math.min(MAX_KNOTS, Math.max(6, Math.ceil(KNOTS_PER_TURN * whole)));
  const count = curve.closed ? pieces : pieces + 1;
  const at = Float64Array.from({ length: count }, (_, i) => (curve.length * i) / pieces);
  const position = new Float64Array(3 * count);
  curve.sample(at, count, position, new Float64Array(3 * count));
  const knots = Array.from({ length: count }, (_, i) => ({ position: vectorAt(position, i) }));
  return { kind, knots, closed: curve.closed };
}

/** The line run from its end to its start; handles, rolls and the tags of spans go with it. */
export function reversed(line: KnottedLine): KnottedLine {
  const { knots } = line;
  const last = knots.length - 1;
  const round = line.kind !== "hanging" && line.closed;
  const turned = knots.map((_, i): Knot => {
    const { roll, ...knot } = knots[last - i];
    // A smooth knot's handles are given by the one that leads on, which will be the other: so both are written down.
    const shown =
      line.kind === "bezier" && (knot.before || knot.after) ? handlesOf(knots, line.closed, last - i) : knot;
    const { before, after } = shown;
    delete knot.before;
    delete knot.after;
    const span = i < last ? last - i - 1 : last;
    delete knot.tag;
    const tag = i < last || round ? knots[span].tag : undefined;
    return {
      ...knot,
      ...(after && { before: after }),
      ...(before && { after: before }),
      ...(roll !== undefined && { roll: -roll }),
      ...(tag !== undefined && { tag }),
    };
  });
  return { ...line, knots: turned };
}

/**
 * The line cut at a knot: two lines that share it, the second with the id, number and name given; or, where it was closed,
 * one open line that begins and ends there. Null at an open line's ends, where there is nothing to cut.
 */
export function splitAt(
  line: KnottedLine,
  knot: number,
  second: Pick<Line, "id" | "number" | "name">,
): [Line] | [Line, Line] | null {
  const { knots } = line;
  if (line.kind !== "hanging" && line.closed && knots.length > 2) {
    return [{ ...line, closed: false, knots: distinct([...knots.slice(knot), ...knots.slice(0, knot + 1)]) }];
  }
  if (knot <= 0 || knot >= knots.length - 1) return null;
  const parts: [Line, Line] = [
    { ...line, knots: knots.slice(0, knot + 1) },
    { ...line, ...second, knots: knots.slice(knot) },
  ];
  const share = chords(parts[0].knots) / chords(knots);
  for (const [i, part] of parts.entries()) {
    if (part.kind === "hanging" && share > 0 && share < 1)
      parts[i] = { ...part, length: part.length * (i ? 1 - share : share) };
  }
  return parts;
}

/**
 * `line` led on by `other`, from whichever of their ends are nearest; where these are one point they become one knot. A line
 * that has to be turned round for it takes its handles, rolls and tags along. The whole runs the way that `line` did.
 */
export function joined(line: KnottedLine, other: KnottedLine): KnottedLine {
  const ends = [false, true].flatMap((back) => {
    const a = (back ? reversed(line) : line).knots;
    return [other, reversed(other)].map(({ knots: b }) => ({
      a,
      b,
      back,
      gap: distance(a[a.length - 1].position, b[0].position),
    }));
  });
  // Of equally near ones the first, which turns neither line round.
  const { a, b, back, gap } = ends.reduce((best, next) => (next.gap < best.gap ? next : best));
  const knots = distinct(gap < SAME ? [...a.slice(0, -1), merged(a[a.length - 1], b[0]), ...b.slice(1)] : [...a, ...b]);
  const whole = line.kind === "hanging" && other.kind === "hanging" ? { length: line.length + other.length } : {};
  const made = { ...line, ...whole, knots } as KnottedLine;
  return back ? reversed(made) : made;
}

/** The knot where a line ends and another begins: it comes in as the one does and leads on as the other. */
function merged(end: Knot, start: Knot): Knot {
  const knot = { ...end };
  delete knot.after;
  delete knot.tag;
  const { after, tag, join } = start;
  return {
    ...knot,
    ...(after && { after, join: "free" as const }),
    ...(!after && join !== undefined && { join }),
    ...(tag !== undefined && { tag }),
  };
}

const chords = (knots: readonly Knot[]): number =>
  knots.reduce((sum, knot, i) => (i > 0 ? sum + distance(knots[i - 1].position, knot.position) : 0), 0);

/** Outlines of a drawing as lines of a scene: arcs stay pieces of ellipses. */
import { handleShare, type Knot, type Line } from "../../line";
import { add, scale, subtract, type Vec3 } from "../../math";
import { centred, pointOn, slopeOn } from "./arcs";
import type { Drawing, Outline, Point, Segment } from "./drawing";

/** Where a drawing goes: where its middle is, and what its directions to the right and down are in the world, of length 1. */
export interface DrawingPlace {
  middle: Vec3;
  right: Vec3;
  down: Vec3;
  /** How many times as large as the drawing says. */
  scale: number;
  /** The surface on whose sheet it goes: then the directions are those of the sheet, x to the right and z downwards. */
  sheet?: string;
}

/** What of a line an outline says. */
export type OutlineLine = Pick<Line & { kind: "bezier" | "polyline" }, "kind" | "closed" | "knots" | "source">;

/** The lines that outlines become. */
export function linesOfDrawing({ outlines, ...drawing }: Drawing, file: string, place: DrawingPlace): OutlineLine[] {
  const at = placing(drawing, place);
  return outlines.map((outline) => ({
    kind: outline.segments.some(({ kind }) => kind !== "line") ? "bezier" : "polyline",
    closed: outline.closed,
    knots: knotsOf(outline, at),
    source: { file, part: outline.part, hole: outline.hole, place },
  }));
}

type Place = (point: Point) => Vec3;

function placing({ unit, middle }: Pick<Drawing, "unit" | "middle">, place: DrawingPlace): Place {
  const size = unit * place.scale;
  return ([x, y]) =>
    add(place.middle, add(scale(place.right, size * (x - middle[0])), scale(place.down, size * (y - middle[1]))));
}

function knotsOf({ start, segments, closed }: Outline, place: Place): Knot[] {
  const knots: Knot[] = [{ id: 0, position: place(start), join: "free", before: NONE, after: NONE }];
  const pieces = (parts: 1 | 2): Piece[] => {
    let at = start;
    return segments.flatMap((segment) => {
      const own = piecesOf(at, segment, parts);
      at = segment.to;
      return own;
    });
  };
  const whole = pieces(1);
  const end = whole.at(-1)?.to ?? start;
  // What is closed has three knots at least; one that ends where it begins has one less.
  const count = whole.length + (end[0] === start[0] && end[1] === start[1] ? 0 : 1);
  for (const piece of closed && count < 3 ? pieces(2) : whole) {
    const last = knots[knots.length - 1];
    last.after = subtract(place(piece.first), place(piece.from));
    if (piece.sweep !== undefined) last.sweep = piece.sweep;
    const before = subtract(place(piece.second), place(piece.to));
    knots.push({ id: knots.length, position: place(piece.to), join: "free", before, after: NONE });
  }
  if (closed && knots.length > 2) {
    const last = knots[knots.length - 1];
    // What ends where it began has no knot of its own there.
    if (last.position.every((x, k) => Math.abs(x - knots[0].position[k]) < 1e-9)) {
      knots[0].before = last.before;
      knots.pop();
    }
  }
  return knots;
}

const NONE: Vec3 = [0, 0, 0];

interface Piece {
  from: Point;
  first: Point;
  second: Point;
  to: Point;
  sweep?: number;
}

/**
 * A segment as cubics by control points; a piece of an ellipse goes round by no more than a quarter turn.
 *
 * @param parts into how many each is parted, one or two
 */
function piecesOf(from: Point, segment: Segment, parts: 1 | 2): Piece[] {
  const { to } = segment;
  const towards = (share: number): Point => [from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])];
  if (segment.kind !== "arc") {
    const [first, second] =
      segment.kind === "line" ? [towards(1 / 3), towards(2 / 3)] : [segment.first, segment.second];
    return parts === 1 ? [{ from, first, second, to }] : halved({ from, first, second, to });
  }
  const arc = centred(from, segment);
  const count = parts * Math.max(1, Math.ceil(Math.abs(arc.sweep) / (Math.PI / 2 + 1e-6)));
  const step = arc.sweep / count;
  const share = handleShare(Math.abs(step)) * Math.sign(step);
  const at = (k: number): Point => (k === 0 ? from : k === count ? segment.to : pointOn(arc, arc.start + k * step));
  return Array.from({ length: count }, (_, k) => {
    const [a, b] = [at(k), at(k + 1)];
    const [m, n] = [slopeOn(arc, arc.start + k * step), slopeOn(arc, arc.start + (k + 1) * step)];
    const first: Point = [a[0] + share * m[0], a[1] + share * m[1]];
    const second: Point = [b[0] - share * n[0], b[1] - share * n[1]];
    return { from: a, first, second, to: b, sweep: Math.abs(step) };
  });
}

/** A cubic in two (P. de Casteljau). */
function halved({ from, first, second, to }: Piece): Piece[] {
  const half = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const [a, b, c] = [half(from, first), half(first, second), half(second, to)];
  const [d, e] = [half(a, b), half(b, c)];
  const middle = half(d, e);
  return [
    { from, first: a, second: d, to: middle },
    { from: middle, first: e, second: c, to },
  ];
}

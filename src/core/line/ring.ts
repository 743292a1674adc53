/**
 * A line bent round until its end meets its start. The straight way from one end to the other, or a coil's axis, becomes a
 * circle, and everything beside it is carried along square to it. Where the line arrives in another direction than it left
 * in, both ends are eased into the direction between, so that there is no kink where they meet.
 */
import {
  add,
  anyPerpendicular,
  cross,
  distance,
  dot,
  fromAxisAngle,
  lengthOf,
  multiply,
  normalize,
  rotate,
  scale,
  subtract,
  vectorAt,
  type Vec3,
} from "../math";
import { hermiteCoefficients } from "./arc-length";
import { PiecewiseCubic } from "./piecewise";
import type { Curve } from "./curve";
import type { Line } from "./schema";

/** Pieces are halved until their middles lie within this share of the circumference, or of the line if that is longer. */
const EXACT = 1e-7;
const MAX_DEPTH = 6;
/** Ends nearer to each other than this share of the line are one point: there is no way round. */
const ONE_POINT = 1e-3;
/** Ends are eased over this share of the line. */
const EASED = 0.15;
/** A piece's end is looked at so far inside it, as a share of the line: in a knot the direction may change. */
const INSIDE = 1e-9;

/** How the straight line lies before it is bent: its axis, what points to the ring's middle, and square to both. */
interface Axis {
  origin: Vec3;
  along: Vec3;
  inward: Vec3;
  side: Vec3;
  length: number;
}

/** A place on the line: where it is, and how that changes with a metre of the line before it was bent. */
interface Place {
  position: Vec3;
  derivative: Vec3;
}

/** The ring; a closed line, and one whose ends are one point, have no way round and stay as they are. */
export function ringed(curve: Curve, line: Line): Curve {
  if (curve.closed || !(curve.length > 0)) return curve;
  const axis = axisOf(curve, line);
  if (!axis) return curve;
  const circumference = line.ringRadius > 0 ? 2 * Math.PI * line.ringRadius : axis.length;
  const place = eased(bentRound(curve, line, axis, circumference), curve.length);
  const fine = EXACT * Math.max(circumference, curve.length);
  const coefficients: number[] = [];
  const starts: number[] = [];
  const piece = (a: number, b: number, from: Place, to: Place, depth: number): void => {
    const half = (a + b) / 2;
    const between = place(half);
    const cubics = [0, 1, 2].map((k) =>
      hermiteCoefficients(from.position[k], to.position[k], from.derivative[k] * (b - a), to.derivative[k] * (b - a)),
    );
    const guess = cubics.map(([c0, c1, c2, c3]) => c0 + c1 / 2 + c2 / 4 + c3 / 8) as unknown as Vec3;
    if (depth < MAX_DEPTH && distance(guess, between.position) > fine) {
      piece(a, half, from, between, depth + 1);
      piece(half, b, between, to, depth + 1);
      return;
    }
    starts.push(a);
    for (const power of [0, 1, 2, 3]) for (const cubic of cubics) coefficients.push(cubic[power]);
  };
  const inside = INSIDE * curve.length;
  for (let span = 0; span < curve.spans; span++) {
    const [a, b] = [curve.spanAt[span], curve.spanAt[span + 1]];
    if (b - a <= 4 * inside) continue;
    piece(
      a,
      b,
      { ...place(a + inside), position: place(a).position },
      { ...place(b - inside), position: place(b).position },
      0,
    );
  }
  starts.push(curve.length);
  const knots = Array.from(curve.knotAt.slice(0, Math.max(1, curve.knotAt.length - 1)), (at) => pieceAt(starts, at));
  return new PiecewiseCubic(Float64Array.from(coefficients), true, place(0).position, knots);
}

/** An arc length of the line as a parameter of the pieces that begin at `starts`. */
function pieceAt(starts: readonly number[], at: number): number {
  let i = 0;
  while (i < starts.length - 2 && starts[i + 1] <= at) i++;
  return i + (at - starts[i]) / (starts[i + 1] - starts[i]);
}

/** The line carried onto the circle that its axis becomes. */
function bentRound(curve: Curve, line: Line, axis: Axis, circumference: number): (s: number) => Place {
  const radius = circumference / (2 * Math.PI);
  const middle = line.kind === "coil" ? line.knots[0].position : add(axis.origin, scale(axis.inward, radius));
  const sample = new Float64Array(6);
  return (s) => {
    curve.sampleAt(s, sample);
    const from = subtract(vectorAt(sample, 0), axis.origin);
    const on = vectorAt(sample, 1);
    const angle = (2 * Math.PI * dot(from, axis.along)) / axis.length;
    const turning = (2 * Math.PI * dot(on, axis.along)) / axis.length;
    const reach = radius - dot(from, axis.inward);
    const out = add(scale(axis.inward, -Math.cos(angle)), scale(axis.along, Math.sin(angle)));
    const round = add(scale(axis.inward, Math.sin(angle)), scale(axis.along, Math.cos(angle)));
    return {
      position: add(add(middle, scale(out, reach)), scale(axis.side, dot(from, axis.side))),
      derivative: add(
        add(scale(out, -dot(on, axis.inward)), scale(round, reach * turning)),
        scale(axis.side, dot(on, axis.side)),
      ),
    };
  };
}

/** The same way with both ends led into the direction between theirs. */
function eased(place: (s: number) => Place, length: number): (s: number) => Place {
  const inside = INSIDE * length;
  const [start, end] = [place(inside).derivative, place(length - inside).derivative];
  const [t0, t1] = [normalize(start), normalize(end)];
  if (dot(t0, t1) > 1 - 1e-12) return place;
  const between = add(t0, t1);
  // Where it comes back the way it went, any direction across will do.
  const direction = lengthOf(between) > 1e-6 ? normalize(between) : anyPerpendicular(t0);
  const speed = (lengthOf(start) + lengthOf(end)) / 2;
  const [atStart, atEnd] = [start, end].map((derivative) => subtract(scale(direction, speed), derivative));
  const reach = EASED * length;
  return (s) => {
    const { position, derivative } = place(s);
    const [a, da] = bump(s / reach);
    const [b, db] = bump((length - s) / reach);
    return {
      position: add(position, add(scale(atStart, a * reach), scale(atEnd, -b * reach))),
      derivative: add(derivative, add(scale(atStart, da), scale(atEnd, db))),
    };
  };
}

/** x (1 - x)²: rises with slope one from zero and comes back to it gently at 1; value and slope. */
const bump = (x: number): [number, number] =>
  x >= 1 || x < 0 ? [0, 0] : [x * (1 - x) * (1 - x), (1 - x) * (1 - 3 * x)];

function axisOf(curve: Curve, line: Line): Axis | null {
  if (line.kind === "coil") {
    const turn = multiply(fromAxisAngle([0, 1, 0], line.heading), fromAxisAngle([1, 0, 0], line.lean));
    const [along, inward] = [rotate(turn, [0, Math.sign(line.height) || 1, 0]), rotate(turn, [1, 0, 0])];
    // A coil that does not rise lies round its axis as it is.
    const rise = Math.abs(line.height);
    const length = rise > ONE_POINT * curve.length ? rise : 2 * Math.PI * line.radius;
    return { origin: line.knots[0].position, along, inward, side: cross(along, inward), length };
  }
  const [start, end] = [new Float64Array(6), new Float64Array(6)];
  curve.sampleAt(0, start);
  curve.sampleAt(curve.length, end);
  const way = subtract(vectorAt(end, 0), vectorAt(start, 0));
  const length = lengthOf(way);
  if (!(length > ONE_POINT * curve.length)) return null;
  const along = scale(way, 1 / length);
  const left = cross([0, 1, 0], along);
  const inward = lengthOf(left) > 1e-6 ? normalize(left) : ([1, 0, 0] as Vec3);
  return { origin: vectorAt(start, 0), along, inward, side: cross(along, inward), length };
}

/** Puts a curve together from straight and bent pieces, each a cubic; for lines that are described by numbers, not by knots. */
import { fromAxisAngle, multiply, rotate, type Quat, type Vec3 } from "../math";
import { PiecewiseCubic } from "./piecewise";
import type { Curve } from "./curve";

/**
 * Cubics in a whole turn of a bend. A cubic that has the bend's position and direction at both ends leaves a circle by
 * h⁴ / 384 of its radius, h being the angle of a piece: here by 5e-8.
 */
const PER_TURN = 96;

/** A bend: position, and derivative, at an angle or any other parameter. */
export interface Bend {
  position: (angle: number) => Vec3;
  derivative: (angle: number) => Vec3;
}

/** Where a shape stands: its middle, its heading about up, and its lean about its own across; radians. */
export interface Place {
  center: Vec3;
  heading: number;
  lean: number;
}

export const AT_ORIGIN: Place = { center: [0, 0, 0], heading: 0, lean: 0 };

export class Pieces {
  readonly #coefficients: number[] = [];
  readonly #knots: number[] = [];

  /** A knot where the next piece begins or, with a share, so far back or on from there, counted in pieces. */
  knot(offset = 0): this {
    this.#knots.push(this.#coefficients.length / 12 + offset);
    return this;
  }

  /** A straight piece; one of no length is left out. */
  straight(from: Vec3, to: Vec3): this {
    if (from.every((x, axis) => x === to[axis])) return this;
    this.#coefficients.push(...from, to[0] - from[0], to[1] - from[1], to[2] - from[2], 0, 0, 0, 0, 0, 0);
    return this;
  }

  /** A cubic by its control points. */
  cubic(a: Vec3, b: Vec3, c: Vec3, d: Vec3): this {
    for (const axis of [0, 1, 2]) this.#coefficients.push(a[axis]);
    for (const axis of [0, 1, 2]) this.#coefficients.push(3 * (b[axis] - a[axis]));
    for (const axis of [0, 1, 2]) this.#coefficients.push(3 * (c[axis] - 2 * b[axis] + a[axis]));
    for (const axis of [0, 1, 2]) this.#coefficients.push(d[axis] - 3 * c[axis] + 3 * b[axis] - a[axis]);
    return this;
  }

  /**
   * A bend from one angle to another (radians, or as much of another parameter as a radian is), in as many cubics as it
   * needs; with `knots` there are so many knots on it, dividing it evenly, each in the middle of its part.
   */
  bend(bend: Bend, from: number, to: number, knots = 0, perTurn = PER_TURN): this {
    const count = Math.max(1, Math.ceil((Math.abs(to - from) / (2 * Math.PI)) * perTurn));
    const step = (to - from) / count;
    for (let k = 0; k < knots; k++) this.knot(((k + 0.5) * count) / knots);
    for (let i = 0; i < count; i++) {
      const [a, b] = [from + i * step, from + (i + 1) * step];
      const [p, q] = [bend.position(a), bend.position(b)];
      const [m, n] = [bend.derivative(a), bend.derivative(b)];
      for (const axis of [0, 1, 2]) this.#coefficients.push(p[axis]);
      for (const axis of [0, 1, 2]) this.#coefficients.push(m[axis] * step);
      for (const axis of [0, 1, 2]) this.#coefficients.push(3 * (q[axis] - p[axis]) - (2 * m[axis] + n[axis]) * step);
      for (const axis of [0, 1, 2]) this.#coefficients.push(2 * (p[axis] - q[axis]) + (m[axis] + n[axis]) * step);
    }
    return this;
  }

  /** The curve, carried to its place. Without any piece it is the single `point`. */
  finish(closed: boolean, { center, heading, lean }: Place, point: Vec3 = center): Curve {
    const turn: Quat = multiply(fromAxisAngle([0, 1, 0], heading), fromAxisAngle([1, 0, 0], lean));
    const placed = new Float64Array(this.#coefficients.length);
    for (let o = 0; o < placed.length; o += 3) {
      const [x, y, z] = this.#coefficients.slice(o, o + 3);
      const constant = o % 12 === 0;
      const turned = rotate(turn, [x, y, z]);
      for (const axis of [0, 1, 2]) placed[o + axis] = turned[axis] + (constant ? center[axis] : 0);
    }
    return new PiecewiseCubic(placed, closed && placed.length > 0, point, this.#knots);
  }
}

/** A bend on an ellipse on the level, with half axes `a` along X and `b` along Z, counter-clockwise seen from above. */
export const ellipseBend = (a: number, b: number, middle: Vec3 = [0, 0, 0]): Bend => ({
  position: (angle) => [middle[0] + a * Math.cos(angle), middle[1], middle[2] - b * Math.sin(angle)],
  derivative: (angle) => [-a * Math.sin(angle), 0, -b * Math.cos(angle)],
});

/** A bend all round, with a knot at the start of each quarter. */
export function quartered(bend: Bend): Pieces {
  const pieces = new Pieces();
  for (let quarter = 0; quarter < 4; quarter++) {
    pieces.knot().bend(bend, (quarter * Math.PI) / 2, ((quarter + 1) * Math.PI) / 2);
  }
  return pieces;
}

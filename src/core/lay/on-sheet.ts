/**
 * *A line as it runs on a surface laid flat*: through the places of its knots there, as its kind does. Where the surface closes
 * round it takes the shorter way, and one that ends beyond the seam where it began goes all round.
 */
import { GuideLine, hasKnots, type Curve, type Knot, type Line } from "../line";
import type { Vec3 } from "../math";
import type { Chart } from "../mesh";

/** What of a curve is needed to follow it. */
export type Followed = Pick<Curve, "length" | "closed" | "knotAt" | "sampleAt">;

export interface OnSheet {
  /** Flat: x to the right, y upright, z downwards on the sheet, metres. */
  curve: Followed;
  /** The place of the chart that a flat point is. */
  toSurface(flat: Vec3): [x: number, y: number];
}

type Flat = [x: number, y: number];

export function onSheet(line: Line, chart: Chart): OnSheet {
  const { period, least } = chart;
  const toSurface = ([x, , y]: Vec3): Flat => wrapped([x, y], period, least);
  const knots: Line["knots"] = [];
  let before: Flat | null = null;
  for (const knot of line.knots) {
    const { x, y, triangle } = chart.toChart(knot.position);
    const at: Flat = before ? nearest(chart, [x, y], before) : [x, y];
    const handle = (way: Vec3 | undefined) => way && flatWay(chart.wayOn(triangle, way));
    knots.push({ ...knot, position: [at[0], 0, at[1]], before: handle(knot.before), after: handle(knot.after) });
    before = at;
  }
  const first: Flat = [knots[0].position[0], knots[0].position[2]];
  const round = before && "closed" in line && line.closed ? nearest(chart, first, before) : first;
  const by: Flat = [round[0] - first[0], round[1] - first[1]];
  if (!hasKnots(line) || (by[0] === 0 && by[1] === 0)) {
    return { curve: new GuideLine({ ...line, knots, laid: null } as Line).curve, toSurface };
  }
  return { curve: onceRound({ ...line, knots, laid: null } as Line, by), toSurface };
}

/**
 * The way back: knots laid out flat, x to the right and z downwards, put where they lie on the surface, with their handles along it.
 * Null where one of them lies beside the sheet; where that closes round it goes on beyond its seam.
 */
export function offSheet(knots: readonly Knot[], chart: Chart): Knot[] | null {
  const { period, least } = chart;
  const out: Knot[] = [];
  for (const knot of knots) {
    const [x, y] = wrapped([knot.position[0], knot.position[2]], period, least);
    const found = chart.toWorld(x, y);
    if (!found) return null;
    const handle = (way: Vec3 | undefined) => way && chart.wayOff(found.triangle, way[0], way[2]);
    out.push({ ...knot, position: found.point, before: handle(knot.before), after: handle(knot.after) });
  }
  return out;
}

/** A place as it lies between the two sides of a seam. */
const wrapped = (place: Flat, period: Flat, least: Flat): Flat =>
  place.map((at, axis) =>
    period[axis] > 0 ? at - period[axis] * Math.floor((at - least[axis]) / period[axis]) : at,
  ) as Flat;

const flatWay = ([x, y]: readonly [number, number]): Vec3 => [x, 0, y];

/** Of a place, which lies there once round again, the one that is nearest to another. */
function nearest({ period }: Chart, at: Flat, to: Flat): Flat {
  return at.map((value, axis) =>
    period[axis] > 0 ? value - period[axis] * Math.round((value - to[axis]) / period[axis]) : value,
  ) as Flat;
}

/** A line that goes round and closes beyond the seam: the middle one of three rounds behind each other, so that it closes smoothly. */
function onceRound(line: Line, by: Flat): Followed {
  const n = line.knots.length;
  const knots = Array.from({ length: 3 * n + 1 }, (_, k) => {
    const knot = line.knots[k % n];
    const rounds = Math.floor(k / n) - 1;
    const [x, y, z] = knot.position;
    return { ...knot, id: k, position: [x + rounds * by[0], y, z + rounds * by[1]] as Vec3 };
  });
  const { curve } = new GuideLine({ ...line, closed: false, knots } as Line);
  const [from, to] = [curve.knotAt[n], curve.knotAt[2 * n]];
  return {
    length: to - from,
    closed: true,
    knotAt: curve.knotAt.slice(n, 2 * n).map((at) => at - from),
    sampleAt: (at, out) => curve.sampleAt(from + at, out),
  };
}

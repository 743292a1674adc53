/**
 * *A flat layout wrapped round a surface*: its places are those of the surface laid flat, and go wherever these lie. Nothing is
 * measured anew, so that what is a metre apart on the sheet is as far apart on the surface as the sheet is true to length.
 */
import { waysOf, type Chart } from "../../mesh";
import type { Sheet } from "../../layout";
import { pick } from "../../schema";
import { isWrapped } from "../where/kinds";
import { put, type Carrier, type FlatPlace } from "./carrier";
import type { Where } from "../where/schema";

/** What says how a layout lies on the surface as that is laid flat. */
export type Wrapping = Where["wrap"] & Pick<Where["patch"], "turn" | "beyond">;

/** Null for what is not wrapped. */
export const wrappingOf = (where: Where): Wrapping | null =>
  isWrapped(where) ? { ...where.wrap, ...pick(where.patch, ["turn", "beyond"]) } : null;

/** The size of the sheet that a layout is for: as it was said, or as the surface is laid flat. */
export function sheetOf({ fit, from, wide, high }: Where["wrap"], chart: Chart): Sheet {
  const [across, down] = sidesOf(chart);
  const closes = chart.period.map((period) => period > 0) as [boolean, boolean];
  if (fit === "metres" || !(wide > 0) || !(high > 0)) return { wide: across, high: down, closes, tiles: null };
  if (fit === "stretch") return { wide, high, closes, tiles: null };
  const tiles = [across / wide, down / high].map((times): [number, number] =>
    from === "corner" ? [0, Math.ceil(times) - 1] : [-Math.ceil((times - 1) / 2), Math.ceil((times - 1) / 2)],
  );
  return { wide, high, closes: [false, false], tiles: [tiles[0], tiles[1]] };
}

/** How wide and high a chart is; where it closes, as far as once round. */
export const sidesOf = ({ least, most, period }: Chart): [number, number] =>
  [0, 1].map((axis) => period[axis] || most[axis] - least[axis]) as [number, number];

/** Between the layout's metres and the sheet's: x to the right and y downwards. */
export class SheetPlaces {
  readonly #sides: [number, number];
  readonly #least: [number, number];
  readonly #middle: readonly [number, number];
  readonly #ways: readonly [number, number];
  readonly #size: readonly [number, number];
  readonly #turn: readonly [cosine: number, sine: number];
  readonly #period: readonly [number, number];

  constructor(chart: Chart, { fit, wide, high, from, right, up, turn }: Wrapping) {
    this.#sides = sidesOf(chart);
    this.#least = chart.least;
    this.#period = chart.period;
    this.#ways = waysOf(chart.ground.laying);
    const [across, down] = this.#sides;
    const stretched = fit === "stretch" && wide > 0 && high > 0;
    this.#size = stretched ? [across / wide, down / high] : [1, 1];
    // From the corner the layout's own sheet begins there; from the middle the two middles lie on each other.
    const own = fit !== "metres" && wide > 0 && high > 0 ? [wide * this.#size[0], high * this.#size[1]] : this.#sides;
    const aside = from === "corner" ? [(own[0] - across) / 2, (own[1] - down) / 2] : [0, 0];
    this.#middle = [aside[0] + right, aside[1] + up];
    this.#turn = [Math.cos(turn), Math.sin(turn)];
  }

  /** Where a place of the layout lies on the sheet, once round where that closes. */
  toSheet(x: number, y: number): [x: number, y: number] {
    const [c, s] = this.#turn;
    const [u, v] = [
      this.#size[0] * (c * x - s * y) + this.#middle[0],
      this.#size[1] * (s * x + c * y) + this.#middle[1],
    ];
    return [
      this.#round(0, this.#sides[0] / 2 + this.#ways[0] * u),
      this.#round(1, this.#sides[1] / 2 - this.#ways[1] * v),
    ];
  }

  #round(axis: 0 | 1, at: number): number {
    const period = this.#period[axis];
    return this.#least[axis] + (period > 0 ? at - period * Math.floor(at / period) : at);
  }

  /** Which way ahead is on the sheet, for a metre of the layout. */
  get ahead(): [x: number, y: number] {
    const [c, s] = this.#turn;
    return [-this.#ways[0] * this.#size[0] * s, -this.#ways[1] * this.#size[1] * c];
  }

  /**
   * Which way left of that is, as one looks at the surface.
   *
   * @param mirrored whether one sees the surface's back on the sheet
   */
  left(mirrored: boolean): [x: number, y: number] {
    const [c, s] = this.#turn;
    const [x, y] = [this.#ways[0] * this.#size[0] * c, -this.#ways[1] * this.#size[1] * s];
    const [ax, ay] = this.ahead;
    // With y downwards what turns to the right is above 0.
    return ax * y - ay * x > 0 === mirrored ? [x, y] : [-x, -y];
  }

  /** The place of the layout that lies at one of the sheet, where that closes the one about another place. */
  toLayout(x: number, y: number, near: FlatPlace): FlatPlace {
    const [px, py] = this.toSheet(...near);
    const at = [x, y].map((value, axis) => {
      const period = this.#period[axis];
      return period > 0 ? value - period * Math.round((value - [px, py][axis]) / period) : value;
    });
    // As far as it is from there, not from where the sheet begins.
    const [dx, dy] = [this.#ways[0] * (at[0] - px), -this.#ways[1] * (at[1] - py)];
    const [c, s] = this.#turn;
    const [u, v] = [dx / this.#size[0], dy / this.#size[1]];
    return [near[0] + c * u + s * v, near[1] - s * u + c * v];
  }
}

/** So near to the edge of the sheet, as a share of it, what lies beyond it lies on it. */
const EDGE = 1e-6;
/** Halvings of the way from the middle to a place beyond the edge. */
const HALVINGS = 30;

export function wrappedRound(params: Wrapping, chart: Chart): Carrier {
  const { ground } = chart;
  const onto = new SheetPlaces(chart, params);
  return {
    carry(x, y, out, there) {
      const n = there.length;
      const places = new Float64Array(3 * n);
      for (let i = 0; i < n; i++) [places[3 * i], places[3 * i + 2]] = onto.toSheet(x[i], y[i]);
      const triangle = trianglesNear(chart, places);
      const beyond = params.beyond === "leave" ? null : broughtIn(chart, places, triangle);
      const ahead = onto.ahead;
      for (let i = 0; i < n; i++) {
        const t = triangle[i];
        there[i] = t < 0 ? 0 : 1;
        if (t < 0) continue;
        const point = [...chart.pointOf(t, places[3 * i], places[3 * i + 2])];
        if (beyond && params.beyond === "flat") {
          const on = chart.wayOff(t, beyond[2 * i], beyond[2 * i + 1]);
          for (let k = 0; k < 3; k++) point[k] += on[k];
        }
        put(out, i, ground, t, point, chart.wayOff(t, ...ahead));
      }
    },
    find(point, near) {
      const { x, y } = chart.toChart(point);
      return onto.toLayout(x, y, near);
    },
  };
}

/** Which triangles lie at places of the sheet: at an edge also the one beside it, and where it closes the one once round. */
function trianglesNear(chart: Chart, places: Float64Array): Int32Array {
  const triangle = Int32Array.from(chart.trianglesAt(places).triangle);
  const { least, most, period } = chart;
  const again = (moved: (value: number, axis: 0 | 1) => number) => {
    const missed = [...triangle.keys()].filter((i) => triangle[i] < 0);
    if (missed.length === 0) return;
    const tried = new Float64Array(3 * missed.length);
    missed.forEach((i, k) => {
      for (const axis of [0, 1] as const) tried[3 * k + 2 * axis] = moved(places[3 * i + 2 * axis], axis);
    });
    const found = chart.trianglesAt(tried).triangle;
    missed.forEach((i, k) => {
      if (found[k] < 0) return;
      triangle[i] = found[k];
      [places[3 * i], places[3 * i + 2]] = [tried[3 * k], tried[3 * k + 2]];
    });
  };
  const grain = EDGE * Math.max(most[0] - least[0], most[1] - least[1]);
  again((value, axis) => {
    const [low, high] = [least[axis] + grain, most[axis] - grain];
    const held = Math.max(low, Math.min(high, value));
    return Math.abs(held - value) <= 2 * grain ? held : value;
  });
  // The sides of a seam need not be straight.
  for (const sign of [1, -1]) if (period[0] > 0 || period[1] > 0) again((value, axis) => value + sign * period[axis]);
  return triangle;
}

/** Brings places beyond the sheet's edge to where the way to them from its middle leaves it; how far beyond each was: 2n. */
function broughtIn(chart: Chart, places: Float64Array, triangle: Int32Array): Float64Array {
  const rest = new Float64Array(2 * triangle.length);
  const beyond = [...triangle.keys()].filter((i) => triangle[i] < 0);
  const { least, most } = chart;
  const middle = [0, 1].map((axis) => (least[axis] + most[axis]) / 2);
  const low = new Float64Array(beyond.length);
  const high = new Float64Array(beyond.length).fill(1);
  const tried = new Float64Array(3 * beyond.length);
  for (let halved = 0; halved < HALVINGS; halved++) {
    beyond.forEach((i, k) => {
      const share = (low[k] + high[k]) / 2;
      for (const axis of [0, 1])
        tried[3 * k + 2 * axis] = middle[axis] + share * (places[3 * i + 2 * axis] - middle[axis]);
    });
    const found = chart.trianglesAt(tried).triangle;
    beyond.forEach((i, k) => {
      if (found[k] < 0) high[k] = (low[k] + high[k]) / 2;
      else [low[k], triangle[i]] = [(low[k] + high[k]) / 2, found[k]];
    });
  }
  beyond.forEach((i, k) => {
    for (const axis of [0, 1]) {
      const at = places[3 * i + 2 * axis];
      const there = middle[axis] + low[k] * (at - middle[axis]);
      rest[2 * i + axis] = at - there;
      places[3 * i + 2 * axis] = there;
    }
  });
  return rest;
}

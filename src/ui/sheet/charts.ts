/** *Surfaces laid out flat, side by side*, by their UVs or unrolled: what the sheet shows instead of the ground from above, if asked to. */
import { waysOf, type Chart } from "@/core/mesh";
import type { Vec3 } from "@/core/math";
import { fullnessAt, type Charted, type Fullness } from "@/core/place";
import type { Surface } from "@/core/scene";
import type { ChartedSurface } from "@/engine/engine";
import { chartOf } from "../state";
import type { PlanBox } from "./model";

/** A line that goes farther on the chart than this many times its way in the world has crossed a seam. */
const JUMP = 4;

/** *Where a sheet is measured from*: a corner of it, from which u goes to the right or left and v up or down. */
export interface Axes {
  at: readonly [x: number, y: number];
  right: 1 | -1;
  down: 1 | -1;
  /** How far apart across and down the two sides of a seam lie, metres; 0 where there is none. */
  period: readonly [across: number, down: number];
}

interface Laid {
  field: string;
  chart: Chart;
  /** How far it is moved to stand beside the others. */
  shift: number;
}

/** A place of the sheet, and what lies there. */
export interface Shown {
  point: Vec3;
  field: string;
}

export class Charts {
  readonly #laid: readonly Laid[];
  readonly #map: Charted;
  #borders: Float64Array[] | undefined;
  #stretched: Path2D[] | undefined;
  /** Lines as they run on the charts, by their points. */
  readonly #lines = new WeakMap<readonly Vec3[], Vec3[][]>();

  private constructor(laid: readonly Laid[], map: Charted) {
    this.#laid = laid;
    this.#map = map;
  }

  /** Null unless all surfaces are known. */
  static of(
    charted: Charted,
    fields: readonly string[],
    known: ReadonlyMap<string, ChartedSurface>,
    surfaces: readonly Surface[],
  ): Charts | null {
    const laid = fields.flatMap((field, i): Laid[] => {
      const [one, surface] = [known.get(field), surfaces.find(({ id }) => id === field)];
      return one && surface ? [{ field, chart: chartOf(one, surface), shift: charted.shift[i] }] : [];
    });
    return laid.length === fields.length ? new Charts(laid, charted) : null;
  }

  get box(): PlanBox {
    return [this.#map.least, this.#map.most];
  }

  /** Corners of all placements' footprints: 8n. */
  get footprints(): Float64Array {
    return this.#map.footprints;
  }

  /** Where u and v begin and which way they go, and how far it is once round, where one surface alone is shown. */
  get axes(): Axes | null {
    if (this.#laid.length !== 1) return null;
    const [{ chart, shift }] = this.#laid;
    const [right, up] = waysOf(chart.ground.laying);
    const { least, most, period } = chart;
    return {
      at: [(right > 0 ? least[0] : most[0]) + shift, up > 0 ? most[1] : least[1]],
      right,
      down: up > 0 ? -1 : 1,
      period,
    };
  }

  /** Outlines and seams of all charts, as x and y of both ends: 4 numbers each. */
  get borders(): readonly Float64Array[] {
    return (this.#borders ??= this.#laid.map(({ chart, shift }) =>
      chart.borders.map((value, k) => (k % 2 === 0 ? value + shift : value)),
    ));
  }

  /** Where lengths are off by more than each of {@link STRETCHED}, up to the next, as shapes in metres of the sheet. */
  get stretched(): readonly Path2D[] {
    return (this.#stretched ??= stretchedOf(this.#laid));
  }

  /** How true to length they are, the least true of them, and where that is worst: see {@link ChartStretch}. */
  get stretch(): { within: number; worst: number; where: string } {
    const worst = this.#laid.reduce((a, b) => (b.chart.stretch.worst > a.chart.stretch.worst ? b : a));
    return {
      within: Math.max(...this.#laid.map(({ chart }) => chart.stretch.within)),
      worst: worst.chart.stretch.worst,
      where: whereOn(worst.chart),
    };
  }

  /** How full it is at a place, and why. */
  fullAt(x: number, y: number): Fullness | null {
    return fullnessAt(this.#map, x, y);
  }

  toWorld(x: number, y: number): Shown | null {
    for (const { field, chart, shift } of this.#laid) {
      const found = chart.toWorld(x - shift, y);
      if (found) return { point: found.point, field };
    }
    return null;
  }

  /** Where a point of a field lies on the sheet; of one that is not shown on none. */
  toSheet(field: string, point: Vec3): [x: number, y: number] | null {
    const laid = this.#laid.find((one) => one.field === field);
    if (!laid) return null;
    const { x, y } = laid.chart.toChart(point);
    return [x + laid.shift, y];
  }

  /** Where the place of all surfaces lies that is nearest to a point. */
  nearest(point: Vec3): [x: number, y: number] {
    let best: [number, number] = [NaN, NaN];
    let least = Infinity;
    for (const { chart, shift } of this.#laid) {
      const { x, y, triangle } = chart.toChart(point);
      const on = chart.pointOf(triangle, x, y);
      const far = Math.hypot(...on.map((value, axis) => value - point[axis]));
      if (far < least) [least, best] = [far, [x + shift, y]];
    }
    return best;
  }

  /** A line near the surfaces as it runs on the charts, in pieces where it crosses a seam; heights are 0. */
  line(points: readonly Vec3[]): Vec3[][] {
    let pieces = this.#lines.get(points);
    if (!pieces) this.#lines.set(points, (pieces = this.#piecesOf(points)));
    return pieces;
  }

  #piecesOf(points: readonly Vec3[]): Vec3[][] {
    return this.#laid.flatMap(({ field }) => {
      const pieces: Vec3[][] = [];
      points.forEach((point, i) => {
        const [x, y] = this.toSheet(field, point)!;
        const last = pieces.at(-1)?.at(-1);
        const before = points[i - 1];
        const way = before ? Math.hypot(...point.map((value, axis) => value - before[axis])) : 0;
        const jumps = last !== undefined && Math.hypot(x - last[0], y - last[2]) > JUMP * way + 1e-6;
        if (!last || jumps) pieces.push([[x, 0, y]]);
        else pieces[pieces.length - 1].push([x, 0, y]);
      });
      return pieces;
    });
  }
}

/** Steps of how far lengths are off, as shares. */
export const STRETCHED = [0.02, 0.05, 0.1, 0.25, 0.5] as const;

function stretchedOf(laid: readonly Laid[]): Path2D[] {
  const paths = STRETCHED.map(() => new Path2D());
  for (const { chart, shift } of laid)
    chart.stretches.forEach((off, t) => {
      const step = STRETCHED.findLastIndex((least) => off - 1 > least);
      if (step < 0) return;
      [0, 1, 2, 0].forEach((corner, k) => {
        const [x, y] = chart.cornerAt(t, corner);
        if (k === 0) paths[step].moveTo(x + shift, y);
        else paths[step].lineTo(x + shift, y);
      });
    });
  return paths;
}

/** In which third of its box a chart is stretched worst. */
function whereOn({ least, most, stretch: { at } }: Chart): string {
  const third = (axis: number) =>
    Math.min(2, Math.max(0, Math.floor((3 * (at[axis] - least[axis])) / (most[axis] - least[axis] || 1))));
  return ["at the top", SIDES[third(0)], "at the foot"][third(1)];
}

const SIDES = ["on the left", "in the middle", "on the right"] as const;

/** The charts as a picture over their box: green where things may stand, paler the fewer do; nothing beside them. */
export function pictureOf({ columns, rows, share }: Charted): HTMLCanvasElement {
  const picture = document.createElement("canvas");
  [picture.width, picture.height] = [columns, rows];
  const pen = picture.getContext("2d")!;
  const image = pen.createImageData(columns, rows);
  for (let i = 0; i < share.length; i++) {
    if (Number.isNaN(share[i])) continue;
    for (let k = 0; k < 3; k++) image.data[4 * i + k] = Math.round(FREE[k] + (TAKEN[k] - FREE[k]) * (1 - share[i]));
    image.data[4 * i + 3] = 255;
  }
  pen.putImageData(image, 0, 0);
  return picture;
}

const FREE = [206, 221, 201] as const;
const TAKEN = [246, 240, 228] as const;

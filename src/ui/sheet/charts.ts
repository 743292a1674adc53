/** *Surfaces laid out flat by their UVs, side by side*: what the sheet shows instead of the ground from above, if asked to. */
import { Ground, UvChart, type TriangleMesh } from "@/core/mesh";
import { rotate, type Vec3 } from "@/core/math";
import { densityAt, NO_PROP, type DensityMap, type Placements, type PropBounds } from "@/core/place";
import type { Surface } from "@/core/scene";
import type { Model } from "../assets/models";
import type { PlanBox } from "./model";

/** Room between two charts, as a share of the broadest. */
const ROOM = 0.08;
/** A line that goes farther on the chart than this many times its way in the world has crossed a seam. */
const JUMP = 4;
/** How full it is is known from above; of what lies deeper under the highest than this many metres it says nothing. */
const BELOW = 0.5;
/** Samples along the longer side of a chart's picture. */
const SAMPLES = 192;

interface Laid {
  field: string;
  chart: UvChart;
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
  #borders: Float64Array[] | undefined;

  private constructor(laid: readonly Laid[]) {
    this.#laid = laid;
  }

  /** Null unless all of the surfaces have UVs. */
  static of(models: readonly { surface: Surface; model: Model }[]): Charts | null {
    const charts = models.map(({ surface, model }) => UvChart.of(groundOf(surface, model)));
    if (charts.length === 0 || charts.includes(null)) return null;
    const wide = (chart: UvChart) => chart.most[0] - chart.least[0];
    const room = ROOM * Math.max(...charts.map((chart) => wide(chart!)));
    let x = 0;
    return new Charts(
      models.map(({ surface }, i) => {
        const chart = charts[i]!;
        const shift = x - chart.least[0];
        x += wide(chart) + room;
        return { field: surface.id, chart, shift };
      }),
    );
  }

  get box(): PlanBox {
    const [top, bottom] = [
      Math.min(...this.#laid.map(({ chart }) => chart.least[1])),
      Math.max(...this.#laid.map(({ chart }) => chart.most[1])),
    ];
    const { chart, shift } = this.#laid[this.#laid.length - 1];
    return [
      [0, top],
      [chart.most[0] + shift, bottom],
    ];
  }

  /** Outlines and seams as x and y of both ends: 4 numbers each. */
  get borders(): readonly Float64Array[] {
    return (this.#borders ??= this.#laid.map(({ chart, shift }) =>
      chart.borders.map((value, k) => (k % 2 === 0 ? value + shift : value)),
    ));
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

  /** As `footprintsOf`: corners of all placements' boxes, from the front left one around, on the charts: 8n. */
  footprints(p: Placements, bounds: ReadonlyMap<string, PropBounds>): Float64Array {
    const out = new Float64Array(8 * p.count).fill(NaN);
    const laidOf = p.fields.map((id) => this.#laid.find(({ field }) => field === id));
    const boxes = p.props.map((id) => bounds.get(id));
    for (let i = 0; i < p.count; i++) {
      const laid = laidOf[p.line[i]];
      if (!laid) continue;
      const { chart, shift } = laid;
      const foot = [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]) as unknown as Vec3;
      const { x, y, triangle } = chart.toChart(foot);
      const box = p.prop[i] === NO_PROP ? undefined : boxes[p.prop[i]];
      const [qx, qy, qz, qw] = p.rotation.subarray(4 * i, 4 * i + 4);
      for (let corner = 0; corner < 4; corner++) {
        const left = corner === 0 || corner === 3;
        const own: Vec3 = box
          ? [
              p.scale[3 * i] * (left ? box.max[0] : box.min[0]),
              0,
              p.scale[3 * i + 2] * (corner < 2 ? box.max[2] : box.min[2]),
            ]
          : [0, 0, 0];
        const [dx, dy] = chart.wayOn(triangle, rotate([qx, qy, qz, qw], own));
        out[8 * i + 2 * corner] = x + shift + dx;
        out[8 * i + 2 * corner + 1] = y + dy;
      }
    }
    return out;
  }

  /** A line near the surfaces as it runs on the charts, in pieces where it crosses a seam; heights are 0. */
  line(points: readonly Vec3[]): Vec3[][] {
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

  /** The charts as a picture over their box: green where things may stand, paler the fewer do; nothing beside them. */
  picture(density: DensityMap | null): HTMLCanvasElement {
    const [least, most] = this.box;
    const [wide, tall] = [most[0] - least[0], most[1] - least[1]];
    const cell = Math.max(wide, tall) / SAMPLES;
    const picture = document.createElement("canvas");
    [picture.width, picture.height] = [wide, tall].map((side) => Math.max(1, Math.round(side / cell)));
    const pen = picture.getContext("2d")!;
    const image = pen.createImageData(picture.width, picture.height);
    for (const { chart, shift } of this.#laid) {
      const places = new Float64Array(3 * picture.width * picture.height);
      for (let row = 0, i = 0; row < picture.height; row++) {
        for (let column = 0; column < picture.width; column++, i++) {
          places[3 * i] = least[0] + ((column + 0.5) * wide) / picture.width - shift;
          places[3 * i + 2] = least[1] + ((row + 0.5) * tall) / picture.height;
        }
      }
      chart.trianglesAt(places).triangle.forEach((triangle, i) => {
        if (triangle < 0) return;
        const point = chart.pointOf(triangle, places[3 * i], places[3 * i + 2]);
        const share = fullAt(density, point)?.share ?? 1;
        image.data.set(
          [0, 1, 2].map((k) => Math.round(FREE[k] + (TAKEN[k] - FREE[k]) * (1 - share))),
          4 * i,
        );
        image.data[4 * i + 3] = 255;
      });
    }
    pen.putImageData(image, 0, 0);
    return picture;
  }
}

const FREE = [206, 221, 201] as const;
const TAKEN = [246, 240, 228] as const;

/** How full it is at a point, as far as that is known from above. */
export function fullAt(density: DensityMap | null, [x, y, z]: Vec3): ReturnType<typeof densityAt> {
  const found = density && densityAt(density, x, z);
  return found && Math.abs(found.height - y) < BELOW ? found : null;
}

const grounds = new WeakMap<Model, { of: string; ground: Ground }>();

/** A surface as what the core reckons with. */
function groundOf({ id, position, rotation, scale }: Surface, model: Model): Ground {
  const of = JSON.stringify([id, position, rotation, scale]);
  const known = grounds.get(model);
  if (known?.of === of) return known.ground;
  const ground = Ground.of(id, joined(model), { position, rotation, scale });
  grounds.set(model, { of, ground });
  return ground;
}

/** All parts of a model in one mesh; without UVs where one part has none. */
function joined({ parts }: Model): TriangleMesh {
  const position: Float32Array[] = [];
  const uv: Float32Array[] = [];
  const index: number[] = [];
  let vertices = 0;
  for (const { geometry } of parts) {
    const { position: P, uv: U } = geometry.attributes;
    position.push(Float32Array.from({ length: 3 * P.count }, (_, k) => P.getComponent(Math.floor(k / 3), k % 3)));
    if (U) uv.push(Float32Array.from({ length: 2 * U.count }, (_, k) => U.getComponent(k >> 1, k & 1)));
    const corners = geometry.index;
    for (let k = 0; k < (corners?.count ?? P.count); k++) index.push(vertices + (corners ? corners.getX(k) : k));
    vertices += P.count;
  }
  return {
    position: concatenated(position),
    index: Uint32Array.from(index),
    attributes: uv.length === parts.length ? [{ name: "TEXCOORD_0", width: 2, array: concatenated(uv) }] : [],
  };
}

function concatenated(list: readonly Float32Array[]): Float32Array {
  const whole = new Float32Array(list.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const array of list) {
    whole.set(array, at);
    at += array.length;
  }
  return whole;
}

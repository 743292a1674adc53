/**
 * *A surface laid out flat by its UVs*, at real size: a unit of UV is so many metres that all triangles together have the
 * area that they have in the world.
 *
 *     const chart = UvChart.of(ground);
 *     chart.toWorld(2.5, 1); // { point: [x, y, z], triangle: 41 }
 */
import { areasOf } from "./facets";
import { Heights, hitsFor, type Hits } from "./heights";
import { weightsIn, type Ground } from "./ground";
import type { Met } from "./ray-tree";
import type { Vec3 } from "../math";

export interface ChartPlace {
  /** World coordinates, metres. */
  point: Vec3;
  triangle: number;
}

/** UVs nearer than this share of the chart are one place. */
const WELD = 1e-6;

export class UvChart {
  readonly ground: Ground;
  /** Corners of the box about all of it, metres; x along u, y along v. */
  readonly least: readonly [number, number];
  readonly most: readonly [number, number];
  /** Chart coordinates of the vertices as x, 0, y: 3v, metres. */
  readonly #flat: Float64Array;
  readonly #heights: Heights;
  #borders: Float64Array | undefined;
  readonly #weights = new Float64Array(3);
  readonly #met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

  static readonly #known = new WeakMap<Ground, UvChart | null>();

  /** Null for a mesh without UVs, or with ones that have no area. */
  static of(ground: Ground): UvChart | null {
    let chart = UvChart.#known.get(ground);
    if (chart === undefined) {
      const scale = ground.uv ? scaleOf(ground, ground.uv) : 0;
      UvChart.#known.set(ground, (chart = scale > 0 ? new UvChart(ground, ground.uv!, scale) : null));
    }
    return chart;
  }

  private constructor(ground: Ground, uv: Float32Array, scale: number) {
    this.ground = ground;
    this.#flat = flatten(uv, scale);
    this.#heights = new Heights(this.#flat, ground.index);
    const [least, most] = [
      [Infinity, Infinity],
      [-Infinity, -Infinity],
    ];
    for (let p = 0; p < this.#flat.length; p += 3) {
      for (const axis of [0, 1]) {
        least[axis] = Math.min(least[axis], this.#flat[p + 2 * axis]);
        most[axis] = Math.max(most[axis], this.#flat[p + 2 * axis]);
      }
    }
    this.least = [least[0], least[1]];
    this.most = [most[0], most[1]];
  }

  /** What lies at a place of the chart; null beside it. Where it lies over itself, one of them. */
  toWorld(x: number, y: number): ChartPlace | null {
    const hits = this.trianglesAt(Float64Array.of(x, 0, y));
    const triangle = hits.triangle[0];
    return triangle < 0 ? null : { triangle, point: this.pointOf(triangle, x, y) };
  }

  /** Which triangles lie at places of the chart, x, 0, y: 3n; -1 beside it. */
  trianglesAt(places: Float64Array): Hits {
    const hits = hitsFor(places.length / 3);
    hits.triangle.fill(-1);
    this.#heights.cast(places, hits.triangle.length, "above", hits, 0);
    return hits;
  }

  /** The point of the world at a place of the chart that lies in a triangle. */
  pointOf(triangle: number, x: number, y: number): Vec3 {
    const { index, position: P } = this.ground;
    weightsIn({ position: this.#flat, index }, triangle, x, 0, y, this.#weights);
    const corners = [0, 1, 2].map((k) => 3 * index[3 * triangle + k]);
    return [0, 1, 2].map((axis) =>
      corners.reduce((sum, corner, k) => sum + this.#weights[k] * P[corner + axis], 0),
    ) as unknown as Vec3;
  }

  /** Where the point of the surface that is nearest to a point of the world lies on the chart, and in which triangle. */
  toChart([px, py, pz]: Vec3): { x: number; y: number; triangle: number } {
    const met = this.#met;
    this.ground.tree.nearest(px, py, pz, met);
    const { triangle } = met;
    const { index } = this.ground;
    weightsIn(this.ground, triangle, met.x, met.y, met.z, this.#weights);
    const at = (axis: number) =>
      [0, 1, 2].reduce((sum, k) => sum + this.#weights[k] * this.#flat[3 * index[3 * triangle + k] + axis], 0);
    return { x: at(0), y: at(2), triangle };
  }

  /** A short way in the world, along a triangle, as it goes on the chart; what is square to the triangle is left out. */
  wayOn(triangle: number, way: Vec3): [x: number, y: number] {
    const { index, position: P } = this.ground;
    const [a, b, c] = [0, 1, 2].map((k) => 3 * index[3 * triangle + k]);
    let [uu, uv, vv, wu, wv] = [0, 0, 0, 0, 0];
    for (let axis = 0; axis < 3; axis++) {
      const [u, v] = [P[b + axis] - P[a + axis], P[c + axis] - P[a + axis]];
      uu += u * u;
      uv += u * v;
      vv += v * v;
      wu += u * way[axis];
      wv += v * way[axis];
    }
    const squared = uu * vv - uv * uv;
    if (!(squared > 0)) return [0, 0];
    const [p, q] = [(vv * wu - uv * wv) / squared, (uu * wv - uv * wu) / squared];
    const F = this.#flat;
    return [p * (F[b] - F[a]) + q * (F[c] - F[a]), p * (F[b + 2] - F[a + 2]) + q * (F[c + 2] - F[a + 2])];
  }

  /** Its outline and seams: the edges that only one triangle has, x and y of both ends: 4 numbers each. */
  get borders(): Float64Array {
    return (this.#borders ??= bordersOf(this.#flat, this.ground.index, WELD * Math.max(1e-9, this.#breadth)));
  }

  get #breadth(): number {
    return Math.max(this.most[0] - this.least[0], this.most[1] - this.least[1]);
  }
}

function flatten(uv: Float32Array, scale: number): Float64Array {
  const flat = new Float64Array((3 * uv.length) / 2);
  for (let v = 0; v < uv.length / 2; v++) {
    flat[3 * v] = scale * uv[2 * v];
    flat[3 * v + 2] = scale * uv[2 * v + 1];
  }
  return flat;
}

/** Metres a unit of UV; 0 where the UVs have no area. */
function scaleOf({ position, index }: Ground, uv: Float32Array): number {
  const sum = (areas: Float64Array) => areas.reduce((total, area) => total + area, 0);
  const [world, flat] = [sum(areasOf({ position, index })), sum(areasOf({ position: flatten(uv, 1), index }))];
  return flat > 1e-12 ? Math.sqrt(world / flat) : 0;
}

function bordersOf(flat: Float64Array, index: Uint32Array, weld: number): Float64Array {
  const places = new Map<string, number>();
  const placeOf = Uint32Array.from({ length: flat.length / 3 }, (_, v) => {
    const name = `${Math.round(flat[3 * v] / weld)} ${Math.round(flat[3 * v + 2] / weld)}`;
    const known = places.get(name);
    if (known === undefined) places.set(name, v);
    return known ?? v;
  });
  const single = new Map<number, [number, number]>();
  const n = placeOf.length;
  for (let t = 0; t < index.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [placeOf[index[t + k]], placeOf[index[t + ((k + 1) % 3)]]];
      if (a === b) continue;
      const edge = Math.min(a, b) * n + Math.max(a, b);
      if (!single.delete(edge)) single.set(edge, [a, b]);
    }
  }
  const borders = new Float64Array(4 * single.size);
  [...single.values()].forEach(([a, b], k) => {
    borders.set([flat[3 * a], flat[3 * a + 2], flat[3 * b], flat[3 * b + 2]], 4 * k);
  });
  return borders;
}

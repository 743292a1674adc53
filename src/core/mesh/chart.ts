/**
 * *A surface laid out flat*, at real size: by its UVs, a unit of which is so many metres that all triangles together have the
 * area that they have in the world; or unrolled where it has none.
 *
 *     const chart = Chart.of(ground);
 *     chart.toWorld(2.5, 1); // { point: [x, y, z], triangle: 41 }
 */
import type { ChartStretch, ChartTable } from "./chart-table";
import { Heights, hitsFor, type Hits } from "./heights";
import { weightsIn } from "./barycentric";
import type { WorldMesh } from "./world-mesh";
import type { Met } from "./ray-tree";
import type { Vec3 } from "../math";

export interface ChartPlace {
  /** World coordinates, metres. */
  point: Vec3;
  triangle: number;
}

export class Chart {
  readonly ground: WorldMesh;
  readonly table: ChartTable;
  /** How large it is. */
  readonly #scale: number;
  readonly #heights: Heights;
  readonly #weights = new Float64Array(3);
  readonly #met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

  constructor(ground: WorldMesh, table: ChartTable) {
    this.ground = ground;
    this.table = table;
    this.#scale = ground.stand?.scale ?? 1;
    this.#heights = new Heights(table.heights);
  }

  /** Null for a mesh that cannot be laid flat. */
  static of(ground: WorldMesh): Chart | null {
    const table = ground.rest.chart;
    return table && new Chart(ground, table);
  }

  /** Corners of the box about all of it, metres; x along u, y along v. */
  get least(): [number, number] {
    return [this.#scale * this.table.least[0], this.#scale * this.table.least[1]];
  }

  get most(): [number, number] {
    return [this.#scale * this.table.most[0], this.#scale * this.table.most[1]];
  }

  /** How true to length it is; where it is worst in metres as it stands. */
  get stretch(): ChartStretch {
    const { within, worst, at } = this.table.stretch;
    return { within, worst, at: [this.#scale * at[0], this.#scale * at[1]] };
  }

  /** Its outline and seams: x and y of both ends, 4 numbers each. */
  get borders(): Float64Array {
    return this.table.borders.map((value) => this.#scale * value);
  }

  /** What lies at texture coordinates; null beside them, and where it has none. */
  ofUv(u: number, v: number): ChartPlace | null {
    if (this.table.perUnit === null) return null;
    const perUnit = this.#scale * this.table.perUnit;
    return this.toWorld(perUnit * u, perUnit * v);
  }

  /** What lies at a place of the chart; null beside it. Where it lies over itself, one of them. */
  toWorld(x: number, y: number): ChartPlace | null {
    const hits = this.trianglesAt(Float64Array.of(x, 0, y));
    const triangle = hits.triangle[0];
    return triangle < 0 ? null : { triangle, point: this.pointOf(triangle, x, y) };
  }

  /** Which triangles lie at places of the chart, x, 0, y: 3n; -1 beside it. */
  trianglesAt(places: Float64Array): Hits {
    const n = places.length / 3;
    const hits = hitsFor(n);
    hits.triangle.fill(-1);
    this.#heights.cast(
      places.map((value) => value / this.#scale),
      n,
      "above",
      hits,
      0,
    );
    return hits;
  }

  /** The point of the world at a place of the chart that lies in a triangle. */
  pointOf(triangle: number, x: number, y: number): Vec3 {
    const { index, position: P } = this.ground;
    const [u, v] = [x / this.#scale, y / this.#scale];
    weightsIn({ position: this.table.flat, index: this.table.index }, triangle, u, 0, v, this.#weights);
    const [a, b, c] = [3 * index[3 * triangle], 3 * index[3 * triangle + 1], 3 * index[3 * triangle + 2]];
    const [p, q, r] = this.#weights;
    const at = (axis: number) => p * P[a + axis] + q * P[b + axis] + r * P[c + axis];
    return [at(0), at(1), at(2)];
  }

  /** Where the point of the surface that is nearest to a point of the world lies on the chart, and in which triangle. */
  toChart([px, py, pz]: Vec3): { x: number; y: number; triangle: number } {
    const met = this.#met;
    this.ground.tree.nearest(px, py, pz, met);
    const [x, y] = this.placeIn(met.triangle, met.x, met.y, met.z);
    return { x, y, triangle: met.triangle };
  }

  /** Where a point of a triangle lies on the chart. */
  placeIn(triangle: number, px: number, py: number, pz: number): [x: number, y: number] {
    const { index, flat: F } = this.table;
    weightsIn(this.ground, triangle, px, py, pz, this.#weights);
    const [a, b, c] = [3 * index[3 * triangle], 3 * index[3 * triangle + 1], 3 * index[3 * triangle + 2]];
    const [p, q, r] = this.#weights;
    const at = (axis: number) => this.#scale * (p * F[a + axis] + q * F[b + axis] + r * F[c + axis]);
    return [at(0), at(2)];
  }

  /** A short way in the world, along a triangle, as it goes on the chart; what is square to the triangle is left out. */
  wayOn(triangle: number, way: Vec3): [x: number, y: number] {
    const { index, position: P } = this.ground;
    const [a, b, c] = [3 * index[3 * triangle], 3 * index[3 * triangle + 1], 3 * index[3 * triangle + 2]];
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
    const [p, q] = [(this.#scale * (vv * wu - uv * wv)) / squared, (this.#scale * (uu * wv - uv * wu)) / squared];
    const { index: laid, flat: F } = this.table;
    const [d, e, f] = [0, 1, 2].map((k) => 3 * laid[3 * triangle + k]);
    return [p * (F[e] - F[d]) + q * (F[f] - F[d]), p * (F[e + 2] - F[d + 2]) + q * (F[f + 2] - F[d + 2])];
  }
}

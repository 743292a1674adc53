/**
 * *A surface laid out flat*, at real size, as it is wished for: by how it was made, by its UVs, a unit of which is so many metres
 * that all triangles together have the area that they have in the world, or unrolled; turned and flipped on the sheet.
 *
 *     const chart = Chart.of(ground);
 *     chart.toWorld(2.5, 1); // { point: [x, y, z], triangle: 41 }
 */
import type { ChartStretch, ChartTable } from "./chart-table";
import { Heights, hitsFor, type Hits } from "./heights";
import { turnedOf, type Turned } from "./laying";
import { weightsIn } from "./barycentric";
import { triangleStretch } from "./stretch";
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
  /** How large it is, and which way round it lies. */
  readonly #scale: number;
  readonly #turned: Turned;
  readonly #heights: Heights;
  readonly #weights = new Float64Array(3);
  readonly #met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

  constructor(ground: WorldMesh, table: ChartTable) {
    this.ground = ground;
    this.table = table;
    this.#scale = ground.stand?.scale ?? 1;
    this.#turned = turnedOf(ground.laying);
    this.#heights = new Heights(table.heights);
  }

  /** Null for a mesh that cannot be laid flat. */
  static of(ground: WorldMesh): Chart | null {
    const table = ground.rest.chart(ground.laying.by);
    return table && new Chart(ground, table);
  }

  /** What lies at texture coordinates; null beside them, and where a mesh has none. */
  static atUv(ground: WorldMesh, u: number, v: number): ChartPlace | null {
    const table = ground.rest.uvChart;
    if (!table) return null;
    const chart = new Chart(ground, table);
    return chart.toWorld(...chart.#laid(table.perUnit! * u, table.perUnit! * v));
  }

  /** A place of the table where it lies. */
  #laid(x: number, y: number): [x: number, y: number] {
    const [a, b, c, d] = this.#turned;
    return [this.#scale * (a * x + b * y), this.#scale * (c * x + d * y)];
  }

  /** The place of the table that lies there. */
  #inTable(x: number, y: number): [x: number, y: number] {
    const [a, b, c, d] = this.#turned;
    return [(a * x + c * y) / this.#scale, (b * x + d * y) / this.#scale];
  }

  #corner(pick: (a: number, b: number) => number): [number, number] {
    const { least, most } = this.table;
    const [[ax, ay], [bx, by]] = [this.#laid(least[0], least[1]), this.#laid(most[0], most[1])];
    return [pick(ax, bx), pick(ay, by)];
  }

  /** Corners of the box about all of it, metres; x along u, y along v. */
  get least(): [number, number] {
    return this.#corner(Math.min);
  }

  get most(): [number, number] {
    return this.#corner(Math.max);
  }

  /** How far apart the two sides of its seam lie, across and down, metres; 0 where it does not close that way. */
  get period(): [across: number, down: number] {
    const [x, y] = this.#laid(...this.table.period);
    return [Math.abs(x), Math.abs(y)];
  }

  /** How true to length it is; where it is worst in metres as it stands. */
  get stretch(): ChartStretch {
    const { within, worst, at } = this.table.stretch;
    return { within, worst, at: this.#laid(at[0], at[1]) };
  }

  /** By how many times lengths are off in each triangle, at least 1: m. */
  get stretches(): Float64Array {
    return triangleStretch(this.ground.rest.mesh, this.table.index, this.table.flat);
  }

  /** Its outline and seams: x and y of both ends, 4 numbers each. */
  get borders(): Float64Array {
    const out = this.table.borders.slice();
    for (let k = 0; k < out.length; k += 2) [out[k], out[k + 1]] = this.#laid(out[k], out[k + 1]);
    return out;
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
    const own = new Float64Array(3 * n);
    for (let i = 0; i < 3 * n; i += 3) [own[i], own[i + 2]] = this.#inTable(places[i], places[i + 2]);
    this.#heights.cast(own, n, "above", hits, 0);
    return hits;
  }

  /**
   * The triangles that may lie within a box of the chart, where it closes also those of it once round: each with how far it is to
   * be moved to lie there.
   */
  trianglesWithin(
    least: readonly [number, number],
    most: readonly [number, number],
  ): { triangle: number; by: [number, number] }[] {
    const [px, py] = this.period;
    const found: { triangle: number; by: [number, number] }[] = [];
    for (const x of px > 0 ? [-px, 0, px] : [0])
      for (const y of py > 0 ? [-py, 0, py] : [0]) {
        const [a, b] = [this.#inTable(least[0] - x, least[1] - y), this.#inTable(most[0] - x, most[1] - y)];
        const within = this.#heights.within(
          Math.min(a[0], b[0]),
          Math.min(a[1], b[1]),
          Math.max(a[0], b[0]),
          Math.max(a[1], b[1]),
        );
        for (const triangle of within) found.push({ triangle, by: [x, y] });
      }
    return found;
  }

  /** Where a corner of a triangle, 0 to 2, lies on the chart. */
  cornerAt(triangle: number, corner: number): [x: number, y: number] {
    const { index, flat } = this.table;
    const o = 3 * index[3 * triangle + corner];
    return this.#laid(flat[o], flat[o + 2]);
  }

  /** Whether a triangle shows its back on the chart, where y runs downwards. */
  showsBack(triangle: number): boolean {
    const [[ax, ay], [bx, by], [cx, cy]] = [0, 1, 2].map((corner) => this.cornerAt(triangle, corner));
    return (bx - ax) * (cy - ay) - (by - ay) * (cx - ax) > 0;
  }

  /** The point of the world at a place of the chart that lies in a triangle. */
  pointOf(triangle: number, x: number, y: number): Vec3 {
    const { index, position: P } = this.ground;
    const [u, v] = this.#inTable(x, y);
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
    const at = (axis: number) => p * F[a + axis] + q * F[b + axis] + r * F[c + axis];
    return this.#laid(at(0), at(2));
  }

  /** A short way on the chart within a triangle as it goes in the world. */
  wayOff(triangle: number, x: number, y: number): Vec3 {
    const { index, position: P } = this.ground;
    const { index: laid, flat: F } = this.table;
    const [u, v] = this.#inTable(x, y);
    const [d, e, f] = [0, 1, 2].map((k) => 3 * laid[3 * triangle + k]);
    const [ux, uy, vx, vy] = [F[e] - F[d], F[e + 2] - F[d + 2], F[f] - F[d], F[f + 2] - F[d + 2]];
    const area = ux * vy - uy * vx;
    if (area === 0) return [0, 0, 0];
    const [p, q] = [(vy * u - vx * v) / area, (ux * v - uy * u) / area];
    const [a, b, c] = [3 * index[3 * triangle], 3 * index[3 * triangle + 1], 3 * index[3 * triangle + 2]];
    const at = (axis: number) => p * (P[b + axis] - P[a + axis]) + q * (P[c + axis] - P[a + axis]);
    return [at(0), at(1), at(2)];
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
    const [p, q] = [(vv * wu - uv * wv) / squared, (uu * wv - uv * wu) / squared];
    const { index: laid, flat: F } = this.table;
    const [d, e, f] = [0, 1, 2].map((k) => 3 * laid[3 * triangle + k]);
    const at = (axis: number) => p * (F[e + axis] - F[d + axis]) + q * (F[f + axis] - F[d + axis]);
    return this.#laid(at(0), at(2));
  }
}

/**
 * *A surface laid out flat by its UVs*, at real size: a unit of UV is so many metres that all triangles together have the
 * area that they have in the world.
 *
 *     const chart = UvChart.of(ground);
 *     chart.toWorld(2.5, 1); // { point: [x, y, z], triangle: 41 }
 */
import { areasOf } from "./facets";
import { Heights, hitsFor, type Hits, type HeightTable } from "./heights";
import { weightsIn, type WorldMesh } from "./world-mesh";
import type { Met } from "./ray-tree";
import type { Vec3 } from "../math";

export interface ChartPlace {
  /** World coordinates, metres. */
  point: Vec3;
  triangle: number;
}

/** UVs nearer than this share of the chart are one place. */
const WELD = 1e-6;

/** What is worked out of a mesh with UVs, at the size it has in its file: nothing but numbers, so that another thread can do it. */
export interface ChartTable {
  /** Chart coordinates of the vertices as x, 0, y: 3v, metres. */
  flat: Float64Array;
  heights: HeightTable;
  /** Its outline and seams: the edges that only one triangle has, x and y of both ends, 4 numbers each. */
  borders: Float64Array;
  /** Corners of the box about all of it, metres; x along u, y along v. */
  least: readonly [number, number];
  most: readonly [number, number];
}

export class UvChart {
  readonly ground: WorldMesh;
  readonly table: ChartTable;
  /** How large it is. */
  readonly #scale: number;
  readonly #heights: Heights;
  readonly #weights = new Float64Array(3);
  readonly #met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

  /** By the triangles of meshes, which stay the same when these are moved. */
  static readonly #known = new WeakMap<Uint32Array, ChartTable | null>();

  constructor(ground: WorldMesh, table: ChartTable) {
    this.ground = ground;
    this.table = table;
    this.#scale = ground.stand?.scale ?? 1;
    this.#heights = new Heights(table.heights);
  }

  /** Null for a mesh without UVs, or with ones that have no area. */
  static of(ground: WorldMesh): UvChart | null {
    let table = UvChart.#known.get(ground.index);
    if (table === undefined) UvChart.#known.set(ground.index, (table = ground.uv && tableOf(ground, ground.uv)));
    return table && new UvChart(ground, table);
  }

  /** Corners of the box about all of it, metres; x along u, y along v. */
  get least(): [number, number] {
    return [this.#scale * this.table.least[0], this.#scale * this.table.least[1]];
  }

  get most(): [number, number] {
    return [this.#scale * this.table.most[0], this.#scale * this.table.most[1]];
  }

  /** Its outline and seams: x and y of both ends, 4 numbers each. */
  get borders(): Float64Array {
    return this.table.borders.map((value) => this.#scale * value);
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
    weightsIn({ position: this.table.flat, index }, triangle, u, 0, v, this.#weights);
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
    const { index } = this.ground;
    const F = this.table.flat;
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
    const F = this.table.flat;
    return [p * (F[b] - F[a]) + q * (F[c] - F[a]), p * (F[b + 2] - F[a + 2]) + q * (F[c + 2] - F[a + 2])];
  }
}

/** Null where the UVs have no area. */
function tableOf(ground: WorldMesh, uv: Float32Array): ChartTable | null {
  const perUnit = metresPerUnit(ground, uv);
  if (!(perUnit > 0)) return null;
  const flat = flatten(uv, perUnit);
  const [least, most] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ];
  for (let p = 0; p < flat.length; p += 3) {
    for (const axis of [0, 1]) {
      least[axis] = Math.min(least[axis], flat[p + 2 * axis]);
      most[axis] = Math.max(most[axis], flat[p + 2 * axis]);
    }
  }
  const breadth = Math.max(most[0] - least[0], most[1] - least[1]);
  return {
    flat,
    heights: Heights.over(flat, ground.index).table,
    borders: bordersOf(flat, ground.index, WELD * Math.max(1e-9, breadth)),
    least: [least[0], least[1]],
    most: [most[0], most[1]],
  };
}

function flatten(uv: Float32Array, scale: number): Float64Array {
  const flat = new Float64Array((3 * uv.length) / 2);
  for (let v = 0; v < uv.length / 2; v++) {
    flat[3 * v] = scale * uv[2 * v];
    flat[3 * v + 2] = scale * uv[2 * v + 1];
  }
  return flat;
}

/** Metres a unit of UV, at the size that the mesh has in its file; 0 where the UVs have no area. */
function metresPerUnit({ position, index, stand }: WorldMesh, uv: Float32Array): number {
  const sum = (areas: Float64Array) => areas.reduce((total, area) => total + area, 0);
  const [world, flat] = [sum(areasOf({ position, index })), sum(areasOf({ position: flatten(uv, 1), index }))];
  return flat > 1e-12 ? Math.sqrt(world / flat) / (stand?.scale ?? 1) : 0;
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

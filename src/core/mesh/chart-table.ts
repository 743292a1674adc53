/** *How a mesh is laid flat*, by its UVs or unrolled, at the size that it has in its file. */
import { areasOf, type Points } from "./facets";
import { offBeside, triangleStretch } from "./stretch";
import { periodsOf } from "./period";
import { flatArea, unrollRound, type Unrolled } from "./unroll";
import { Heights, type HeightTable } from "./heights";

/** UVs nearer than this share of the chart are one place. */
const WELD = 1e-6;

/** What is worked out of a mesh, at the size it has in its file: nothing but numbers, so that another thread can do it. */
export interface ChartTable {
  /** The mesh's triangles by the chart's vertices, which are more than its own where it is cut open: 3m. */
  index: Uint32Array;
  /** Where the chart's vertices lie, as x, 0, y: 3 numbers each, metres. */
  flat: Float64Array;
  /** What it was laid flat by. */
  by: ChartBy;
  /** Metres a unit of UV; null where they do not count. */
  perUnit: number | null;
  /** How far apart across and down the two sides of its seam lie, metres; 0 where it does not close that way. */
  period: readonly [across: number, down: number];
  /** How true to length it is. */
  stretch: ChartStretch;
  heights: HeightTable;
  /** Its outline and seams: the edges that only one triangle has, x and y of both ends, 4 numbers each. */
  borders: Float64Array;
  /** Corners of the box about all of it, metres; x along u, y along v. */
  least: readonly [number, number];
  most: readonly [number, number];
}

/** By its UVs; by the way that it was made, or turned round an axis; or unrolled. */
export type ChartBy = "uv" | "round" | "unrolled";

/** By how much lengths are off on a chart, as a share: 0.03 for a thirtieth longer or shorter. */
export interface ChartStretch {
  /** All but a hundredth of the area is off by no more. */
  within: number;
  worst: number;
  /** Where on the chart it is worst, metres. */
  at: readonly [x: number, y: number];
}

/** Null where the UVs have no area. */
export function chartByUvs(mesh: Points, uv: Float32Array): ChartTable | null {
  const perUnit = metresPerUnit(mesh, uv);
  return perUnit > 0 ? tableOf(mesh, mesh.index, flatten(uv, perUnit), "uv", perUnit) : null;
}

/** By how far along and across each vertex lies, metres, 2v; or where a mesh was turned round an axis, by that. Null where neither is known. */
export function chartRound(mesh: Points, metric: Float64Array | undefined): ChartTable | null {
  // Rows may run either way; it is the side that the mesh shows that is seen.
  const mirrored = metric && flatArea(mesh.index, metric) > 0;
  const shown = mirrored ? metric.map((value, k) => (k % 2 === 1 ? -value : value)) : metric;
  if (shown) return tableOf(mesh, mesh.index, flatten(shown, 1), "round", null);
  const unrolled = unrollRound(mesh.position, mesh.index);
  return unrolled && tableOf(mesh, unrolled.index, flatten(unrolled.places, 1), "round", null);
}

/** As it was unrolled. */
export const chartUnrolled = (mesh: Points, { index, places }: Unrolled): ChartTable =>
  tableOf(mesh, index, flatten(places, 1), "unrolled", null);

function tableOf(
  mesh: Points,
  index: Uint32Array,
  flat: Float64Array,
  by: ChartBy,
  perUnit: number | null,
): ChartTable {
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
    index,
    flat,
    by,
    perUnit,
    period: periodsOf(mesh.position, mesh.index, index, flat, [most[0] - least[0], most[1] - least[1]]),
    stretch: chartStretch(mesh, index, flat),
    heights: Heights.over(flat, index).table,
    borders: bordersOf(flat, index, WELD * Math.max(1e-9, breadth)),
    least: [least[0], least[1]],
    most: [most[0], most[1]],
  };
}

/** So little of the area may be off by more than is said. */
const REST = 0.01;

function chartStretch(mesh: Points, index: Uint32Array, flat: Float64Array): ChartStretch {
  const area = areasOf(mesh);
  const off = triangleStretch(mesh, index, flat);
  let worst = 0;
  for (let t = 0; t < off.length; t++) if (area[t] > 0 && off[t] > off[worst]) worst = t;
  const middle = (axis: number) =>
    (flat[3 * index[3 * worst] + axis] +
      flat[3 * index[3 * worst + 1] + axis] +
      flat[3 * index[3 * worst + 2] + axis]) /
    3;
  return { within: offBeside(off, area, REST) - 1, worst: off[worst] - 1, at: [middle(0), middle(2)] };
}

function flatten(uv: ArrayLike<number>, scale: number): Float64Array {
  const flat = new Float64Array((3 * uv.length) / 2);
  for (let v = 0; v < uv.length / 2; v++) {
    flat[3 * v] = scale * uv[2 * v];
    flat[3 * v + 2] = scale * uv[2 * v + 1];
  }
  return flat;
}

/** Metres a unit of UV, at the size that the mesh has in its file; 0 where the UVs have no area. */
function metresPerUnit({ position, index }: Points, uv: Float32Array): number {
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

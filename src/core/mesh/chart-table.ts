/** *How the UVs of a mesh lay it flat*, at the size that it has in its file. */
import { areasOf, type Points } from "./facets";
import { Heights, type HeightTable } from "./heights";

/** UVs nearer than this share of the chart are one place. */
const WELD = 1e-6;

/** What is worked out of a mesh with UVs, at the size it has in its file: nothing but numbers, so that another thread can do it. */
export interface ChartTable {
  /** Chart coordinates of the vertices as x, 0, y: 3v, metres. */
  flat: Float64Array;
  /** Metres a unit of UV. */
  perUnit: number;
  heights: HeightTable;
  /** Its outline and seams: the edges that only one triangle has, x and y of both ends, 4 numbers each. */
  borders: Float64Array;
  /** Corners of the box about all of it, metres; x along u, y along v. */
  least: readonly [number, number];
  most: readonly [number, number];
}

/** Null where the UVs have no area. */
export function chartTableOf(mesh: Points, uv: Float32Array): ChartTable | null {
  const perUnit = metresPerUnit(mesh, uv);
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
    perUnit,
    heights: Heights.over(flat, mesh.index).table,
    borders: bordersOf(flat, mesh.index, WELD * Math.max(1e-9, breadth)),
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

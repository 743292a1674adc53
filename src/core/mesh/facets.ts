/** What the triangles of a mesh are by themselves: their areas and the way they face. */

/** Triangles by their corners: positions, 3v, and indices, 3m. */
export interface Points {
  position: ArrayLike<number>;
  index: Uint32Array;
}

export interface Facets {
  /** Square metres: m. */
  area: Float64Array;
  /** Unit normals, towards the side that each shows: 3m; zero for a triangle without area. */
  normal: Float64Array;
}

export function facetsOf({ position: p, index }: Points): Facets {
  const facets = { area: new Float64Array(index.length / 3), normal: new Float64Array(index.length) };
  const { area, normal } = facets;
  for (let n = 0; n < index.length; n += 3) {
    const a = 3 * index[n];
    const b = 3 * index[n + 1];
    const c = 3 * index[n + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
    const inverse = length > 0 ? 1 / length : 0;
    area[n / 3] = 0.5 * length;
    normal[n] = nx * inverse;
    normal[n + 1] = ny * inverse;
    normal[n + 2] = nz * inverse;
  }
  return facets;
}

/** The areas alone, square metres: m. */
export function areasOf({ position: p, index }: Points): Float64Array {
  const area = new Float64Array(index.length / 3);
  for (let t = 0, n = 0; t < area.length; t++, n += 3) {
    const a = 3 * index[n];
    const b = 3 * index[n + 1];
    const c = 3 * index[n + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    area[t] = 0.5 * Math.sqrt(nx * nx + ny * ny + nz * nz);
  }
  return area;
}

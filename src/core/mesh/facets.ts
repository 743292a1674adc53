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

export function facetsOf(mesh: Points): Facets {
  const facets = { area: new Float64Array(mesh.index.length / 3), normal: new Float64Array(mesh.index.length) };
  write(mesh, facets.area, facets.normal);
  return facets;
}

/** The areas alone, square metres: m. */
export function areasOf(mesh: Points): Float64Array {
  const area = new Float64Array(mesh.index.length / 3);
  write(mesh, area, null);
  return area;
}

/** The unit normals at positions on some triangles: 3n. */
export function normalsAt({ normal }: Pick<Facets, "normal">, triangle: Uint32Array): Float32Array {
  const out = new Float32Array(3 * triangle.length);
  for (let i = 0; i < triangle.length; i++) {
    const t = 3 * triangle[i];
    out[3 * i] = normal[t];
    out[3 * i + 1] = normal[t + 1];
    out[3 * i + 2] = normal[t + 2];
  }
  return out;
}

function write({ position: p, index }: Points, area: Float64Array, normal: Float64Array | null): void {
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
    area[n / 3] = 0.5 * length;
    if (!normal) continue;
    const inverse = length > 0 ? 1 / length : 0;
    normal[n] = nx * inverse;
    normal[n + 1] = ny * inverse;
    normal[n + 2] = nz * inverse;
  }
}

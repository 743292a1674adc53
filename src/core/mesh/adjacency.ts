/** Which triangles lie beside each other, by the places of their corners: seams in normals or UVs do not part them. */

/** Vertices count as one when they lie no further apart than this share of the mesh's size: a few steps of single precision. */
const TOGETHER = 2 ** -22;
/** Cells for looking them up are so many times as wide, so that few vertices are near a cell's border. */
const CELL = 64;
/** The cells' borders lie where those of a mesh's own lattice hardly do. */
const ASIDE = 0.3819660113;

/** For each vertex the first one at the same place, as near as {@link TOGETHER}: v numbers. */
export function weldedVertices(position: ArrayLike<number>): Uint32Array {
  const n = position.length / 3;
  const mask = tableSize(n) - 1;
  const head = new Int32Array(mask + 1).fill(-1);
  const next = new Int32Array(n);
  const first = new Uint32Array(n);
  const { low, size } = extentOf(position);
  const near = TOGETHER * size;
  const share = near > 0 ? 1 / (CELL * near) : 1;
  const border = near * share;
  const [lowX, lowY, lowZ] = low;
  const find = (x: number, y: number, z: number, slot: number): number => {
    let other = head[slot];
    while (
      other >= 0 &&
      (Math.abs(position[3 * other] - x) > near ||
        Math.abs(position[3 * other + 1] - y) > near ||
        Math.abs(position[3 * other + 2] - z) > near)
    )
      other = next[other];
    return other;
  };
  for (let v = 0, p = 0; v < n; v++, p += 3) {
    const [x, y, z] = [position[p], position[p + 1], position[p + 2]];
    const atX = (x - lowX) * share + ASIDE;
    const atY = (y - lowY) * share + ASIDE;
    const atZ = (z - lowZ) * share + ASIDE;
    const [i, j, k] = [Math.floor(atX), Math.floor(atY), Math.floor(atZ)];
    const own = slotOf(i, j, k) & mask;
    let found = find(x, y, z, own);
    if (found < 0) {
      const [di, dj, dk] = [beyond(atX - i, border), beyond(atY - j, border), beyond(atZ - k, border)];
      for (let corner = 1; corner < 8 && found < 0 && (di !== 0 || dj !== 0 || dk !== 0); corner++)
        found = find(
          x,
          y,
          z,
          slotOf(i + (corner & 1) * di, j + ((corner >> 1) & 1) * dj, k + (corner >> 2) * dk) & mask,
        );
    }
    first[v] = found < 0 ? v : found;
    if (found >= 0) continue;
    next[v] = head[own];
    head[own] = v;
  }
  return first;
}

/** Towards which of its neighbours a place within a cell, from 0 to 1, lies so near that it has to be looked for there. */
const beyond = (within: number, border: number): number => (within <= border ? -1 : within >= 1 - border ? 1 : 0);

function slotOf(i: number, j: number, k: number): number {
  const hash = Math.imul(i, 0x9e3779b1) ^ Math.imul(j, 0x85ebca77) ^ Math.imul(k, 0xc2b2ae3d);
  return Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d) >>> 8;
}

/** The least corner of the box round all vertices, and how long its longest side is. */
function extentOf(position: ArrayLike<number>): { low: [number, number, number]; size: number } {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let p = 0; p < position.length; p++) {
    const x = position[p];
    if (x < low[p % 3]) low[p % 3] = x;
    if (x > high[p % 3]) high[p % 3] = x;
  }
  return { low, size: Math.max(0, ...high.map((x, axis) => x - low[axis])) };
}

/** The next half-edge of the same triangle: half-edge 3t + k leads from the triangle's corner k to its next. */
export const nextOf = (h: number): number => (h % 3 === 2 ? h - 2 : h + 1);

/** There is no triangle beyond a half-edge; or several. */
export const RIM = -1;
export const CROWDED = -2;

/**
 * The half-edge of the triangle beyond each, 3m numbers, whichever way round that triangle is; {@link RIM} where there is none,
 * and for edges of no length, {@link CROWDED} where there are several.
 *
 * @param index corners of triangles, of which those at one place are one vertex
 * @param vertices how many there are
 */
export function twinsOf(index: ArrayLike<number>, vertices: number): Int32Array {
  const twins = new Int32Array(index.length).fill(RIM);
  // Edges that were met first, in chains by the lower of their two vertices.
  const head = new Int32Array(vertices).fill(-1);
  const next = new Int32Array(index.length);
  const highest = new Uint32Array(index.length);
  for (let h = 0; h < index.length; h++) {
    const a = index[h];
    const b = index[nextOf(h)];
    if (a === b) continue;
    const low = a < b ? a : b;
    const high = a < b ? b : a;
    let first = head[low];
    while (first >= 0 && highest[first] !== high) first = next[first];
    if (first < 0) {
      next[h] = head[low];
      highest[h] = high;
      head[low] = h;
      continue;
    }
    const other = twins[first];
    if (other === RIM) {
      twins[h] = first;
      twins[first] = h;
      continue;
    }
    // Three triangles at one edge: nobody can say which way it goes on.
    if (other >= 0) twins[other] = CROWDED;
    twins[first] = twins[h] = CROWDED;
  }
  return twins;
}

/**
 * The triangle beyond each half-edge, 3m numbers; -1 where there is none, or more than one. Triangles two of whose corners lie
 * at one place, as at the poles of what was turned round an axis, part nobody, and have themselves beyond their edges.
 */
export function trianglesBeyond(position: Float64Array, index: Uint32Array): Int32Array {
  const vertex = weldedVertices(position);
  const corners = new Uint32Array(index.length);
  const narrow = new Uint8Array(index.length / 3);
  for (let t = 0, c = 0; t < narrow.length; t++, c += 3) {
    const a = vertex[index[c]];
    const b = vertex[index[c + 1]];
    const d = vertex[index[c + 2]];
    const isNarrow = a === b || b === d || d === a;
    narrow[t] = isNarrow ? 1 : 0;
    corners[c] = a;
    corners[c + 1] = isNarrow ? a : b;
    corners[c + 2] = isNarrow ? a : d;
  }
  const out = twinsOf(corners, vertex.length);
  for (let t = 0, h = 0; t < narrow.length; t++) {
    for (const end = h + 3; h < end; h++) {
      if (narrow[t] === 1) out[h] = t;
      else out[h] = out[h] < 0 ? -1 : Math.floor(out[h] / 3);
    }
  }
  return out;
}

const tableSize = (entries: number): number => 2 ** Math.ceil(Math.log2(Math.max(16, 2 * entries)));

/** The same as {@link twinsOf} where both lead opposite ways; {@link RIM} also where sides change or more than two triangles meet. */
export function oppositeTwins(index: Uint32Array, count: number): Int32Array {
  return twinsOf(index, count).map((other, h) => (other >= 0 && index[other] !== index[h] ? other : RIM));
}

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

/**
 * The triangle beyond each edge, 3m numbers: edge k of a triangle leads from its corner k to the next. -1 where there is
 * none, or more than one.
 */
export function trianglesBeyond(position: Float64Array, index: Uint32Array): Int32Array {
  const vertex = weldedVertices(position);
  const beyond = new Int32Array(index.length).fill(-1);
  // Edges that were met first, in chains by the lower of their two vertices.
  const head = new Int32Array(vertex.length).fill(-1);
  const next = new Int32Array(index.length);
  const highest = new Uint32Array(index.length);
  /** Whether a second triangle has been found for an edge. */
  const closed = new Uint8Array(index.length);
  for (let e = 0, corner = 0; e < index.length; e++) {
    const a = vertex[index[e]];
    const b = vertex[index[corner === 2 ? e - 2 : e + 1]];
    corner = corner === 2 ? 0 : corner + 1;
    if (a === b) continue;
    const low = a < b ? a : b;
    const high = a < b ? b : a;
    let other = head[low];
    while (other >= 0 && highest[other] !== high) other = next[other];
    if (other < 0) {
      next[e] = head[low];
      highest[e] = high;
      head[low] = e;
    } else if (closed[other] === 1) {
      // Three triangles at one edge: nobody can say which way it goes on.
      const paired = beyond[other];
      if (paired >= 0)
        for (let k = 3 * paired; k < 3 * paired + 3; k++) if (beyond[k] === Math.floor(other / 3)) beyond[k] = -1;
      beyond[other] = -1;
    } else {
      closed[other] = 1;
      beyond[e] = Math.floor(other / 3);
      beyond[other] = Math.floor(e / 3);
    }
  }
  return beyond;
}

const tableSize = (entries: number): number => 2 ** Math.ceil(Math.log2(Math.max(16, 2 * entries)));

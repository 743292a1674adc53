/** Which triangles lie beside each other, by the places of their corners: seams in normals or UVs do not part them. */

/** For each vertex the first one at the same place: v numbers. */
export function weldedVertices(position: Float64Array): Uint32Array {
  const n = position.length / 3;
  const mask = tableSize(n) - 1;
  const table = new Int32Array(mask + 1).fill(-1);
  const first = new Uint32Array(n);
  const bits = new Int32Array(position.buffer as ArrayBuffer, position.byteOffset, 2 * position.length);
  for (let v = 0; v < n; v++) {
    let hash = 0;
    for (let k = 6 * v; k < 6 * v + 6; k++) hash = Math.imul(hash ^ bits[k], 0x9e3779b1) ^ (hash >>> 15);
    let slot = (hash ^ (hash >>> 13)) & mask;
    for (; ; slot = (slot + 1) & mask) {
      const other = table[slot];
      if (other < 0) {
        table[slot] = v;
        first[v] = v;
        break;
      }
      const [p, q] = [3 * v, 3 * other];
      if (position[p] === position[q] && position[p + 1] === position[q + 1] && position[p + 2] === position[q + 2]) {
        first[v] = other;
        break;
      }
    }
  }
  return first;
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

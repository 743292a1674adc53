/** *Half-edges*: edge k of a triangle, 3t + k, leads from its corner k to the next; its twin is the same edge of the triangle beyond. */
import { trianglesBeyond, weldedVertices } from "../adjacency";

export interface HalfEdges {
  /** The vertex at each corner, those at one place as one: 3m. */
  vertex: Uint32Array;
  /** The half-edge beyond each, leading the other way; -1 at rims, and where sides change or more than two triangles meet: 3m. */
  twin: Int32Array;
}

/** The next half-edge of the same triangle. */
export const nextOf = (h: number): number => (h % 3 === 2 ? h - 2 : h + 1);

export function halfEdgesOf(position: Float64Array, index: Uint32Array): HalfEdges {
  const welded = weldedVertices(position);
  const vertex = Uint32Array.from(index, (v) => welded[v]);
  const beyond = trianglesBeyond(position, index);
  const twin = new Int32Array(index.length).fill(-1);
  for (let h = 0; h < index.length; h++) {
    const other = beyond[h];
    if (other < 0) continue;
    for (let k = 3 * other; k < 3 * other + 3; k++)
      if (vertex[k] === vertex[nextOf(h)] && vertex[nextOf(k)] === vertex[h]) twin[h] = k;
  }
  // Of two that do not agree neither counts.
  for (let h = 0; h < twin.length; h++) if (twin[h] >= 0 && twin[twin[h]] !== h) twin[h] = -1;
  return { vertex, twin };
}

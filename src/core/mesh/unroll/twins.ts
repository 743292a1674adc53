/** *Half-edges*: edge k of a triangle, 3t + k, leads from its corner k to the next; its twin is the same edge of the triangle beyond. */
import { oppositeTwins, weldedVertices } from "../adjacency";

export { nextOf } from "../adjacency";

export interface HalfEdges {
  /** The vertex at each corner, those at one place as one: 3m. */
  vertex: Uint32Array;
  /** The half-edge beyond each, leading the other way; -1 at rims, and where sides change or more than two triangles meet: 3m. */
  twin: Int32Array;
}

export function halfEdgesOf(position: Float64Array, index: Uint32Array): HalfEdges {
  const welded = weldedVertices(position);
  const vertex = index.map((v) => welded[v]);
  return { vertex, twin: oppositeTwins(vertex, welded.length) };
}

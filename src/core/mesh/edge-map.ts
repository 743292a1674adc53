/**
 * *The edges of a mesh*, each once, whatever seams in normals or UVs part it: which vertices they join, which triangles lie
 * beside them, how the mesh bends there, and which of them only cut a face of four corners in two.
 */
import { facetsOf } from "./facets";
import { weldedVertices } from "./adjacency";

export interface EdgeMap {
  count: number;
  /** The welded vertices that each joins, in the order of its first triangle: 2n. */
  ends: Uint32Array;
  /** The triangles beside each, -1 for none: 2n. More than two are not told apart. */
  sides: Int32Array;
  /** The edges of each triangle: 3m. */
  ofTriangle: Uint32Array;
  /** By how much the mesh bends there, radians; 0 at a rim: n. */
  bend: Float32Array;
  /** Whether it is the diagonal of a face: n. */
  diagonal: Uint8Array;
  /** Edges by their vertices: those of vertex `v` are `items[starts[v]]` to before `items[starts[v + 1]]`. */
  starts: Uint32Array;
  items: Uint32Array;
}

/** Two triangles that bend by less than this, radians, and have their longest edge in common, are a face of four corners. */
const FLAT = 0.35;

/** The edges of a mesh in any coordinates: turned, moved or sized it has the same. */
export function edgeMapOf(position: Float64Array, index: Uint32Array): EdgeMap {
  const vertex = weldedVertices(position);
  const vertices = position.length / 3;
  const byEnds = new Map<number, number>();
  const ends: number[] = [];
  const sides: number[] = [];
  const ofTriangle = new Uint32Array(index.length);
  for (let e = 0; e < index.length; e++) {
    const a = vertex[index[e]];
    const b = vertex[index[e % 3 === 2 ? e - 2 : e + 1]];
    const name = Math.min(a, b) * vertices + Math.max(a, b);
    let edge = byEnds.get(name);
    const triangle = Math.floor(e / 3);
    if (edge === undefined) {
      byEnds.set(name, (edge = ends.length / 2));
      ends.push(a, b);
      sides.push(triangle, -1);
    } else if (sides[2 * edge + 1] < 0 && sides[2 * edge] !== triangle) sides[2 * edge + 1] = triangle;
    ofTriangle[e] = edge;
  }
  const count = ends.length / 2;
  const map: EdgeMap = {
    count,
    ends: Uint32Array.from(ends),
    sides: Int32Array.from(sides),
    ofTriangle,
    bend: new Float32Array(count),
    diagonal: new Uint8Array(count),
    ...byVertex(ends, vertices),
  };
  measure(map, position, index);
  return map;
}

function byVertex(ends: readonly number[], vertices: number): Pick<EdgeMap, "starts" | "items"> {
  const starts = new Uint32Array(vertices + 1);
  for (const v of ends) starts[v + 1]++;
  for (let v = 0; v < vertices; v++) starts[v + 1] += starts[v];
  const items = new Uint32Array(ends.length);
  const next = starts.slice();
  ends.forEach((v, k) => (items[next[v]++] = k >> 1));
  return { starts, items };
}

function measure(map: EdgeMap, position: Float64Array, index: Uint32Array): void {
  const { normal } = facetsOf({ position, index });
  const lengthOf = (edge: number): number => {
    const [p, q] = [3 * map.ends[2 * edge], 3 * map.ends[2 * edge + 1]];
    return Math.hypot(position[p] - position[q], position[p + 1] - position[q + 1], position[p + 2] - position[q + 2]);
  };
  const longest = (triangle: number): number =>
    [0, 1, 2].map((k) => map.ofTriangle[3 * triangle + k]).reduce((a, b) => (lengthOf(b) > lengthOf(a) ? b : a));
  for (let edge = 0; edge < map.count; edge++) {
    const [s, t] = [map.sides[2 * edge], map.sides[2 * edge + 1]];
    if (t < 0) continue;
    const along = [0, 1, 2].reduce((sum, axis) => sum + normal[3 * s + axis] * normal[3 * t + axis], 0);
    map.bend[edge] = Math.acos(Math.max(-1, Math.min(1, along)));
    map.diagonal[edge] = map.bend[edge] < FLAT && longest(s) === edge && longest(t) === edge ? 1 : 0;
  }
}

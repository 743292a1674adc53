/** *One part of a mesh that is cut open*, with corners of its own where it is: what is laid flat as one. */
import { minimumDegree } from "../../math";
import { asFlat } from "../stretch";
import { isRim, type Cut } from "./cut";
import { nextOf } from "./twins";

export interface Disk {
  /** Triangles of the mesh: m. */
  triangles: Uint32Array;
  /** Its own vertices at their corners: 3m. */
  corner: Uint32Array;
  count: number;
  /** The mesh's vertex that each was: n. */
  vertex: Uint32Array;
  /** Corners of each triangle as it lies flat by itself, seen from its front: x of the second, x and y of the third, metres: 3m. */
  flat: Float64Array;
  /** Half the cotangent of the angle opposite to each edge, by half-edges: 3m. */
  weight: Float64Array;
  /** When each vertex is eliminated: n. */
  order: Uint32Array;
}

const own: [number, number, number] = [0, 0, 0];

export function diskOf(cut: Cut, members: readonly number[]): Disk {
  const triangles = Uint32Array.from(members);
  const { corner, vertex } = ownCorners(cut, triangles);
  const m = triangles.length;
  const [flat, weight] = [new Float64Array(3 * m), new Float64Array(3 * m)];
  for (let t = 0; t < m; t++) layFlat(cut, triangles[t], flat, weight, 3 * t);
  const { start, neighbour } = neighboursOf(corner, vertex.length);
  const order = minimumDegree(start, neighbour);
  return { triangles, corner, count: vertex.length, vertex, flat, weight, order };
}

/** Corners at one vertex are one where triangles without a rim between them lead from one to the other. */
function ownCorners(cut: Cut, triangles: Uint32Array): { corner: Uint32Array; vertex: Uint32Array } {
  const { vertex, twin } = cut;
  const local = new Int32Array(twin.length / 3);
  const root = new Uint32Array(3 * triangles.length);
  for (let i = 0; i < triangles.length; i++) local[triangles[i]] = i;
  for (let c = 0; c < root.length; c++) root[c] = c;
  const find = (c: number): number => {
    while (root[c] !== c) c = root[c] = root[root[c]];
    return c;
  };
  const own = (h: number) => 3 * local[Math.floor(h / 3)] + (h % 3);
  for (let i = 0; i < triangles.length; i++) {
    for (let k = 0; k < 3; k++) {
      const h = 3 * triangles[i] + k;
      if (isRim(cut, h) || twin[h] < h) continue;
      root[find(3 * i + k)] = find(own(nextOf(twin[h])));
      root[find(own(nextOf(h)))] = find(own(twin[h]));
    }
  }
  const number = new Int32Array(root.length).fill(-1);
  const [corner, was]: [Uint32Array, number[]] = [new Uint32Array(root.length), []];
  for (let c = 0; c < root.length; c++) {
    const r = find(c);
    if (number[r] < 0) {
      number[r] = was.length;
      was.push(vertex[3 * triangles[Math.floor(c / 3)] + (c % 3)]);
    }
    corner[c] = number[r];
  }
  return { corner, vertex: Uint32Array.from(was) };
}

function layFlat({ vertex, position: P }: Cut, t: number, flat: Float64Array, weight: Float64Array, o: number): void {
  const [a, b, c] = [3 * vertex[3 * t], 3 * vertex[3 * t + 1], 3 * vertex[3 * t + 2]];
  if (!asFlat(P, a, b, c, own)) {
    // One without area follows its neighbours.
    weight.fill(1e-6, o, o + 3);
    return;
  }
  flat.set(own, o);
  const [side, along, high] = own;
  const twice = 2 * side * high;
  // Opposite to the edges a to b, b to c and c to a lie c, a and b.
  weight[o] = (along * (along - side) + high * high) / twice;
  weight[o + 1] = (side * along) / twice;
  weight[o + 2] = (side * (side - along)) / twice;
}

/** The vertices beside each of n, those of v from `start[v]` to `start[v + 1]`; across an edge with two sides twice. */
export function neighboursOf(corner: Uint32Array, n: number): { start: Int32Array; neighbour: Uint32Array } {
  const start = new Int32Array(n + 1);
  for (let h = 0; h < corner.length; h++) {
    start[corner[h] + 1]++;
    start[corner[nextOf(h)] + 1]++;
  }
  for (let v = 0; v < n; v++) start[v + 1] += start[v];
  const next = start.slice(0, n);
  const neighbour = new Uint32Array(start[n]);
  for (let h = 0; h < corner.length; h++) {
    const [a, b] = [corner[h], corner[nextOf(h)]];
    neighbour[next[a]++] = b;
    neighbour[next[b]++] = a;
  }
  return { start, neighbour };
}

/**
 * *Where a mesh is cut open* so that each of its parts is a disk, which can be laid flat: at sharp edges where they part it
 * into few pieces, and through what still closes round. There triangles are taken from one outwards, each across one edge; the
 * edges that nobody came across, without dead ends, are the cut (X. Gu, S. Gortler, H. Hoppe, *Geometry Images*, SIGGRAPH
 * 2002). A ball has none left, and is cut along a way between two far ends.
 */
import { Heap } from "../../math";
import { nextOf, type HalfEdges } from "./twins";

/** Edges sharper than this part a mesh, radians, but only where it comes into so few parts by them. */
const SHARP = (50 * Math.PI) / 180;
const FEW_PARTS = 6;

export interface Cut extends HalfEdges {
  position: Float64Array;
  /** 1 for half-edges that are cut open: 3m. */
  seam: Uint8Array;
}

/** Half-edges at which a part ends: rims and seams. */
export const isRim = ({ twin, seam }: Pick<Cut, "twin" | "seam">, h: number): boolean => twin[h] < 0 || seam[h] === 1;

/** The part that each triangle belongs to, counted from 0: m. */
export function partsOf(cut: Pick<Cut, "twin" | "seam">): { part: Int32Array; count: number } {
  const { twin } = cut;
  const part = new Int32Array(twin.length / 3).fill(-1);
  let count = 0;
  for (let first = 0; first < part.length; first++) {
    if (part[first] >= 0) continue;
    const stack = [first];
    part[first] = count;
    while (stack.length > 0) {
      const t = stack.pop()!;
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        if (isRim(cut, h)) continue;
        const other = Math.floor(twin[h] / 3);
        if (part[other] >= 0) continue;
        part[other] = count;
        stack.push(other);
      }
    }
    count++;
  }
  return { part, count };
}

/**
 * @param normal of the triangles: 3m
 * @param by edges to cut along instead of sharp ones, as the vertices at both ends: 2s
 */
export function cutOpen(position: Float64Array, edges: HalfEdges, normal: Float64Array, by: Uint32Array): Cut {
  const cut: Cut = { ...edges, position, seam: new Uint8Array(edges.twin.length) };
  if (by.length > 0) cutBy(cut, by);
  else cutSharp(cut, normal, partsOf(cut).count);
  const { part, count } = partsOf(cut);
  const members: number[][] = Array.from({ length: count }, () => []);
  part.forEach((p, t) => members[p].push(t));
  for (const triangles of members) toDisk(cut, triangles);
  return cut;
}

/** Cuts along edges that are named by their ends. */
function cutBy({ position, vertex, twin, seam }: Cut, by: Uint32Array): void {
  const count = position.length / 3;
  const nameOf = (a: number, b: number) => Math.min(a, b) * count + Math.max(a, b);
  const named = new Set<number>();
  for (let k = 0; k + 1 < by.length; k += 2) named.add(nameOf(by[k], by[k + 1]));
  for (let h = 0; h < twin.length; h++)
    if (twin[h] >= 0 && named.has(nameOf(vertex[h], vertex[nextOf(h)]))) seam[h] = 1;
}

/** Cuts along sharp edges between different parts; not at all where they come to too many. */
function cutSharp(cut: Cut, normal: Float64Array, whole: number): void {
  const { twin, seam } = cut;
  const least = Math.cos(SHARP);
  for (let h = 0; h < twin.length; h++) {
    if (twin[h] < 0) continue;
    const [a, b] = [3 * Math.floor(h / 3), 3 * Math.floor(twin[h] / 3)];
    const dot = normal[a] * normal[b] + normal[a + 1] * normal[b + 1] + normal[a + 2] * normal[b + 2];
    if (dot < least) seam[h] = 1;
  }
  const { part, count } = partsOf(cut);
  const few = count > whole && count <= Math.max(FEW_PARTS, whole);
  for (let h = 0; h < twin.length; h++)
    if (seam[h] === 1 && (!few || part[Math.floor(h / 3)] === part[Math.floor(twin[h] / 3)])) seam[h] = 0;
}

/** Marks the seams that make a disk of some triangles that hang together. */
function toDisk(cut: Cut, triangles: readonly number[]): void {
  const loops = rimLoops(cut, triangles);
  if (loops.length === 0 || handlesOf(cut, triangles, loops.length) > 0) return cutRound(cut, triangles);
  joinLoops(cut, triangles, loops);
}

/** The vertices of each rim, one loop after the other; two that touch are one. */
function rimLoops(cut: Cut, triangles: readonly number[]): number[][] {
  const beside = new Map<number, number[]>();
  for (const t of triangles) {
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (!isRim(cut, h)) continue;
      const ends = [cut.vertex[h], cut.vertex[nextOf(h)]];
      ends.forEach((v, k) => {
        const list = beside.get(v);
        if (list) list.push(ends[1 - k]);
        else beside.set(v, [ends[1 - k]]);
      });
    }
  }
  const loops: number[][] = [];
  const seen = new Set<number>();
  for (const first of beside.keys()) {
    if (seen.has(first)) continue;
    const loop = [first];
    seen.add(first);
    for (let k = 0; k < loop.length; k++) {
      for (const v of beside.get(loop[k])!) {
        if (seen.has(v)) continue;
        seen.add(v);
        loop.push(v);
      }
    }
    loops.push(loop);
  }
  return loops;
}

/** How many handles some triangles with so many rims have, by Euler's formula. */
function handlesOf(cut: Cut, triangles: readonly number[], rims: number): number {
  const vertices = new Set<number>();
  let edges = 0;
  for (const t of triangles) {
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      vertices.add(cut.vertex[h]);
      if (isRim(cut, h) || h < cut.twin[h]) edges++;
    }
  }
  return (2 - rims - (vertices.size - edges + triangles.length)) / 2;
}

/** Joins all rims by the shortest ways from those that are joined to the next. */
function joinLoops(cut: Cut, triangles: readonly number[], loops: readonly number[][]): void {
  const roads = roadsOf(cut, triangles);
  const joined = new Set(loops[0]);
  const open = new Set(loops.slice(1));
  while (open.size > 0) {
    const { far, way } = pathsFrom(cut, roads, joined);
    let [next, end]: [number[] | null, number] = [null, -1];
    for (const loop of open) for (const v of loop) if (end < 0 || far[v] < far[end]) [next, end] = [loop, v];
    for (const v of cutAlong(cut, way, end)) joined.add(v);
    for (const v of next!) joined.add(v);
    open.delete(next!);
  }
}

/** Cuts what has handles, or no rim at all. */
function cutRound(cut: Cut, triangles: readonly number[]): void {
  const { vertex, twin, seam } = cut;
  const crossed = crossedFrom(cut, triangles);
  const isLeft = (h: number) => crossed[h] === 0;
  // Dead ends are none: an edge that leads to a vertex where nothing goes on is taken back, until none is left.
  const degree = new Map<number, number>();
  const at = new Map<number, number[]>();
  let [rims, left] = [0, 0];
  for (const t of triangles) {
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const rim = isRim(cut, h);
      if (rim) rims++;
      else if (!isLeft(h) || h > twin[h]) continue;
      else left++;
      for (const v of [vertex[h], vertex[nextOf(h)]]) {
        degree.set(v, (degree.get(v) ?? 0) + 1);
        if (rim) continue;
        const list = at.get(v);
        if (list) list.push(h);
        else at.set(v, [h]);
      }
    }
  }
  const ends = [...degree].filter(([, n]) => n === 1).map(([v]) => v);
  for (let v = ends.pop(); v !== undefined; v = ends.pop()) {
    const h = at.get(v)?.find(isLeft);
    if (h === undefined) continue;
    crossed[h] = crossed[twin[h]] = 1;
    left--;
    for (const end of [vertex[h], vertex[nextOf(h)]]) {
      const now = degree.get(end)! - 1;
      degree.set(end, now);
      if (now === 1) ends.push(end);
    }
  }
  if (rims === 0 && left === 0) return cutThrough(cut, triangles);
  for (const list of at.values()) for (const h of list) if (isLeft(h)) seam[h] = seam[twin[h]] = 1;
}

/** Takes triangles from the first one outwards, nearest first; marks the half-edges that were come across. */
function crossedFrom(cut: Cut, triangles: readonly number[]): Uint8Array {
  const { vertex, twin, position: P } = cut;
  const crossed = new Uint8Array(twin.length);
  const far = new Float64Array(twin.length / 3).fill(Infinity);
  const taken = new Uint8Array(far.length);
  const way = new Int32Array(far.length).fill(-1);
  const heap = new Heap(far);
  const [start] = triangles;
  far[start] = 0;
  heap.push(start);
  const middle = (t: number, axis: number) =>
    (P[3 * vertex[3 * t] + axis] + P[3 * vertex[3 * t + 1] + axis] + P[3 * vertex[3 * t + 2] + axis]) / 3;
  for (let t = heap.pop(); t >= 0; t = heap.pop()) {
    if (taken[t] === 1) continue;
    taken[t] = 1;
    if (way[t] >= 0) crossed[way[t]] = crossed[twin[way[t]]] = 1;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (isRim(cut, h)) continue;
      const other = Math.floor(twin[h] / 3);
      if (taken[other] === 1) continue;
      let squared = 0;
      for (let axis = 0; axis < 3; axis++) squared += (middle(t, axis) - middle(other, axis)) ** 2;
      const there = far[t] + Math.sqrt(squared);
      if (there >= far[other]) continue;
      far[other] = there;
      way[other] = h;
      heap.push(other);
    }
  }
  return crossed;
}

/** Cuts what is closed all round along a way between two far ends. */
function cutThrough(cut: Cut, triangles: readonly number[]): void {
  const { vertex } = cut;
  const roads = roadsOf(cut, triangles);
  const one = farthest(pathsFrom(cut, roads, [vertex[3 * triangles[0]]]).far);
  const paths = pathsFrom(cut, roads, [one]);
  cutAlong(cut, paths.way, farthest(paths.far));
}

const farthest = (far: Float64Array): number =>
  far.reduce((best, x, v) => (Number.isFinite(x) && !(x <= far[best]) ? v : best), far.findIndex(Number.isFinite));

/** The half-edges that lead away from each vertex, both ways of every edge: those of v are `start[v]` to `start[v + 1]`. */
export interface Roads {
  start: Int32Array;
  edge: Int32Array;
}

export function roadsOf({ vertex, position }: Cut, triangles: readonly number[]): Roads {
  const start = new Int32Array(position.length / 3 + 1);
  for (const t of triangles) for (let h = 3 * t; h < 3 * t + 3; h++) start[vertex[h] + 1] += 2;
  for (let v = 1; v < start.length; v++) start[v] += start[v - 1];
  const next = start.slice(0, -1);
  const edge = new Int32Array(6 * triangles.length);
  for (const t of triangles) {
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      edge[next[vertex[h]]++] = h;
      edge[next[vertex[nextOf(h)]]++] = h;
    }
  }
  return { start, edge };
}

/**
 * How far every vertex is from the nearest of some along edges, and by which half-edge the way comes to it.
 *
 * @param most metres; what is farther is infinitely far
 */
export function pathsFrom(
  { vertex, position: P }: Cut,
  { start, edge }: Roads,
  starts: Iterable<number>,
  most = Infinity,
): { far: Float64Array; way: Int32Array } {
  const far = new Float64Array(P.length / 3).fill(Infinity);
  const way = new Int32Array(far.length).fill(-1);
  const heap = new Heap(far);
  for (const v of starts) {
    far[v] = 0;
    heap.push(v);
  }
  for (let v = heap.pop(); v >= 0; v = heap.pop()) {
    for (let p = start[v]; p < start[v + 1]; p++) {
      const h = edge[p];
      const other = vertex[h] === v ? vertex[nextOf(h)] : vertex[h];
      const dx = P[3 * v] - P[3 * other];
      const dy = P[3 * v + 1] - P[3 * other + 1];
      const dz = P[3 * v + 2] - P[3 * other + 2];
      const there = far[v] + Math.sqrt(dx * dx + dy * dy + dz * dz);
      if (there >= far[other] || there > most) continue;
      far[other] = there;
      way[other] = h;
      heap.push(other);
    }
  }
  return { far, way };
}

/** Cuts the way back from a vertex to where paths began; the vertices on it. */
export function cutAlong({ vertex, twin, seam }: Cut, way: Int32Array, to: number): number[] {
  const on = [to];
  for (let v = to; way[v] >= 0;) {
    const h = way[v];
    if (twin[h] >= 0) seam[h] = seam[twin[h]] = 1;
    v = vertex[h] === v ? vertex[nextOf(h)] : vertex[h];
    on.push(v);
  }
  return on;
}

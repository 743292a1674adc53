/** Lines from the edges of a mesh: its rim, where it bends, edges one behind the other or beside each other, rows of its UVs. */
import { type EdgeMap, type WorldMesh } from "../mesh";
import { rowTrack } from "./rows";
import type { LaidOnEdges, LaidTrack } from "../line";
import { squaredToSegment, type Vec3 } from "../math";

/** Edges go on one behind the other as long as they turn by less than this, radians. */
const STRAIGHT = Math.cos(1.22);

/** What is walked along: vertices, or the middles of edges. */
interface Chain {
  points: Vec3[];
  normals: Vec3[];
  closed: boolean;
}

export function edgeTrack(laid: LaidOnEdges, ground: WorldMesh): LaidTrack | null {
  const chain = laid.follow === "u" || laid.follow === "v" ? rowTrack(laid, ground) : chainOf(laid, ground);
  if (!chain || chain.points.length < 2) return null;
  const points = chain.points.flat();
  const normals = chain.normals.flat();
  if (laid.reverse) turnRound(points, normals, chain.closed);
  return {
    points: Float64Array.from(points),
    normals: Float32Array.from(normals),
    closed: chain.closed,
    knots: null,
  };
}

/** The other way, from the same start where the line is closed. */
function turnRound(points: number[], normals: number[], closed: boolean): void {
  for (const list of [points, normals]) {
    const threes = Array.from({ length: list.length / 3 }, (_, i) => list.slice(3 * i, 3 * i + 3)).reverse();
    if (closed) threes.unshift(threes.pop()!);
    threes.flat().forEach((value, i) => (list[i] = value));
  }
}

/**
 * The edges of a mesh that a line follows, as the vertices at both ends, those at one place as one: 2s. None for what does not
 * go along edges.
 *
 * @param ground the mesh where it is not moved
 */
export function edgesFollowed(laid: LaidOnEdges, ground: WorldMesh): Uint32Array {
  const walked = ALONG_EDGES.has(laid.follow) ? walkedBy(laid, ground) : null;
  if (!walked) return new Uint32Array(0);
  const { vertices, closed } = walked;
  const ends = vertices.flatMap((v, i) =>
    i > 0 ? [vertices[i - 1], v] : closed ? [vertices[vertices.length - 1], v] : [],
  );
  return Uint32Array.from(ends);
}

/** What lines follow that leads from vertex to vertex, so that a mesh can be cut open there. */
export const ALONG_EDGES: ReadonlySet<string> = new Set<LaidOnEdges["follow"]>(["loop", "sharp", "boundary"]);

function chainOf(laid: LaidOnEdges, ground: WorldMesh): Chain | null {
  if (laid.follow === "ring") {
    const { edges } = ground.rest;
    const start = nearestEdge(edges, ground, laid.at, (edge) => edges.diagonal[edge] === 0);
    return start < 0 ? null : ringFrom(edges, ground, start);
  }
  const walked = walkedBy(laid, ground);
  return walked && verticesOf(ground, walked, laid.at);
}

/** The vertices that a line leads through from one to the next; null where there are no such edges. */
function walkedBy({ follow, at, bend }: LaidOnEdges, ground: WorldMesh): Walked | null {
  const edges = ground.rest.edges;
  const taken: Readonly<Record<string, (edge: number) => boolean>> = {
    boundary: (edge) => edges.sides[2 * edge + 1] < 0,
    sharp: (edge) => edges.bend[edge] >= bend,
    loop: (edge) => edges.diagonal[edge] === 0,
  };
  const takes = taken[follow];
  const start = nearestEdge(edges, ground, at, takes);
  if (start < 0) return null;
  const next = {
    boundary: (edge: number, vertex: number) => onRim(edges, edge, vertex, takes),
    sharp: (edge: number, vertex: number) => straightest(edges, ground, edge, vertex, takes),
    loop: (edge: number, vertex: number) =>
      straightest(edges, ground, edge, vertex, (one) => takes(one) && !besideEachOther(edges, one, edge)),
  }[follow as "boundary" | "sharp" | "loop"];
  return walk(edges, start, next);
}

/** The edge of a kind that passes nearest to a point of the mesh's own coordinates; -1 for none. */
function nearestEdge(edges: EdgeMap, ground: WorldMesh, [x, y, z]: Vec3, takes: (edge: number) => boolean): number {
  const P = ground.own;
  const k = ground.stand?.scale ?? 1;
  const [px, py, pz] = [k * x, k * y, k * z];
  let [best, least] = [-1, Infinity];
  for (let edge = 0; edge < edges.count; edge++) {
    if (!takes(edge)) continue;
    const [a, b] = [3 * edges.ends[2 * edge], 3 * edges.ends[2 * edge + 1]];
    const [dx, dy, dz] = [P[b] - P[a], P[b + 1] - P[a + 1], P[b + 2] - P[a + 2]];
    const far = squaredToSegment(px - P[a], py - P[a + 1], pz - P[a + 2], dx, dy, dz);
    if (far < least) [best, least] = [edge, far];
  }
  return best;
}

type Next = (edge: number, vertex: number) => number;

/** Vertices one after the other, and whether it is all round. */
interface Walked {
  vertices: number[];
  closed: boolean;
}

/** The vertices from one end to the other, or all round, of edges that follow each other. */
function walk(edges: EdgeMap, start: number, next: Next): Walked {
  const [first, second] = [edges.ends[2 * start], edges.ends[2 * start + 1]];
  const seen = new Set([start]);
  const vertices = [first, second];
  const onwards = (from: number, add: (vertex: number) => void): boolean => {
    let [edge, vertex] = [start, from];
    for (;;) {
      edge = next(edge, vertex);
      if (edge < 0) return false;
      if (edge === start) return true;
      if (seen.has(edge)) return false;
      seen.add(edge);
      vertex = otherEnd(edges, edge, vertex);
      add(vertex);
    }
  };
  if (onwards(second, (vertex) => vertices.push(vertex))) {
    vertices.pop();
    return { vertices, closed: true };
  }
  const before: number[] = [];
  onwards(first, (vertex) => before.push(vertex));
  return { vertices: [...before.reverse(), ...vertices], closed: false };
}

const otherEnd = ({ ends }: EdgeMap, edge: number, vertex: number): number =>
  ends[2 * edge] === vertex ? ends[2 * edge + 1] : ends[2 * edge];

const edgesAt = ({ starts, items }: EdgeMap, vertex: number): Uint32Array =>
  items.subarray(starts[vertex], starts[vertex + 1]);

/** The rim goes on with the edge that has the mesh on the same side. */
function onRim(edges: EdgeMap, edge: number, vertex: number, takes: (edge: number) => boolean): number {
  const ahead = edges.ends[2 * edge + 1] === vertex;
  for (const other of edgesAt(edges, vertex)) {
    if (other !== edge && takes(other) && edges.ends[2 * other + (ahead ? 0 : 1)] === vertex) return other;
  }
  return -1;
}

/** The edge that goes on as straight as can be; of two edges alone the other one, however it turns. */
function straightest(
  edges: EdgeMap,
  ground: WorldMesh,
  edge: number,
  vertex: number,
  takes: (edge: number) => boolean,
): number {
  const P = ground.own;
  const others = [...edgesAt(edges, vertex)].filter((other) => other !== edge && takes(other));
  const way = (from: number, to: number): Vec3 => {
    const v: Vec3 = [P[3 * to] - P[3 * from], P[3 * to + 1] - P[3 * from + 1], P[3 * to + 2] - P[3 * from + 2]];
    const length = Math.hypot(...v) || 1;
    return [v[0] / length, v[1] / length, v[2] / length];
  };
  const came = way(otherEnd(edges, edge, vertex), vertex);
  let [best, most] = [-1, STRAIGHT];
  for (const other of others) {
    const goes = way(vertex, otherEnd(edges, other, vertex));
    const along = came[0] * goes[0] + came[1] * goes[1] + came[2] * goes[2];
    if (along > most) [best, most] = [other, along];
  }
  return best;
}

/** Whether two edges belong to one face of three or four corners. */
function besideEachOther(edges: EdgeMap, a: number, b: number): boolean {
  const faces = (edge: number) =>
    [edges.sides[2 * edge], edges.sides[2 * edge + 1]].filter((t) => t >= 0).map((t) => faceOf(edges, t));
  const own = faces(b).flat();
  return faces(a)
    .flat()
    .some((t) => own.includes(t));
}

/** The triangles of the face that a triangle belongs to: itself, and the one beyond its diagonal. */
function faceOf(edges: EdgeMap, triangle: number): number[] {
  for (let k = 0; k < 3; k++) {
    const edge = edges.ofTriangle[3 * triangle + k];
    if (edges.diagonal[edge] === 0) continue;
    const [s, t] = [edges.sides[2 * edge], edges.sides[2 * edge + 1]];
    return [triangle, s === triangle ? t : s];
  }
  return [triangle];
}

/** Across faces of four corners, from the middle of each edge to that of the one opposite. */
function ringFrom(edges: EdgeMap, ground: WorldMesh, start: number): Chain {
  const crossed = (edge: number, from: number): [edge: number, face: number] | null => {
    const face = faceOf(edges, from);
    if (face.length < 2) return null;
    const [a, b] = [edges.ends[2 * edge], edges.ends[2 * edge + 1]];
    for (const triangle of face) {
      for (let k = 0; k < 3; k++) {
        const other = edges.ofTriangle[3 * triangle + k];
        const ends = [edges.ends[2 * other], edges.ends[2 * other + 1]];
        if (edges.diagonal[other] === 1 || ends.includes(a) || ends.includes(b)) continue;
        const [s, t] = [edges.sides[2 * other], edges.sides[2 * other + 1]];
        return [other, s === triangle ? t : s];
      }
    }
    return null;
  };
  const seen = new Set([start]);
  const onwards = (side: number): { edges: number[]; closed: boolean } => {
    const found: number[] = [];
    let [edge, face] = [start, side];
    while (face >= 0) {
      const next = crossed(edge, face);
      if (!next) break;
      [edge, face] = next;
      if (edge === start) return { edges: found, closed: true };
      if (seen.has(edge)) break;
      seen.add(edge);
      found.push(edge);
    }
    return { edges: found, closed: false };
  };
  const on = onwards(edges.sides[2 * start]);
  const back = on.closed ? [] : onwards(edges.sides[2 * start + 1]).edges;
  const ring = [...back.reverse(), start, ...on.edges];
  const P = ground.position;
  const halfway = (edge: number, values: ArrayLike<number>): Vec3 => {
    const [a, b] = [3 * edges.ends[2 * edge], 3 * edges.ends[2 * edge + 1]];
    return [0, 1, 2].map((axis) => (values[a + axis] + values[b + axis]) / 2) as unknown as Vec3;
  };
  return {
    points: ring.map((edge) => halfway(edge, P)),
    normals: ring.map((edge) => unit(halfway(edge, ground.vertexNormals))),
    closed: on.closed,
  };
}

const unit = ([x, y, z]: Vec3): Vec3 => {
  const length = Math.hypot(x, y, z);
  return length > 0 ? [x / length, y / length, z / length] : [0, 1, 0];
};

/** Vertices as points; of a closed chain the one nearest to where it was taken comes first. */
function verticesOf(ground: WorldMesh, { vertices, closed }: Walked, at: Vec3): Chain {
  const k = ground.stand?.scale ?? 1;
  const P = ground.own;
  const far = (v: number) => Math.hypot(P[3 * v] - k * at[0], P[3 * v + 1] - k * at[1], P[3 * v + 2] - k * at[2]);
  const first = closed ? vertices.reduce((best, v, i) => (far(v) < far(vertices[best]) ? i : best), 0) : 0;
  const turned = [...vertices.slice(first), ...vertices.slice(0, first)];
  const three = (values: ArrayLike<number>, v: number): Vec3 => [values[3 * v], values[3 * v + 1], values[3 * v + 2]];
  return {
    points: turned.map((v) => three(ground.position, v)),
    normals: turned.map((v) => three(ground.vertexNormals, v)),
    closed,
  };
}

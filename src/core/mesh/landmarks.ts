/** *Places of a mesh that a hand means*: corners, middles of edges, centres of faces and of holes. */
import type { Vec3 } from "../math";
import { add, cross, lengthOf, normalize, scale, subtract, vectorAt } from "../math";
import { areasOf, facetsOf } from "./facets";
import type { EdgeMap } from "./edge-map";
import type { RestMesh } from "./rest-mesh";

export interface Landmark {
  /** In the mesh's own coordinates. */
  position: Vec3;
  /** Unit: away from the face, or along the axis of a hole, out of the side that was asked. */
  direction: Vec3;
  what: "corner" | "middle of an edge" | "centre of a face" | "centre of a hole";
}

/** Triangles that bend by less than this, radians, are one face. */
const FLAT = 0.02;
/** Faces of more triangles than this are looked at no further. */
const MOST = 20_000;

/** The landmarks of the face that a triangle is part of, and of the holes that open in it or at it. */
export function landmarksAt(rest: RestMesh, triangle: number): Landmark[] {
  const { mesh, edges } = rest;
  const face = faceOf(edges, triangle);
  const { normal } = facetsOf({ position: mesh.position, index: corners(mesh.index, face) });
  const areas = areasOf({ position: mesh.position, index: corners(mesh.index, face) });
  const direction = normalize(
    face.reduce<Vec3>((sum, _, i) => add(sum, scale(vectorAt(normal, i), areas[i])), [0, 0, 0]),
    [0, 1, 0],
  );
  const at = (vertex: number): Vec3 => vectorAt(mesh.position, vertex);
  const members = new Set(face);
  const rim = face
    .flatMap((t) => [0, 1, 2].map((k) => edges.ofTriangle[3 * t + k]))
    .filter((edge) => !beside(edges, edge).every((t) => members.has(t)) || isOpen(edges, edge));
  const vertices = [...new Set(rim.flatMap((edge) => [edges.ends[2 * edge], edges.ends[2 * edge + 1]]))];
  return [
    ...holesIn(edges, new Set(rim), at, direction),
    { position: middleOf(mesh, face, areas), direction, what: "centre of a face" },
    ...vertices.map((v): Landmark => ({ position: at(v), direction, what: "corner" })),
    ...[...new Set(rim)].map((edge): Landmark => {
      const [a, b] = [at(edges.ends[2 * edge]), at(edges.ends[2 * edge + 1])];
      return { position: scale(add(a, b), 0.5), direction, what: "middle of an edge" };
    }),
  ];
}

const corners = (index: Uint32Array, face: readonly number[]): Uint32Array =>
  Uint32Array.from(face.flatMap((t) => [index[3 * t], index[3 * t + 1], index[3 * t + 2]]));

const beside = ({ sides }: EdgeMap, edge: number): number[] =>
  [sides[2 * edge], sides[2 * edge + 1]].filter((t) => t >= 0);
const isOpen = ({ sides }: EdgeMap, edge: number): boolean => sides[2 * edge + 1] < 0;

/** The triangles that lie in one plane with one, as far as edges lead. */
function faceOf(edges: EdgeMap, triangle: number): number[] {
  const found = new Set([triangle]);
  for (const t of found) {
    if (found.size > MOST) break;
    for (let k = 0; k < 3; k++) {
      const edge = edges.ofTriangle[3 * t + k];
      if (edges.bend[edge] < FLAT) for (const other of beside(edges, edge)) found.add(other);
    }
  }
  return [...found];
}

/** The middle of a face, every piece of it counting by its area. */
function middleOf({ position, index }: RestMesh["mesh"], face: readonly number[], areas: Float64Array): Vec3 {
  let [sum, all]: [Vec3, number] = [[0, 0, 0], 0];
  face.forEach((t, i) => {
    for (let k = 0; k < 3; k++) sum = add(sum, scale(vectorAt(position, index[3 * t + k]), areas[i] / 3));
    all += areas[i];
  });
  return all > 0 ? scale(sum, 1 / all) : vectorAt(position, index[3 * face[0]]);
}

/** Holes: loops of a face's rim but the longest, and all that the mesh is open at. */
function holesIn(edges: EdgeMap, rim: ReadonlySet<number>, at: (v: number) => Vec3, direction: Vec3): Landmark[] {
  const loops = loopsOf(edges, rim).map((loop) => loop.map(at));
  const lengths = loops.map((loop) => loop.reduce((sum, p, i) => sum + lengthOf(subtract(loop[(i + 1) % loop.length], p)), 0)); // prettier-ignore
  const outer = lengths.indexOf(Math.max(...lengths));
  const holes = loops.filter((_, i) => i !== outer);
  // A rim that is all the face's own is no hole, but its edge.
  const own = new Set([...rim].map((edge) => nameOf(edges.ends[2 * edge], edges.ends[2 * edge + 1])));
  const isOwn = (loop: readonly number[]) => loop.every((v, i) => own.has(nameOf(v, loop[(i + 1) % loop.length])));
  const open = loopsOf(edges, openBeside(edges, rim))
    .filter((loop) => !isOwn(loop))
    .map((loop) => loop.map(at));
  return [...holes, ...open].flatMap((loop): Landmark[] => {
    const axis = axisOf(loop);
    if (!axis) return [];
    const outwards =
      axis[0] * direction[0] + axis[1] * direction[1] + axis[2] * direction[2] < 0 ? scale(axis, -1) : axis;
    return [{ position: centreOf(loop), direction: outwards, what: "centre of a hole" }];
  });
}

const nameOf = (v: number, w: number): string => (v < w ? `${v} ${w}` : `${w} ${v}`);

/** All edges at which the mesh is open on loops that a rim is part of. */
function openBeside(edges: EdgeMap, rim: ReadonlySet<number>): ReadonlySet<number> {
  const found = new Set([...rim].filter((edge) => isOpen(edges, edge)));
  for (const edge of found) {
    if (found.size > MOST) break;
    for (const vertex of [edges.ends[2 * edge], edges.ends[2 * edge + 1]])
      for (const other of edgesAt(edges, vertex)) if (isOpen(edges, other)) found.add(other);
  }
  return found;
}

const edgesAt = ({ starts, items }: EdgeMap, vertex: number): Uint32Array =>
  items.subarray(starts[vertex], starts[vertex + 1]);

/** The closed loops that some edges make, as their vertices one after the other. */
function loopsOf(edges: EdgeMap, among: ReadonlySet<number>): number[][] {
  const left = new Set(among);
  const loops: number[][] = [];
  for (const start of among) {
    if (!left.delete(start)) continue;
    const loop = [edges.ends[2 * start]];
    for (let vertex = edges.ends[2 * start + 1]; vertex !== loop[0];) {
      loop.push(vertex);
      const next = edgesAt(edges, vertex).find((edge) => left.has(edge));
      if (next === undefined) break;
      left.delete(next);
      vertex = edges.ends[2 * next] === vertex ? edges.ends[2 * next + 1] : edges.ends[2 * next];
      if (vertex === loop[0]) loops.push(loop);
    }
  }
  return loops;
}

/** The middle of a loop, each of its edges counting by its length. */
function centreOf(loop: readonly Vec3[]): Vec3 {
  let [sum, all]: [Vec3, number] = [[0, 0, 0], 0];
  loop.forEach((p, i) => {
    const q = loop[(i + 1) % loop.length];
    const length = lengthOf(subtract(q, p));
    sum = add(sum, scale(add(p, q), length / 2));
    all += length;
  });
  return all > 0 ? scale(sum, 1 / all) : loop[0];
}

/** The normal of the plane that fits a loop best (M. Newell, 1972); null for one without area. */
function axisOf(loop: readonly Vec3[]): Vec3 | null {
  const middle = centreOf(loop);
  const sum = loop.reduce<Vec3>(
    (all, p, i) => add(all, cross(subtract(p, middle), subtract(loop[(i + 1) % loop.length], middle))),
    [0, 0, 0],
  );
  return lengthOf(sum) > 1e-15 ? normalize(sum) : null;
}

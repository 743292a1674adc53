/** What joining, cutting and overlapping come to in one cell, by the `manifold-3d` library. */
import type { ClosedMesh } from "./closed";
import type { Manifold, ManifoldToplevel } from "manifold-3d";

export type How = "join" | "cut" | "common";

/** What is done to all that was made before: meshes are joined to it, taken from it, or all that it does not share with them is. */
export interface CellStep {
  how: How;
  parts: readonly ClosedMesh[];
}

/** Where something lies: boxes of runs of its faces, 6b numbers, three least and three greatest; and the mesh, if it is at hand. */
interface Extent {
  boxes: Float64Array;
  mesh: ClosedMesh | null;
}

interface Piece extends Extent {
  solid: Manifold;
}

/** A mesh is boxed in so many runs of its faces, which lie beside each other in most meshes. */
const RUNS = 24;

/**
 * What steps come to, done one after the other. Meshes that do not touch are not computed at all.
 *
 * @throws ManifoldError where a mesh is not closed
 */
export function inCell(library: ManifoldToplevel, steps: readonly CellStep[]): ClosedMesh {
  const used = steps.filter(({ how, parts }) => parts.length > 0 || how === "common");
  const [first] = used;
  if (!first || first.how !== "join") return gathered([]);
  if (used.every(({ how }) => how === "join")) {
    const all = used.flatMap(({ parts }) => parts);
    if (areApart(all)) return gathered(all);
  }
  return new CellWork(library).run(used);
}

class CellWork {
  readonly #library: ManifoldToplevel;

  constructor(library: ManifoldToplevel) {
    this.#library = library;
  }

  run(steps: readonly CellStep[]): ClosedMesh {
    let all: Piece[] = [];
    for (const { how, parts } of steps) {
      const own = parts.map((part) => this.#piece(part));
      all = how === "join" ? this.#union([...all, ...own]) : this.#less(how, all, this.#union(own));
    }
    const meshes = all.map(({ solid }): ClosedMesh => {
      const { vertProperties, triVerts } = solid.getMesh();
      solid.delete();
      return { position: vertProperties, index: triVerts };
    });
    return gathered(meshes);
  }

  #piece(mesh: ClosedMesh): Piece {
    const { Manifold, Mesh } = this.#library;
    const solid = new Manifold(new Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index }));
    return { solid, ...extentOf(mesh) };
  }

  /** Pieces joined, of which none touch each other any more. */
  #union(pieces: readonly Piece[]): Piece[] {
    const near = pieces.map((a, i) => pieces.flatMap((b, j) => (i !== j && touch(a, b) ? [j] : [])));
    const done = new Set<number>();
    return pieces.flatMap((piece, start): Piece[] => {
      if (done.has(start)) return [];
      done.add(start);
      const group = [start];
      for (const i of group)
        for (const j of near[i])
          if (!done.has(j)) {
            done.add(j);
            group.push(j);
          }
      if (group.length === 1) return [piece];
      const solid = this.#library.Manifold.union(group.map((i) => pieces[i].solid));
      // What is computed later would have to keep all that it is computed from.
      solid.numTri();
      for (const i of group) pieces[i].solid.delete();
      return [{ solid, boxes: joinedBoxes(group.map((i) => pieces[i])), mesh: null }];
    });
  }

  /** What is left of pieces once others are taken from them, or once all but what they share is. */
  #less(how: "cut" | "common", all: readonly Piece[], others: readonly Piece[]): Piece[] {
    const { Manifold } = this.#library;
    const out = all.flatMap((piece): Piece[] => {
      const near = others.filter((other) => touch(piece, other)).map(({ solid }) => solid);
      if (near.length === 0 && how === "cut") return [piece];
      const results =
        how === "cut" ? [Manifold.difference([piece.solid, ...near])] : near.map((one) => piece.solid.intersect(one));
      const left = results.filter((solid) => {
        if (!solid.isEmpty()) return true;
        solid.delete();
        return false;
      });
      piece.solid.delete();
      return left.map((solid) => ({ solid, boxes: piece.boxes, mesh: null }));
    });
    for (const { solid } of others) solid.delete();
    return out;
  }
}

function boxesOf({ position: P, index }: ClosedMesh): Float64Array {
  const faces = index.length / 3;
  const runs = Math.min(RUNS, faces);
  const boxes = new Float64Array(6 * runs);
  for (let run = 0; run < runs; run++) {
    const box = boxes
      .subarray(6 * run, 6 * run + 6)
      .fill(Infinity, 0, 3)
      .fill(-Infinity, 3);
    const [first, last] = [run, run + 1].map((r) => 3 * Math.floor((r * faces) / runs));
    for (let e = first; e < last; e++)
      for (let k = 0; k < 3; k++) {
        const x = P[3 * index[e] + k];
        if (x < box[k]) box[k] = x;
        if (x > box[k + 3]) box[k + 3] = x;
      }
  }
  return boxes;
}

function joinedBoxes(pieces: readonly Extent[]): Float64Array {
  const boxes = new Float64Array(pieces.reduce((sum, one) => sum + one.boxes.length, 0));
  let b = 0;
  for (const one of pieces) {
    boxes.set(one.boxes, b);
    b += one.boxes.length;
  }
  return boxes;
}

const extentOf = (mesh: ClosedMesh): Extent => ({ boxes: boxesOf(mesh), mesh });

/** Whether two may share anything: faces that may meet, or one within the other. */
function touch(a: Extent, b: Extent): boolean {
  for (let i = 0; i < a.boxes.length; i += 6)
    for (let j = 0; j < b.boxes.length; j += 6) if (boxesMeet(a.boxes, i, b.boxes, j)) return true;
  return mayBeWithin(a, b) || mayBeWithin(b, a);
}

function boxesMeet(a: Float64Array, i: number, b: Float64Array, j: number): boolean {
  for (let k = 0; k < 3; k++) if (a[i + k] > b[j + k + 3] || b[j + k] > a[i + k + 3]) return false;
  return true;
}

/** Whether any part of one may lie within the other, whose faces it does not meet. */
function mayBeWithin({ boxes, mesh }: Extent, around: Extent): boolean {
  const whole = wholeBox(around.boxes);
  let may = false;
  for (let i = 0; i < boxes.length && !may; i += 6) may = boxesMeet(boxes, i, whole, 0);
  if (!may) return false;
  if (!mesh || !around.mesh) return true;
  const { position: P } = mesh;
  return partsOf(mesh).some((v) => isInside(P[3 * v], P[3 * v + 1], P[3 * v + 2], around.mesh!));
}

function wholeBox(boxes: Float64Array): Float64Array {
  const whole = boxes.slice(0, 6);
  for (let b = 6; b < boxes.length; b++) whole[b % 6] = Math[b % 6 < 3 ? "min" : "max"](whole[b % 6], boxes[b]);
  return whole;
}

/** A vertex of each part of a mesh that hangs together. */
function partsOf({ position, index }: ClosedMesh): number[] {
  const group = Int32Array.from({ length: position.length / 3 }, (_, v) => v);
  const find = (v: number): number => {
    while (group[v] !== v) v = group[v] = group[group[v]];
    return v;
  };
  for (let t = 0; t < index.length; t += 3) {
    group[find(index[t])] = find(index[t + 1]);
    group[find(index[t])] = find(index[t + 2]);
  }
  const roots = new Set<number>();
  for (const v of index) roots.add(find(v));
  return [...roots];
}

/** Whether a point lies within a closed mesh: a way from it crosses an odd number of faces. */
function isInside(x: number, y: number, z: number, { position: P, index }: ClosedMesh): boolean {
  let inside = false;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    // Upwards along z: the sides of the triangle in x and y that the point lies on.
    const [ax, ay, bx, by, cx, cy] = [P[a] - x, P[a + 1] - y, P[b] - x, P[b + 1] - y, P[c] - x, P[c + 1] - y];
    const [u, v, w] = [bx * cy - by * cx, cx * ay - cy * ax, ax * by - ay * bx];
    if (!((u >= 0 && v >= 0 && w >= 0) || (u <= 0 && v <= 0 && w <= 0)) || u + v + w === 0) continue;
    if ((u * P[a + 2] + v * P[b + 2] + w * P[c + 2]) / (u + v + w) > z) inside = !inside;
  }
  return inside;
}

function areApart(meshes: readonly ClosedMesh[]): boolean {
  const extents = meshes.map(extentOf);
  return extents.every((a, i) => extents.every((b, j) => j >= i || !touch(a, b)));
}

/** Meshes side by side in one. */
export function gathered(meshes: readonly ClosedMesh[]): ClosedMesh {
  if (meshes.length === 1) return meshes[0];
  const position = new Float32Array(meshes.reduce((sum, one) => sum + one.position.length, 0));
  const index = new Uint32Array(meshes.reduce((sum, one) => sum + one.index.length, 0));
  let [p, t] = [0, 0];
  for (const one of meshes) {
    position.set(one.position, p);
    for (let e = 0; e < one.index.length; e++) index[t + e] = one.index[e] + p / 3;
    p += one.position.length;
    t += one.index.length;
  }
  return { position, index };
}

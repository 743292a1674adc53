/** What joining, cutting and overlapping come to in one cell, by the `manifold-3d` library. */
import type { ClosedMesh } from "./closed";
import type { Manifold, ManifoldToplevel } from "manifold-3d";

export type How = "join" | "cut" | "common";

/** What is done to all that was made before: meshes are joined to it, taken from it, or all that it does not share with them is. */
export interface CellStep {
  how: How;
  parts: readonly ClosedMesh[];
}

/**
 * *What is worked with in a cell*: a mesh, and a manifold once one is needed of it; what was computed has no mesh any more. With
 * the box round it and those round runs of its faces: 6 numbers each, three least and three greatest.
 */
interface Piece {
  mesh: ClosedMesh | null;
  solid: Manifold | null;
  whole: Float64Array;
  boxes: Float64Array;
}

/** A mesh is boxed in so many runs of its faces, which lie beside each other in most meshes. */
const RUNS = 24;

/**
 * What steps come to, done one after the other; until something is joined there is nothing to cut from. What touches nothing is
 * not computed at all.
 *
 * @throws ManifoldError where a mesh is not closed
 */
export function inCell(library: ManifoldToplevel, steps: readonly CellStep[]): ClosedMesh {
  const work = new CellWork(library);
  let all: Piece[] = [];
  for (const { how, parts } of steps) {
    const own = parts.map(pieceOf);
    if (how === "join") all = work.union([...all, ...own]);
    else if (all.length > 0) all = work.less(how, all, work.union(own));
  }
  return gathered(all.map((piece) => work.finish(piece)));
}

class CellWork {
  readonly #library: ManifoldToplevel;

  constructor(library: ManifoldToplevel) {
    this.#library = library;
  }

  #solidOf(piece: Piece): Manifold {
    const { Manifold, Mesh } = this.#library;
    return (piece.solid ??= new Manifold(
      new Mesh({ numProp: 3, vertProperties: piece.mesh!.position, triVerts: piece.mesh!.index }),
    ));
  }

  /** The mesh of a piece, which is worked with no more. */
  finish(piece: Piece): ClosedMesh {
    if (piece.mesh) {
      piece.solid?.delete();
      return piece.mesh;
    }
    const { vertProperties, triVerts } = piece.solid!.getMesh();
    piece.solid!.delete();
    return { position: vertProperties, index: triVerts };
  }

  /** Pieces joined, of which none touch each other any more. */
  union(pieces: readonly Piece[]): Piece[] {
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
      const own = group.map((i) => pieces[i]);
      const solid = this.#library.Manifold.union(own.map((one) => this.#solidOf(one)));
      // What is computed later would have to keep all that it is computed from.
      solid.numTri();
      for (const one of own) one.solid!.delete();
      const boxes = joinedBoxes(own);
      return [{ mesh: null, solid, boxes, whole: wholeBox(boxes) }];
    });
  }

  /** What is left of pieces once others are taken from them, or once all but what they share is. */
  less(how: "cut" | "common", all: readonly Piece[], others: readonly Piece[]): Piece[] {
    const out = all.flatMap((piece): Piece[] => {
      const near = others.filter((other) => touch(piece, other));
      if (near.length === 0 && how === "cut") return [piece];
      const [own, solids] = [this.#solidOf(piece), near.map((one) => this.#solidOf(one))];
      const results =
        how === "cut"
          ? [this.#library.Manifold.difference([own, ...solids])]
          : solids.map((solid) => own.intersect(solid));
      const left = results.filter((solid) => {
        if (!solid.isEmpty()) return true;
        solid.delete();
        return false;
      });
      own.delete();
      return left.map((solid) => ({ ...piece, mesh: null, solid }));
    });
    for (const { solid } of others) solid?.delete();
    return out;
  }
}

function pieceOf(mesh: ClosedMesh): Piece {
  const boxes = boxesOf(mesh);
  return { mesh, solid: null, boxes, whole: wholeBox(boxes) };
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

function joinedBoxes(pieces: readonly Piece[]): Float64Array {
  const boxes = new Float64Array(pieces.reduce((sum, one) => sum + one.boxes.length, 0));
  let b = 0;
  for (const one of pieces) {
    boxes.set(one.boxes, b);
    b += one.boxes.length;
  }
  return boxes;
}

/** Whether two may share anything: faces that may meet, or one within the other. */
function touch(a: Piece, b: Piece): boolean {
  if (!boxesMeet(a.whole, 0, b.whole, 0)) return false;
  for (let i = 0; i < a.boxes.length; i += 6)
    for (let j = 0; j < b.boxes.length; j += 6) if (boxesMeet(a.boxes, i, b.boxes, j)) return true;
  return mayBeWithin(a, b) || mayBeWithin(b, a);
}

function boxesMeet(a: Float64Array, i: number, b: Float64Array, j: number): boolean {
  for (let k = 0; k < 3; k++) if (a[i + k] > b[j + k + 3] || b[j + k] > a[i + k + 3]) return false;
  return true;
}

/** Whether any part of one may lie within the other, whose faces it does not meet. */
function mayBeWithin({ mesh }: Piece, around: Piece): boolean {
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

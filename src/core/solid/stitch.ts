/** Meshes that meet along their rims, made one. */
import { nextOf, twinsOf } from "../mesh";
import { boxOf, type ClosedMesh } from "./closed";

/** A mesh and its rim: the half-edges that have no face beyond, or several. */
export interface Rimmed {
  mesh: ClosedMesh;
  rim: Uint32Array;
}

/** Rims that differ by no more than this share of the size are one: what single precision comes to, several times over. */
const NEAR = 2 ** -20;
/** Rims further apart than this share of the size belong to different places. */
const FAR = 2 ** -15;
/** Each round puts one vertex into each rim edge that others have a vertex on. */
const MOST_ROUNDS = 8;

export function rimmed(mesh: ClosedMesh): Rimmed {
  const twins = twinsOf(mesh.index, mesh.position.length / 3);
  const rim: number[] = [];
  for (let e = 0; e < twins.length; e++) if (twins[e] < 0) rim.push(e);
  return { mesh, rim: Uint32Array.from(rim) };
}

/**
 * One mesh of several. Vertices of rims at the very same place are one; where that leaves edges open, those that lie almost
 * together are brought together, and edges are cut where others have a vertex on them.
 *
 * @returns the mesh, and how many of its edges are open or have more than two faces
 */
export function stitched(parts: readonly Rimmed[]): { mesh: ClosedMesh; open: number } {
  const work = new Stitching(parts);
  work.weld(0);
  const size = work.open.length > 0 ? work.size() : 0;
  // Where single precision came to different ends, from near by to further away.
  for (let near = NEAR * size; work.open.length > 0 && near <= FAR * size; near *= 4) {
    work.weld(near);
    work.collapse(near);
    for (let round = 0; round < MOST_ROUNDS && work.open.length > 0; round++) if (!work.cutEdges(near)) break;
  }
  return { mesh: work.finish(), open: work.open.length };
}

class Stitching {
  readonly #position: Float32Array;
  readonly #index: Uint32Array;
  /** Faces that cutting edges adds. */
  readonly #more: number[] = [];
  /** For each vertex the one that it has become. */
  readonly #goes: Uint32Array;
  /** Half-edges of rims without another that runs back along them. */
  open: number[] = [];

  constructor(parts: readonly Rimmed[]) {
    this.#position = new Float32Array(parts.reduce((sum, { mesh }) => sum + mesh.position.length, 0));
    this.#index = new Uint32Array(parts.reduce((sum, { mesh }) => sum + mesh.index.length, 0));
    let [p, e] = [0, 0];
    for (const { mesh, rim } of parts) {
      this.#position.set(mesh.position, p);
      for (let k = 0; k < mesh.index.length; k++) this.#index[e + k] = mesh.index[k] + p / 3;
      for (const half of rim) this.open.push(e + half);
      p += mesh.position.length;
      e += mesh.index.length;
    }
    this.#goes = Uint32Array.from({ length: p / 3 }, (_, v) => v);
  }

  /** The longest side of the box round all. */
  size(): number {
    const { low, high } = boxOf(this.#position);
    return Math.max(0, ...high.map((x, k) => x - low[k]));
  }

  #corner(e: number): number {
    let v = e < this.#index.length ? this.#index[e] : this.#more[e - this.#index.length];
    // What went to one that has gone on itself goes there too.
    while (this.#goes[v] !== v) v = this.#goes[v];
    return v;
  }

  #set(e: number, v: number): void {
    if (e < this.#index.length) this.#index[e] = v;
    else this.#more[e - this.#index.length] = v;
  }

  /** Makes one of the vertices of open edges that lie within a distance, metres, and takes away the edges that then meet. */
  weld(near: number): void {
    const P = this.#position;
    const share = near > 0 ? 1 / (4 * near) : 0;
    const bits = new Uint32Array(P.buffer);
    const cells = new Map<number, number[]>();
    const slot = (x: number, y: number, z: number) =>
      Math.imul(Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca77) ^ Math.imul(z, 0xc2b2ae3d), 0x2c1b3c6d);
    const isOne = (a: number, b: number): boolean => {
      for (let k = 0; k < 3; k++) if (!(Math.abs(P[3 * a + k] - P[3 * b + k]) <= near)) return false;
      return true;
    };
    const seen = new Set<number>();
    const take = (v: number): void => {
      if (seen.has(v)) return;
      seen.add(v);
      const names = new Set<number>();
      if (near === 0) names.add(slot(bits[3 * v], bits[3 * v + 1], bits[3 * v + 2]));
      else
        for (let corner = 0; corner < 8; corner++) {
          const at = (k: number) => Math.floor((P[3 * v + k] + ((corner >> k) & 1 ? near : -near)) * share);
          names.add(slot(at(0), at(1), at(2)));
        }
      for (const name of names)
        for (const other of cells.get(name) ?? []) if (isOne(v, other)) return void (this.#goes[v] = other);
      const own =
        near === 0
          ? [...names][0]
          : slot(...([0, 1, 2].map((k) => Math.floor(P[3 * v + k] * share)) as [number, number, number]));
      const list = cells.get(own);
      if (list) list.push(v);
      else cells.set(own, [v]);
    };
    for (const e of this.open) {
      take(this.#corner(e));
      take(this.#corner(nextOf(e)));
    }
    this.#match();
  }

  /** Makes one of the ends of open edges that are shorter than a distance, metres. */
  collapse(shortest: number): void {
    for (const e of this.open) {
      const [a, b] = [this.#corner(e), this.#corner(nextOf(e))];
      if (a !== b && distance(this.#position, a, b) <= shortest) this.#goes[b] = a;
    }
    this.#match();
  }

  /** Takes away the open edges that others run back along, and those that have come to nothing. */
  #match(): void {
    const waiting = new Map<number, number[]>();
    const n = this.#goes.length;
    for (const e of this.open) {
      const [a, b] = [this.#corner(e), this.#corner(nextOf(e))];
      if (a === b) continue;
      const back = waiting.get(b * n + a);
      if (back) {
        back.pop();
        if (back.length === 0) waiting.delete(b * n + a);
        continue;
      }
      const same = waiting.get(a * n + b);
      if (same) same.push(e);
      else waiting.set(a * n + b, [e]);
    }
    this.open = [...waiting.values()].flat();
  }

  /** Cuts open edges in two where others have a vertex on them; says whether there were any. */
  cutEdges(near: number): boolean {
    const ends = [...new Set(this.open.flatMap((e) => [this.#corner(e), this.#corner(nextOf(e))]))];
    if (ends.length > 5_000) return false;
    const faces = new Set<number>();
    const added: number[] = [];
    const moved = new Map<number, number>();
    for (const e of this.open) {
      const face = Math.floor(e / 3);
      const second = nextOf(e);
      const [a, b, c] = [this.#corner(e), this.#corner(second), this.#corner(nextOf(second))];
      const between = faces.has(face)
        ? undefined
        : ends.find((v) => v !== a && v !== b && isBetween(this.#position, v, a, b, near));
      if (between === undefined) continue;
      faces.add(face);
      // Its second half becomes a face of its own, and takes the edge after it along.
      const half = this.#index.length + this.#more.length;
      this.#more.push(between, b, c);
      this.#set(second, between);
      added.push(half);
      moved.set(second, half + 1);
    }
    this.open = [...this.open.map((e) => moved.get(e) ?? e), ...added];
    this.#match();
    return faces.size > 0;
  }

  /** The faces that still have three corners, over the vertices that they use. */
  finish(): ClosedMesh {
    const count = this.#index.length + this.#more.length;
    const index = new Uint32Array(count);
    const name = new Int32Array(this.#goes.length).fill(-1);
    const position = new Float32Array(this.#position.length);
    let [vertices, corners] = [0, 0];
    for (let t = 0; t < count; t += 3) {
      const [a, b, c] = [this.#corner(t), this.#corner(t + 1), this.#corner(t + 2)];
      if (a === b || b === c || c === a) continue;
      for (const v of [a, b, c]) {
        if (name[v] < 0) {
          position.set(this.#position.subarray(3 * v, 3 * v + 3), 3 * vertices);
          name[v] = vertices++;
        }
        index[corners++] = name[v];
      }
    }
    return { position: position.slice(0, 3 * vertices), index: index.slice(0, corners) };
  }
}

const distance = (P: Float32Array, a: number, b: number): number =>
  Math.hypot(P[3 * a] - P[3 * b], P[3 * a + 1] - P[3 * b + 1], P[3 * a + 2] - P[3 * b + 2]);

function isBetween(P: Float32Array, v: number, a: number, b: number, near: number): boolean {
  const way = [0, 1, 2].map((k) => P[3 * b + k] - P[3 * a + k]);
  const length = Math.hypot(...way);
  const far = [0, 1, 2].reduce((sum, k) => sum + (way[k] / length) * (P[3 * v + k] - P[3 * a + k]), 0);
  if (!(far > near && far < length - near)) return false;
  return Math.hypot(...[0, 1, 2].map((k) => P[3 * a + k] + (far / length) * way[k] - P[3 * v + k])) <= near;
}

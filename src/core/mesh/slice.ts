/**
 * Cutting meshes where a number that each of their vertices has, such as how far along it lies, reaches given values. A
 * shared edge is cut at the same place for both its triangles, so that nothing gapes.
 */
import { MeshGrowth, type TriangleMesh } from "./mesh";

/** Vertices nearer than this to a cut, as a share of the whole range, lie on it. */
const ON = 1e-6;

/**
 * The mesh with every triangle cut in two or more wherever `along` reaches one of `cuts`.
 *
 * @param along a number for each vertex
 * @param cuts rising
 */
export const sliced = (mesh: TriangleMesh, along: ArrayLike<number>, cuts: readonly number[]): TriangleMesh =>
  slabsOf(mesh, along, cuts, cuts.length);

/** The part of the mesh in which `along` is at most `most`; open where it was cut. */
export const clipped = (mesh: TriangleMesh, along: ArrayLike<number>, most: number): TriangleMesh =>
  slabsOf(mesh, along, [most], 0);

/** What lies in the slabs between the cuts, the one before the first cut being slab 0, up to the slab `last`. */
function slabsOf(mesh: TriangleMesh, along: ArrayLike<number>, cuts: readonly number[], last: number): TriangleMesh {
  const [least, most] = rangeOf(along);
  const on = ON * (most - least);
  const numbers = Float64Array.from(along, (value) => cuts.find((cut) => Math.abs(value - cut) <= on) ?? value);
  const work = new Slicing(mesh, numbers, cuts);
  const { index } = mesh;
  for (let t = 0; t < index.length; t += 3) {
    const values = [numbers[index[t]], numbers[index[t + 1]], numbers[index[t + 2]]];
    const [low, high] = [Math.min(...values), Math.max(...values)];
    // What lies on a cut belongs to the slab before it.
    let slab = 0;
    while (slab < cuts.length && cuts[slab] <= low && cuts[slab] < high) slab++;
    for (; slab <= last; slab++) {
      work.add(index.subarray(t, t + 3), slab);
      if (slab === cuts.length || cuts[slab] >= high) break;
    }
  }
  return work.finish();
}

/** *A mesh being cut*: its vertices as they are taken over, and those that cuts add, each made once. */
class Slicing {
  readonly #growth: MeshGrowth;
  readonly #numbers: Float64Array;
  readonly #cuts: readonly number[];
  readonly #kept = new Map<number, number>();
  readonly #crossings = new Map<number, number>();

  constructor(mesh: TriangleMesh, numbers: Float64Array, cuts: readonly number[]) {
    this.#growth = new MeshGrowth(mesh);
    this.#numbers = numbers;
    this.#cuts = cuts;
  }

  finish(): TriangleMesh {
    return this.#growth.finish();
  }

  /** The part of a triangle that lies in a slab: a convex polygon of at most five corners. */
  add(triangle: Uint32Array, slab: number): void {
    const low = slab > 0 ? this.#cuts[slab - 1] : -Infinity;
    const high = slab < this.#cuts.length ? this.#cuts[slab] : Infinity;
    const corners: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [i, j] = [triangle[k], triangle[(k + 1) % 3]];
      const [from, to] = [this.#numbers[i], this.#numbers[j]];
      if (from >= low && from <= high) corners.push(this.#vertex(i));
      // The way along the edge may enter the slab, and leave it.
      const [first, second] = from < to ? [slab - 1, slab] : [slab, slab - 1];
      for (const cut of [first, second]) {
        const value = cut === slab ? high : low;
        if ((from < value && value < to) || (to < value && value < from)) corners.push(this.#crossing(i, j, cut));
      }
    }
    for (let k = 2; k < corners.length; k++) this.#growth.triangle(corners[0], corners[k - 1], corners[k]);
  }

  #vertex(i: number): number {
    let made = this.#kept.get(i);
    if (made === undefined) this.#kept.set(i, (made = this.#growth.copy(i)));
    return made;
  }

  /** The vertex where a cut crosses an edge, the same one whichever way round the edge is given. */
  #crossing(a: number, b: number, cut: number): number {
    const [low, high] = a < b ? [a, b] : [b, a];
    const n = this.#numbers.length;
    const name = (cut * n + low) * n + high;
    let made = this.#crossings.get(name);
    if (made === undefined) {
      const [from, to] = [this.#numbers[low], this.#numbers[high]];
      made = this.#growth.between(low, high, (this.#cuts[cut] - from) / (to - from));
      this.#crossings.set(name, made);
    }
    return made;
  }
}

function rangeOf(along: ArrayLike<number>): [least: number, most: number] {
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < along.length; i++) {
    if (along[i] < least) least = along[i];
    if (along[i] > most) most = along[i];
  }
  return [least, most];
}

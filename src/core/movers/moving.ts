/** What every mover is given: a surface's vertices on their way from rest to where they are at the moment. */
import { writeVertexNormals, type RestMesh } from "../mesh";
import type { Vec3 } from "../math";
import { FARTHEST } from "../schema";
import type { PointCache } from "../rig";

export class Moving {
  readonly rest: RestMesh;
  /** The size of the surface: a metre of its file is so many metres. */
  readonly size: number;
  /** Where the vertices are so far, at the size that the surface has, in its own directions, metres: 3v. */
  readonly position: Float64Array;
  #box: { least: Vec3; most: Vec3 } | null = null;
  #normals: Float32Array | null = null;

  /** @param from where the vertices are before, where that is not at rest, metres of the file: 3v */
  constructor(rest: RestMesh, size: number, from: ArrayLike<number> = rest.mesh.position) {
    this.rest = rest;
    this.size = size;
    const position = new Float64Array(from.length);
    for (let p = 0; p < position.length; p++) position[p] = size * from[p];
    this.position = position;
  }

  /** The box of the vertices at rest. */
  get box(): { least: Vec3; most: Vec3 } {
    if (this.#box) return this.#box;
    const { size } = this;
    const own = this.rest.mesh.position;
    const [least, most] = [
      [Infinity, Infinity, Infinity],
      [-Infinity, -Infinity, -Infinity],
    ];
    for (let p = 0; p < own.length; p++) {
      const x = size * own[p];
      if (x < least[p % 3]) least[p % 3] = x;
      if (x > most[p % 3]) most[p % 3] = x;
    }
    this.#box = { least: least as unknown as Vec3, most: most as unknown as Vec3 };
    return this.#box;
  }

  get vertices(): number {
    return this.position.length / 3;
  }

  /** Smooth unit normals of the shape so far: 3v. */
  get normals(): Float32Array {
    if (!this.#normals) {
      this.#normals = new Float32Array(this.position.length);
      writeVertexNormals(this.position, this.rest.corners, this.#normals);
    }
    return this.#normals;
  }

  /**
   * Moves each vertex as far as another shape of the file takes it from where it is at rest.
   *
   * @param shape metres of the file: 3v
   */
  goTo(shape: ArrayLike<number>, weight: Weight): void {
    const { position: P, size } = this;
    const own = this.rest.mesh.position;
    for (let p = 0, v = 0; p < P.length; p += 3, v++) {
      const share = size * (weight ? weight[v] : 1);
      for (let k = p; k < p + 3; k++) {
        // A damaged file may send a vertex anywhere; it stays.
        if (Math.abs(shape[k]) <= FARTHEST) P[k] += share * (shape[k] - own[k]);
      }
    }
    this.changed();
  }

  /** Told by a mover that has changed the shape. */
  changed(): void {
    this.#normals = null;
  }
}

/** How much a mover does at each vertex, from 0 to 1: v; null for all of it everywhere. */
export type Weight = Float32Array | null;

/** *One kind of mover*: where the vertices go. */
export interface Moves<M> {
  /**
   * Moves the vertices.
   *
   * @param weight how much of it each vertex does
   * @param cache what it replays, where it does and that is known
   */
  move(mover: M, moving: Moving, weight: Weight, cache?: PointCache): void;
}

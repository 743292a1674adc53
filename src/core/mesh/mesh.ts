/** *A triangle mesh as plain arrays*: what is cut and bent, whatever file it came from and goes to. */

import type { CutFaces } from "./cut-faces";

/** Numbers that belong to vertices: positions, normals, texture coordinates, colours … */
export interface Attribute {
  /** glTF's name for it, such as `NORMAL` or `TEXCOORD_0`. */
  name: string;
  /** Numbers a vertex. */
  width: number;
  /** width · n numbers. */
  array: Float32Array;
}

export interface TriangleMesh {
  /** Metres: 3n. */
  position: Float32Array;
  /** Corners of triangles, counter-clockwise seen from the front: 3m. */
  index: Uint32Array;
  /** What else vertices have. */
  attributes: Attribute[];
  /** How far along and across each vertex lies, metres, where it was made by that: 2v, the second from the top down. */
  metric?: Float64Array;
  /** What each triangle is known by, where that is not its number: m. So cutting a mesh anew need not make all of them others. */
  faces?: Uint32Array;
  /** The triangles that its rim cut off, if it is known of which. */
  cut?: CutFaces;
}

/** *Vertices and triangles being gathered* for a mesh of the same attributes as another. */
export class MeshGrowth {
  readonly position: number[] = [];
  readonly index: number[] = [];
  readonly #source: TriangleMesh;
  readonly #attributes: number[][];

  constructor(source: TriangleMesh) {
    this.#source = source;
    this.#attributes = source.attributes.map(() => []);
  }

  get count(): number {
    return this.position.length / 3;
  }

  /** A copy of a vertex of the source; gives its index here. */
  copy(vertex: number): number {
    return this.between(vertex, vertex, 0);
  }

  /** A vertex on the way from one of the source's to another, at a share of it; gives its index here. */
  between(a: number, b: number, share: number): number {
    const { position, attributes } = this.#source;
    mixInto(this.position, position, 3, a, b, share);
    attributes.forEach(({ array, width }, k) => mixInto(this.#attributes[k], array, width, a, b, share));
    return this.count - 1;
  }

  triangle(a: number, b: number, c: number): void {
    this.index.push(a, b, c);
  }

  finish(): TriangleMesh {
    return {
      position: Float32Array.from(this.position),
      index: Uint32Array.from(this.index),
      attributes: this.#source.attributes.map(({ name, width }, k) => ({
        name,
        width,
        array: Float32Array.from(this.#attributes[k]),
      })),
    };
  }
}

function mixInto(out: number[], array: Float32Array, width: number, a: number, b: number, share: number): void {
  for (let k = 0; k < width; k++) {
    const from = array[width * a + k];
    out.push(share === 0 ? from : from + share * (array[width * b + k] - from));
  }
}

/**
 * *A mesh standing in the world*, ready to be asked where it lies and which way it faces.
 *
 *     const ground = WorldMesh.of("quay", mesh, { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 });
 *     ground.heights.cast(points, n, "above", hits, 0);
 */
import { conjugate, rotate, subtract, writeTurned, type Quat, type Vec3 } from "../math";
import { weightsIn } from "./barycentric";
import { facetsOf, normalsAt, type Facets } from "./facets";
import { Heights } from "./heights";
import { AS_IT_COMES, type Laying } from "./laying";
import { RayTree } from "./ray-tree";
import { RestMesh, type Shape } from "./rest-mesh";
import { writeVertexNormals } from "./vertex-normals";

/** Where a mesh stands. */
export interface Stand {
  position: Vec3;
  rotation: Quat;
  scale: number;
}

/** Where the vertices of a mesh have gone, at the size that it has and in its own directions. */
export interface MovedVertices {
  /** Metres: 3v. */
  position: Float64Array;
  /** Smooth unit normals: 3v. */
  normal: Float32Array;
}

const weights = new Float64Array(3);

export class WorldMesh {
  readonly id: string;
  /** World coordinates, metres: 3v. */
  readonly position: Float64Array;
  /** Triangles: 3m. */
  readonly index: Uint32Array;
  /** Where it stands; null for what was put together in the world. */
  readonly stand: Stand | null;
  /** The mesh as it is before it is put anywhere. */
  readonly rest: RestMesh;
  /** How it is laid flat. */
  readonly laying: Laying;
  #own: Float64Array | undefined;
  #normals: Float32Array | undefined;
  #facets: Facets | undefined;
  #heights: Heights | undefined;
  #tree: RayTree | undefined;
  /** The same mesh at rest, where this one has moved. */
  readonly #from: WorldMesh | null;
  readonly #moved: MovedVertices | null;

  constructor(
    id: string,
    position: Float64Array,
    index: Uint32Array,
    own?: { stand: Stand; rest: RestMesh; laying?: Laying; moved?: MovedVertices | null; from?: WorldMesh },
  ) {
    this.id = id;
    this.position = position;
    this.index = index;
    this.stand = own?.stand ?? null;
    this.rest = own?.rest ?? new RestMesh({ position, index, attributes: [] });
    this.laying = own?.laying ?? AS_IT_COMES;
    this.#moved = own?.moved ?? null;
    this.#from = own?.from ?? null;
  }

  /** A mesh as it stands somewhere. */
  static of(id: string, shape: Shape | RestMesh, stand: Stand, laying?: Laying): WorldMesh {
    const rest = shape instanceof RestMesh ? shape : new RestMesh(shape);
    const { position: own, index } = rest.mesh;
    return new WorldMesh(id, placed(own, stand, stand.scale), index, { stand, rest, laying });
  }

  /**
   * The same mesh at a moment: standing elsewhere, or with its vertices gone somewhere.
   *
   * @param moved where its vertices have gone, before it is turned and put in its place
   */
  at(stand: Stand, moved: MovedVertices | null): WorldMesh {
    const { id, rest, index, laying } = this;
    const position = moved ? placed(moved.position, stand, 1) : placed(rest.mesh.position, stand, stand.scale);
    return new WorldMesh(id, position, index, { stand, rest, laying, moved, from: this });
  }

  /** Texture coordinates of the vertices, 2v; null where the mesh has none. */
  get uv(): Float32Array | null {
    return this.rest.uv;
  }

  /** Colours of the vertices, 3v, from 0 to 1; null where the mesh has none. */
  get colour(): Float32Array | null {
    return this.rest.colour;
  }

  /** Its vertices at the size it has, before it is turned and put in its place: 3v. Moving it leaves them as they are. */
  get own(): Float64Array {
    if (!this.stand) return this.position;
    if (this.#moved) return this.#moved.position;
    const { scale } = this.stand;
    return (this.#own ??= Float64Array.from(this.rest.mesh.position, (x) => scale * x));
  }

  /** A point of its own coordinates, at the size it has, in the world. */
  toWorld(point: Vec3): Vec3 {
    if (!this.stand) return point;
    const [x, y, z] = rotate(this.stand.rotation, point);
    const at = this.stand.position;
    return [at[0] + x, at[1] + y, at[2] + z];
  }

  /** A point of the world in its own coordinates, at the size it has. */
  toOwn(point: Vec3): Vec3 {
    if (!this.stand) return point;
    return rotate(conjugate(this.stand.rotation), subtract(point, this.stand.position));
  }

  /** Smooth unit normals of the vertices in the world: 3v. */
  get vertexNormals(): Float32Array {
    if (!this.#normals) {
      this.#normals = new Float32Array(this.position.length);
      if (this.#moved) writeTurned(this.#normals, this.#moved.normal, [0, 0, 0], this.stand!.rotation, 1);
      else writeVertexNormals(this.position, this.rest.corners, this.#normals);
    }
    return this.#normals;
  }

  get triangles(): number {
    return this.index.length / 3;
  }

  get facets(): Facets {
    return (this.#facets ??= facetsOf(this));
  }

  get heights(): Heights {
    return (this.#heights ??= Heights.over(this.position, this.index));
  }

  get tree(): RayTree {
    return (this.#tree ??= new RayTree(this.position, this.index, this.#from?.tree));
  }

  /** The unit normal of triangle `t`, towards the side it shows. */
  flatNormal(t: number, out: Float64Array): void {
    const { normal } = this.facets;
    for (let axis = 0; axis < 3; axis++) out[axis] = normal[3 * t + axis];
  }

  /** Triangle `t`, or one beside it where that has no width, as at a pole: one that has a corner nearest to the point. */
  withWidth(t: number, x: number, y: number, z: number): number {
    const { beyond } = this.rest;
    if (beyond[3 * t] !== t) return t;
    const { position: P, index } = this;
    let [nearest, best] = [t, Infinity];
    for (let h = 0; h < index.length; h++) {
      const other = Math.floor(h / 3);
      const p = 3 * index[h];
      const squared = (P[p] - x) ** 2 + (P[p + 1] - y) ** 2 + (P[p + 2] - z) ** 2;
      if (squared < best && beyond[3 * other] !== other) [nearest, best] = [other, squared];
    }
    return nearest;
  }

  /** The unit normals of many triangles: 3n. */
  flatNormals(triangle: Uint32Array): Float32Array {
    return normalsAt(this.facets, triangle);
  }

  /** The unit normal at a point of triangle `t`, smooth over the whole mesh: between those of the corners. */
  smoothNormal(t: number, x: number, y: number, z: number, out: Float64Array): void {
    const N = this.vertexNormals;
    const [a, b, c] = [3 * this.index[3 * t], 3 * this.index[3 * t + 1], 3 * this.index[3 * t + 2]];
    weightsIn(this, t, x, y, z, weights);
    const [w, u, v] = weights;
    writeUnit(
      out,
      w * N[a] + u * N[b] + v * N[c],
      w * N[a + 1] + u * N[b + 1] + v * N[c + 1],
      w * N[a + 2] + u * N[b + 2] + v * N[c + 2],
    );
    if (out[0] === 0 && out[1] === 0 && out[2] === 0) this.flatNormal(t, out);
  }
}

/** Points at a size, turned and put in a place: 3v. */
function placed(own: ArrayLike<number>, { position, rotation }: Stand, scale: number): Float64Array {
  const out = new Float64Array(own.length);
  writeTurned(out, own, position, rotation, scale);
  return out;
}

function writeUnit(out: Float64Array, x: number, y: number, z: number): void {
  const length = Math.sqrt(x * x + y * y + z * z);
  const inverse = length > 0 ? 1 / length : 0;
  out[0] = x * inverse;
  out[1] = y * inverse;
  out[2] = z * inverse;
}

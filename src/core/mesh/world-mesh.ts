/**
 * *A mesh standing in the world*, ready to be asked where it lies and which way it faces.
 *
 *     const ground = WorldMesh.of("quay", mesh, { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 });
 *     ground.heights.cast(points, n, "above", hits, 0);
 */
import { rotate, subtract, type Quat, type Vec3 } from "../math";
import { weightsIn } from "./barycentric";
import { facetsOf, normalsAt, type Facets } from "./facets";
import { Heights } from "./heights";
import { RayTree } from "./ray-tree";
import { RestMesh, type Shape } from "./rest-mesh";

/** Where a mesh stands. */
export interface Stand {
  position: Vec3;
  rotation: Quat;
  scale: number;
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
  #own: Float64Array | undefined;
  #normals: Float32Array | undefined;
  #facets: Facets | undefined;
  #heights: Heights | undefined;
  #tree: RayTree | undefined;

  constructor(id: string, position: Float64Array, index: Uint32Array, own?: { stand: Stand; rest: RestMesh }) {
    this.id = id;
    this.position = position;
    this.index = index;
    this.stand = own?.stand ?? null;
    this.rest = own?.rest ?? new RestMesh({ position, index, attributes: [] });
  }

  /** A mesh as it stands somewhere. */
  static of(id: string, shape: Shape | RestMesh, stand: Stand): WorldMesh {
    const rest = shape instanceof RestMesh ? shape : new RestMesh(shape);
    const { position: own, index } = rest.mesh;
    const { position: at, rotation, scale } = stand;
    const position = new Float64Array(own.length);
    for (let p = 0; p < position.length; p += 3) {
      const [x, y, z] = rotate(rotation, [own[p], own[p + 1], own[p + 2]]);
      position[p] = at[0] + scale * x;
      position[p + 1] = at[1] + scale * y;
      position[p + 2] = at[2] + scale * z;
    }
    return new WorldMesh(id, position, index, { stand, rest });
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
    const [x, y, z, w] = this.stand.rotation;
    return rotate([-x, -y, -z, w], subtract(point, this.stand.position));
  }

  /** Smooth unit normals of the vertices in the world: 3v. */
  get vertexNormals(): Float32Array {
    return (this.#normals ??= smoothNormals(this.position, this.index));
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
    return (this.#tree ??= new RayTree(this.position, this.index));
  }

  /** The unit normal of triangle `t`, towards the side it shows. */
  flatNormal(t: number, out: Float64Array): void {
    const { normal } = this.facets;
    for (let axis = 0; axis < 3; axis++) out[axis] = normal[3 * t + axis];
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

function writeUnit(out: Float64Array, x: number, y: number, z: number): void {
  const length = Math.sqrt(x * x + y * y + z * z);
  const inverse = length > 0 ? 1 / length : 0;
  out[0] = x * inverse;
  out[1] = y * inverse;
  out[2] = z * inverse;
}

/**
 * Normals at the vertices (3v), those at one place alike, each triangle counting by its angle there (G. Thürmer, C. A.
 * Wüthrich, *Computing Vertex Normals from Polygonal Facets*, Journal of Graphics Tools 3(1), 1998).
 */
function smoothNormals(position: Float64Array, index: Uint32Array): Float32Array {
  const places = placesOf(position);
  const sums = new Float64Array(position.length);
  const corner = (t: number, k: number): Vec3 => {
    const p = 3 * index[3 * t + (k % 3)];
    return [position[p], position[p + 1], position[p + 2]];
  };
  for (let t = 0; 3 * t < index.length; t++) {
    for (let k = 0; k < 3; k++) {
      const [p, q, r] = [corner(t, k), corner(t, k + 1), corner(t, k + 2)];
      const [ux, uy, uz] = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
      const [vx, vy, vz] = [r[0] - p[0], r[1] - p[1], r[2] - p[2]];
      const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
      const area = Math.hypot(nx, ny, nz);
      if (!(area > 0)) continue;
      const share = Math.atan2(area, ux * vx + uy * vy + uz * vz) / area;
      const s = 3 * places[index[3 * t + k]];
      sums[s] += share * nx;
      sums[s + 1] += share * ny;
      sums[s + 2] += share * nz;
    }
  }
  const normals = new Float32Array(position.length);
  for (let v = 0; 3 * v < position.length; v++) {
    const s = 3 * places[v];
    const inverse = 1 / (Math.hypot(sums[s], sums[s + 1], sums[s + 2]) || 1);
    for (let axis = 0; axis < 3; axis++) normals[3 * v + axis] = sums[s + axis] * inverse;
  }
  return normals;
}

/** For each vertex the first one at the same place. */
function placesOf(position: Float64Array): Uint32Array {
  const first = new Map<string, number>();
  const n = position.length / 3;
  const places = new Uint32Array(n);
  for (let v = 0; v < n; v++) {
    const name = `${position[3 * v]} ${position[3 * v + 1]} ${position[3 * v + 2]}`;
    const known = first.get(name);
    if (known === undefined) first.set(name, v);
    places[v] = known ?? v;
  }
  return places;
}

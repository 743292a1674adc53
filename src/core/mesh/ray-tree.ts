/** *Rays and nearest points on a mesh*, by three-mesh-bvh's tree; exact to double precision in the triangle that it names. */
import { DoubleSide, Ray, Vector3 } from "three";
import { MeshBVH } from "three-mesh-bvh";
import { centred } from "./centred";

/** What was met: the triangle, and the point on it; -1 for nothing. */
export interface Met {
  triangle: number;
  x: number;
  y: number;
  z: number;
}

/** What was met is met again in spite of rounding. */
const SLACK = 1 + 1e-6;
/** The same where it is met exactly, metres. */
const SLIGHT = 1e-6;

export class RayTree {
  readonly #position: Float64Array;
  readonly #index: Uint32Array;
  readonly #tree: MeshBVH;
  /** What the tree counts from. */
  readonly #middle: Vector3;
  readonly #ray = new Ray();
  readonly #point = new Vector3();
  readonly #target = { point: new Vector3(), distance: 0, faceIndex: 0 };
  /** Whether the target has been met. */
  #last = false;

  /**
   * @param position of vertices: 3v, metres
   * @param index of triangles: 3m
   * @param before the tree of the same triangles elsewhere, whose order is kept: only its boxes are fitted anew
   */
  constructor(position: Float64Array, index: Uint32Array, before: RayTree | null = null) {
    this.#position = position;
    this.#index = index;
    const { geometry, middle } = centred(position, index);
    this.#middle = middle;
    if (!before) {
      this.#tree = new MeshBVH(geometry, { indirect: true });
      return;
    }
    const order = MeshBVH.serialize(before.#tree, { cloneBuffers: false });
    const roots = order.roots.map((root) => root.slice(0));
    this.#tree = MeshBVH.deserialize({ ...order, roots }, geometry, { setIndex: false });
    this.#tree.refit();
  }

  /** The first triangle from a point along a unit direction, whichever side it shows. */
  first(x: number, y: number, z: number, dx: number, dy: number, dz: number, out: Met): void {
    const ray = this.#ray;
    ray.origin.set(x, y, z).sub(this.#middle);
    ray.direction.set(dx, dy, dz);
    const hit = this.#tree.raycastFirst(ray, DoubleSide);
    out.triangle = hit ? (hit.faceIndex ?? -1) : -1;
    if (!hit || out.triangle < 0) return;
    const [a, b, c] = [0, 1, 2].map((corner) => 3 * this.#index[3 * out.triangle + corner]);
    const P = this.#position;
    const [ux, uy, uz] = [P[b] - P[a], P[b + 1] - P[a + 1], P[b + 2] - P[a + 2]];
    const [vx, vy, vz] = [P[c] - P[a], P[c + 1] - P[a + 1], P[c + 2] - P[a + 2]];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const steep = nx * dx + ny * dy + nz * dz;
    const exact = steep === 0 ? NaN : (nx * (P[a] - x) + ny * (P[a + 1] - y) + nz * (P[a + 2] - z)) / steep;
    const t = Math.abs(exact - hit.distance) < 1e-3 * (1 + hit.distance) ? exact : hit.distance;
    out.x = x + t * dx;
    out.y = y + t * dy;
    out.z = z + t * dz;
  }

  /** The point of the mesh that is nearest to a point; none where it is farther than `most`. */
  nearest(x: number, y: number, z: number, out: Met, most = Infinity): void {
    this.#point.set(x, y, z).sub(this.#middle);
    // Where points are asked for in turn, what was met last is not far: most of the tree is ruled out by that at once.
    const last = this.#last ? SLACK * this.#point.distanceTo(this.#target.point) + SLIGHT : Infinity;
    const hit = this.#tree.closestPointToPoint(this.#point, this.#target, 0, Math.min(most, last));
    this.#last ||= hit !== null;
    out.triangle = hit ? hit.faceIndex : -1;
    if (!hit) return;
    out.x = hit.point.x + this.#middle.x;
    out.y = hit.point.y + this.#middle.y;
    out.z = hit.point.z + this.#middle.z;
  }
}

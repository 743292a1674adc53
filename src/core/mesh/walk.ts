/** *Straight ways over a mesh*: each triangle is unfolded into the plane of the one before. */
import type { Facets, Points } from "./facets";

/** A walk that crosses more edges than this gives up. */
const MAX_EDGES = 4096;

export class Walk {
  /** Where the last one came to, and on which triangle; where the mesh ended, at its rim. */
  readonly place = new Float64Array(3);
  triangle = -1;
  /** Which way it went there, and how many metres it had still to go. */
  readonly direction = new Float64Array(3);
  left = 0;
  /** The cosine of the sharpest edge that has been crossed since this was last set to 1. */
  sharpest = 1;
  readonly #position: ArrayLike<number>;
  readonly #index: Uint32Array;
  /** Unit normals of the triangles: 3m. */
  readonly #normal: Float64Array;
  readonly #beyond: Int32Array;

  /** @param beyond the triangle beyond each edge: 3m */
  constructor({ position, index }: Points, { normal }: Pick<Facets, "normal">, beyond: Int32Array) {
    this.#position = position;
    this.#index = index;
    this.#normal = normal;
    this.#beyond = beyond;
  }

  #stop(t: number, x: number, y: number, z: number, dx: number, dy: number, dz: number, left: number): void {
    this.place[0] = x;
    this.place[1] = y;
    this.place[2] = z;
    this.triangle = t;
    this.direction[0] = dx;
    this.direction[1] = dy;
    this.direction[2] = dz;
    this.left = left;
  }

  /**
   * Walks so many metres from a point of a triangle in a direction of its plane; false where the mesh ends.
   */
  straight(
    triangle: number,
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    metres: number,
  ): boolean {
    const P = this.#position;
    const N = this.#normal;
    const index = this.#index;
    let left = metres;
    let t = triangle;
    let entered = -1;
    for (let crossed = 0; crossed < MAX_EDGES; crossed++) {
      const nx = N[3 * t];
      const ny = N[3 * t + 1];
      const nz = N[3 * t + 2];
      let nearest = Infinity;
      let edge = -1;
      for (let k = 0; k < 3; k++) {
        if (k === entered) continue;
        const a = 3 * index[3 * t + k];
        const b = 3 * index[3 * t + (k === 2 ? 0 : k + 1)];
        const ex = P[b] - P[a];
        const ey = P[b + 1] - P[a + 1];
        const ez = P[b + 2] - P[a + 2];
        // Into the triangle from its edge.
        const mx = ny * ez - nz * ey;
        const my = nz * ex - nx * ez;
        const mz = nx * ey - ny * ex;
        const rate = mx * dx + my * dy + mz * dz;
        if (rate >= 0) continue;
        const far = Math.max(0, -(mx * (x - P[a]) + my * (y - P[a + 1]) + mz * (z - P[a + 2])) / rate);
        if (far < nearest) {
          nearest = far;
          edge = k;
        }
      }
      if (nearest >= left || edge < 0) {
        if (edge < 0 && !(nearest >= left)) {
          this.#stop(t, x, y, z, dx, dy, dz, left);
          return false;
        }
        this.#stop(t, x + left * dx, y + left * dy, z + left * dz, dx, dy, dz, 0);
        return true;
      }
      const other = this.#beyond[3 * t + edge];
      if (other < 0) {
        this.#stop(t, x + nearest * dx, y + nearest * dy, z + nearest * dz, dx, dy, dz, left - nearest);
        return false;
      }
      x += nearest * dx;
      y += nearest * dy;
      z += nearest * dz;
      left -= nearest;
      const a = 3 * index[3 * t + edge];
      const b = 3 * index[3 * t + (edge === 2 ? 0 : edge + 1)];
      let ex = P[b] - P[a];
      let ey = P[b + 1] - P[a + 1];
      let ez = P[b + 2] - P[a + 2];
      const scale = 1 / Math.sqrt(ex * ex + ey * ey + ez * ez);
      ex *= scale;
      ey *= scale;
      ez *= scale;
      const along = dx * ex + dy * ey + dz * ez;
      const out = -(dx * (ny * ez - nz * ey) + dy * (nz * ex - nx * ez) + dz * (nx * ey - ny * ex));
      // The edge runs the other way round in the next triangle, unless one of the two shows its back.
      entered = 0;
      while (entered < 2 && this.#beyond[3 * other + entered] !== t) entered++;
      const c = 3 * index[3 * other + entered];
      const d = 3 * index[3 * other + (entered === 2 ? 0 : entered + 1)];
      const n = 3 * other;
      const sense = (P[d] - P[c]) * ex + (P[d + 1] - P[c + 1]) * ey + (P[d + 2] - P[c + 2]) * ez < 0 ? -1 : 1;
      const cosine = -sense * (nx * N[n] + ny * N[n + 1] + nz * N[n + 2]);
      // What has no area has no normal that could be turned.
      if (cosine < this.sharpest && (cosine !== 0 || (hasNormal(N, t) && hasNormal(N, other)))) this.sharpest = cosine;
      const mx = sense * (N[n + 1] * ez - N[n + 2] * ey);
      const my = sense * (N[n + 2] * ex - N[n] * ez);
      const mz = sense * (N[n] * ey - N[n + 1] * ex);
      dx = along * ex + out * mx;
      dy = along * ey + out * my;
      dz = along * ez + out * mz;
      t = other;
    }
    this.#stop(t, x, y, z, dx, dy, dz, left);
    return false;
  }
}

const hasNormal = (normals: Float64Array, t: number): boolean =>
  normals[3 * t] !== 0 || normals[3 * t + 1] !== 0 || normals[3 * t + 2] !== 0;

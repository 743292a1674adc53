/**
 * *The frames of what is bound to meshes that move*: places, up by the smooth normal, ahead as the surface carries it. What is
 * asked for a hundred thousand times a frame is written out, and touches nothing but arrays.
 */
import { writeFromBasis, type Vec3 } from "../math";
import { type Bound, type WorldMesh } from "../mesh";

/** Corners bent by more than this count as edges, where the triangle's own normal is up instead of the smooth one. */
const CREASE = Math.cos(Math.PI / 4);

/**
 * Writes feet (3 numbers each, from an origin) and rotations (4 each) of all that is bound.
 *
 * @param bound with a direction for each mesh, see `bind`
 * @param now the meshes at the moment
 * @param rise how far off the mesh all of them are, and each besides
 */
export function carriedFrames(
  { bound, meshes: now }: { bound: Bound; meshes: readonly (WorldMesh | null)[] },
  origin: Readonly<Vec3>,
  rise: { all: number; each: Float32Array | null },
  feet: Float32Array,
  rotation: Float32Array,
): void {
  const { count, slot, which, corner: C, weight: W, height, ahead: A } = bound;
  const [ox, oy, oz] = origin;
  let mesh: WorldMesh | null = null;
  let last = -1;
  let P: Float64Array = NOTHING;
  let N: Float32Array = NO_NORMALS;
  for (let i = 0; i < count; i++) {
    if (which[i] !== last) {
      last = which[i];
      mesh = now[last];
      if (mesh) [P, N] = [mesh.position, mesh.vertexNormals];
    }
    if (!mesh) continue;
    const p = 3 * i;
    const a = C[p];
    const b = C[p + 1];
    const c = C[p + 2];
    const u = W[p];
    const v = W[p + 1];
    const w = W[p + 2];
    const ax = P[a];
    const ay = P[a + 1];
    const az = P[a + 2];
    const ex = P[b] - ax;
    const ey = P[b + 1] - ay;
    const ez = P[b + 2] - az;
    const fx = P[c] - ax;
    const fy = P[c + 1] - ay;
    const fz = P[c + 2] - az;
    // The triangle's own normal, and the smooth one where that is near to it.
    let nx = ey * fz - ez * fy;
    let ny = ez * fx - ex * fz;
    let nz = ex * fy - ey * fx;
    let inverse = 1 / (Math.sqrt(nx * nx + ny * ny + nz * nz) || 1);
    nx *= inverse;
    ny *= inverse;
    nz *= inverse;
    const h = height[i];
    const x = ax + v * ex + w * fx + h * nx - ox;
    const y = ay + v * ey + w * fy + h * ny - oy;
    const z = az + v * ez + w * fz + h * nz - oz;
    const sx = u * N[a] + v * N[b] + w * N[c];
    const sy = u * N[a + 1] + v * N[b + 1] + w * N[c + 1];
    const sz = u * N[a + 2] + v * N[b + 2] + w * N[c + 2];
    const long = Math.sqrt(sx * sx + sy * sy + sz * sz);
    if (sx * nx + sy * ny + sz * nz >= CREASE * long && long > 0) {
      inverse = 1 / long;
      nx = sx * inverse;
      ny = sy * inverse;
      nz = sz * inverse;
    }
    const own = slot[i];
    const off = rise.each ? rise.all + rise.each[own] : rise.all;
    feet[3 * own] = x + off * nx;
    feet[3 * own + 1] = y + off * ny;
    feet[3 * own + 2] = z + off * nz;
    const along = A[2 * i];
    const beside = A[2 * i + 1];
    const dx = along * ex + beside * fx;
    const dy = along * ey + beside * fy;
    const dz = along * ez + beside * fz;
    // across = up × ahead; forward = across × up
    let cx = ny * dz - nz * dy;
    let cy = nz * dx - nx * dz;
    let cz = nx * dy - ny * dx;
    const sine = cx * cx + cy * cy + cz * cz;
    if (!(sine > FLAT * (dx * dx + dy * dy + dz * dz))) {
      // Nothing to turn to: as it would stand with its front to the south, or upright to the north.
      const [gx, gy, gz] = Math.abs(nz) < 0.9 ? [0, 0, 1] : [0, -1, 0];
      cx = ny * gz - nz * gy;
      cy = nz * gx - nx * gz;
      cz = nx * gy - ny * gx;
    }
    inverse = 1 / Math.sqrt(cx * cx + cy * cy + cz * cz);
    cx *= inverse;
    cy *= inverse;
    cz *= inverse;
    writeFromBasis(rotation, own, cx, cy, cz, nx, ny, nz, cy * nz - cz * ny, cz * nx - cx * nz, cx * ny - cy * nx);
  }
}

const NOTHING = new Float64Array(0);
const NO_NORMALS = new Float32Array(0);
/** Ahead and up count as parallel below this square of the sine between them. */
const FLAT = 1e-12;

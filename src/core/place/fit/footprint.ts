/** What of a standing prop meets the ground: its footprint, the farthest corner of its hull; and how it is turned. */
import { FLAG, NO_PROP } from "../slots";
import type { Placed } from "../compose";

/** A footprint is probed at its four corners and its middle. */
export const PROBES_PER_FOOTPRINT = 5;
export const SIDE_U = [-1, 1, 1, -1, 0];
export const SIDE_V = [-1, -1, 1, 1, 0];
/** Corners that differ by less than this share of the prop's height are equally low. */
const LEVEL = 1e-6;
/** Ups that point away from each other by more than this cosine have no shortest way between them. */
const OPPOSITE = -0.999999;

/** What the functions here write their results into. */
export const turned = new Float64Array(3);
export const local = new Float64Array(3);

/** Writes into {@link turned} where a point of a prop, in its own metres, lies from the placement's origin. */
export function turn(
  { rotation, scale }: Pick<Placed, "rotation" | "scale">,
  i: number,
  mirrored: boolean,
  x: number,
  y: number,
  z: number,
): void {
  const q = 4 * i;
  const px = x * (mirrored ? -scale[3 * i] : scale[3 * i]);
  const py = y * scale[3 * i + 1];
  const pz = z * scale[3 * i + 2];
  const qx = rotation[q];
  const qy = rotation[q + 1];
  const qz = rotation[q + 2];
  const qw = rotation[q + 3];
  const tx = 2 * (qy * pz - qz * py);
  const ty = 2 * (qz * px - qx * pz);
  const tz = 2 * (qx * py - qy * px);
  turned[0] = px + qw * tx + qy * tz - qz * ty;
  turned[1] = py + qw * ty + qz * tx - qx * tz;
  turned[2] = pz + qw * tz + qx * ty - qy * tx;
}

export const isMirrored = (flags: Uint16Array, i: number): boolean => (flags[i] & FLAG.mirrored) !== 0;

/** Writes into {@link turned} a direction of the world in a placement's own axes. */
export function writeBack(rotation: Float32Array, q: number, x: number, y: number, z: number): void {
  const [qx, qy, qz, qw] = [-rotation[q], -rotation[q + 1], -rotation[q + 2], rotation[q + 3]];
  const tx = 2 * (qy * z - qz * y);
  const ty = 2 * (qz * x - qx * z);
  const tz = 2 * (qx * y - qy * x);
  turned[0] = x + qw * tx + qy * tz - qz * ty;
  turned[1] = y + qw * ty + qz * tx - qx * tz;
  turned[2] = z + qw * tz + qx * ty - qy * tx;
}

/** What stands, as far as its footprint goes. */
type Standing = Pick<Placed, "origin" | "position" | "rotation" | "scale"> & { prop: Uint16Array; flags: Uint16Array };

/**
 * Writes the corners and the middle of the side of each placement's box that looks in its way: {@link PROBES_PER_FOOTPRINT} points each.
 *
 * @param boxes of the dressing's props: 6 numbers a prop
 * @param way unit directions: 3n
 */
export function writeFootprints(
  placed: Standing,
  boxes: Float64Array,
  from: number,
  n: number,
  way: Float64Array,
  points: Float64Array,
): void {
  const { origin, position, rotation, prop: propOf, flags } = placed;
  for (let k = 0; k < n; k++) {
    const i = from + k;
    const prop = propOf[i];
    const b = 6 * prop;
    const w = 3 * k;
    writeBack(rotation, 4 * i, way[w], way[w + 1], way[w + 2]);
    const [x, y, z] = [Math.abs(turned[0]), Math.abs(turned[1]), Math.abs(turned[2])];
    // Upright things stand on their bottom even where they lean a good deal.
    const axis = y >= 0.5 * Math.max(x, z) ? 1 : x > z ? 0 : 2;
    const mirrored = isMirrored(flags, i);
    const outward = turned[axis] >= 0 ? 1 : -1;
    const sign = mirrored && axis === 0 ? -outward : outward;
    const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
    for (let corner = 0; corner < PROBES_PER_FOOTPRINT; corner++) {
      const p = 3 * (PROBES_PER_FOOTPRINT * k + corner);
      turned.fill(0);
      if (prop !== NO_PROP) {
        for (let a = 0; a < 3; a++) local[a] = boxes[b + a];
        local[axis] += sign * boxes[b + 3 + axis];
        local[u] += SIDE_U[corner] * boxes[b + 3 + u];
        local[v] += SIDE_V[corner] * boxes[b + 3 + v];
        turn(placed, i, mirrored, local[0], local[1], local[2]);
      }
      for (let a = 0; a < 3; a++) points[p + a] = origin[a] + position[3 * i + a] + turned[a];
    }
  }
}

/**
 * Writes into {@link local} the corner of a hull that lies farthest along a direction; the middle of several that lie
 * equally far, as those of a flat bottom do.
 */
export function writeFarthest(hull: Float32Array, dx: number, dy: number, dz: number): void {
  let most = -Infinity;
  let least = Infinity;
  for (let h = 0; h < hull.length; h += 3) {
    const far = hull[h] * dx + hull[h + 1] * dy + hull[h + 2] * dz;
    if (far > most) most = far;
    if (far < least) least = far;
  }
  const level = most - LEVEL * (most - least);
  let count = 0;
  local.fill(0);
  for (let h = 0; h < hull.length; h += 3) {
    if (hull[h] * dx + hull[h + 1] * dy + hull[h + 2] * dz < level) continue;
    count++;
    for (let a = 0; a < 3; a++) local[a] += hull[h + a];
  }
  for (let a = 0; a < 3; a++) local[a] /= count;
}

/** Turns the quaternion at `q` by a share of the shortest rotation from one unit vector to another. */
export function turnBetween(
  rotation: Float32Array,
  q: number,
  ux: number,
  uy: number,
  uz: number,
  nx: number,
  ny: number,
  nz: number,
  share: number,
): void {
  const cosine = ux * nx + uy * ny + uz * nz;
  const [ax, ay, az] = [uy * nz - uz * ny, uz * nx - ux * nz, ux * ny - uy * nx];
  const sine = Math.hypot(ax, ay, az);
  if (cosine < OPPOSITE || !(sine > 0)) return;
  const half = (share * Math.atan2(sine, cosine)) / 2;
  const s = Math.sin(half) / sine;
  const [bx, by, bz, bw] = [ax * s, ay * s, az * s, Math.cos(half)];
  const [x, y, z, w] = [rotation[q], rotation[q + 1], rotation[q + 2], rotation[q + 3]];
  rotation[q] = bw * x + bx * w + by * z - bz * y;
  rotation[q + 1] = bw * y - bx * z + by * w + bz * x;
  rotation[q + 2] = bw * z + bx * y - by * x + bz * w;
  rotation[q + 3] = bw * w - bx * x - by * y - bz * z;
}

/** Turns frames so that their forward points to where the stance says. */
import { writeFromBasis } from "../../math";
import type { Aim } from "./stance";

/** Forward and up count as parallel below this sine of the angle between them. */
const PARALLEL = 1e-6;

/**
 * Writes at `out[4·from…]` `n` frames (quaternions) at `position` (3n, metres) whose forward points where `aim` says.
 *
 * @param forwardFirst keep forward exact and lean up back to it; else keep up, and forward is what is left of it across up
 * @param rotation the line's frames there: what is kept where up and forward are the same
 */
export function aimInto(
  out: Float32Array,
  from: number,
  aim: Aim,
  forwardFirst: boolean,
  position: Float64Array,
  rotation: Float64Array,
  n: number,
): void {
  const fixed = "direction" in aim;
  const [ax, ay, az] = fixed ? aim.direction : aim.point;
  const way = !fixed && aim.away ? -1 : 1;
  for (let k = 0; k < n; k++) {
    const p = 3 * k;
    let fx = fixed ? ax : way * (ax - position[p]);
    let fy = fixed ? ay : way * (ay - position[p + 1]);
    let fz = fixed ? az : way * (az - position[p + 2]);
    const far = Math.sqrt(fx * fx + fy * fy + fz * fz);
    const qx = rotation[4 * k];
    const qy = rotation[4 * k + 1];
    const qz = rotation[4 * k + 2];
    const qw = rotation[4 * k + 3];
    let ux = 0;
    let uy = 1;
    let uz = 0;
    if (!forwardFirst) {
      ux = 2 * (qx * qy - qw * qz);
      uy = 1 - 2 * (qx * qx + qz * qz);
      uz = 2 * (qy * qz + qw * qx);
    }
    // across = up × forward
    let sx = uy * fz - uz * fy;
    let sy = uz * fx - ux * fz;
    let sz = ux * fy - uy * fx;
    const sine = Math.sqrt(sx * sx + sy * sy + sz * sz);
    const o = 4 * (from + k);
    // Straight up, straight down or at the very point there is nothing to turn to: the frame stays the line's.
    if (!(sine > PARALLEL * far)) {
      out[o] = qx;
      out[o + 1] = qy;
      out[o + 2] = qz;
      out[o + 3] = qw;
      continue;
    }
    sx /= sine;
    sy /= sine;
    sz /= sine;
    if (forwardFirst) {
      fx /= far;
      fy /= far;
      fz /= far;
      ux = fy * sz - fz * sy;
      uy = fz * sx - fx * sz;
      uz = fx * sy - fy * sx;
    } else {
      // forward = across × up
      fx = sy * uz - sz * uy;
      fy = sz * ux - sx * uz;
      fz = sx * uy - sy * ux;
    }
    writeFromBasis(out, from + k, sx, sy, sz, ux, uy, uz, fx, fy, fz);
  }
}

/** *A patch as its flat layout lies*: where each place is in it, and the footprints of the props as they would lie there. */
import { rotate, type Vec3 } from "../math";
import { NO_PROP, type Spread } from "./slots";

/** What has a place and a footprint. */
export interface Standing {
  origin: readonly [number, number, number];
  position: Float32Array;
  rotation: Float32Array;
  scale: Float32Array;
}

export interface Laid {
  /** To the right and ahead of the handle, metres: 2n; NaN for what lies in no layout. */
  at: Float64Array;
  /** The corners of all footprints, right and ahead: 8n. A blank one has the point that it would stand on. */
  footprints: Float64Array;
}

const NO_BOX = new Float64Array(6);

/** @param boxes of the props that `prop` numbers: middles and halves, 6 numbers each */
export function laidOut(spread: Spread, placed: Standing, prop: Uint16Array, boxes: Float64Array): Laid | null {
  const { flat, ahead, normal, position } = spread;
  if (!flat || !ahead) return null;
  const { origin } = placed;
  const footprints = new Float64Array(4 * flat.length);
  for (let i = 0; i < prop.length; i++) {
    const [px, py, pz] = [3 * i, 3 * i + 1, 3 * i + 2];
    const [ax, ay, az] = [ahead[px], ahead[py], ahead[pz]];
    const [nx, ny, nz] = [normal[px], normal[py], normal[pz]];
    // To the right is ahead × up.
    const right: Vec3 = [ay * nz - az * ny, az * nx - ax * nz, ax * ny - ay * nx];
    const onFlat = ([x, y, z]: Vec3) => [x * right[0] + y * right[1] + z * right[2], x * ax + y * ay + z * az];
    const away = [0, 1, 2].map((k) => origin[k] + placed.position[3 * i + k] - position[3 * i + k]);
    const aside = onFlat(away as unknown as Vec3);
    const q = placed.rotation;
    const turn = [q[4 * i], q[4 * i + 1], q[4 * i + 2], q[4 * i + 3]] as const;
    const left = onFlat(rotate(turn, [placed.scale[px], 0, 0]));
    const front = onFlat(rotate(turn, [0, 0, placed.scale[pz]]));
    const box = prop[i] === NO_PROP ? NO_BOX : boxes.subarray(6 * prop[i], 6 * prop[i] + 6);
    for (let corner = 0; corner < 4; corner++) {
      const u = corner === 0 || corner === 3 ? box[0] + box[3] : box[0] - box[3];
      const v = corner < 2 ? box[2] + box[5] : box[2] - box[5];
      for (let k = 0; k < 2; k++)
        footprints[8 * i + 2 * corner + k] = flat[2 * i + k] + aside[k] + u * left[k] + v * front[k];
    }
  }
  return { at: flat.slice(), footprints };
}

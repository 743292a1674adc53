/** *A surface as it is drawn and written at a moment*, in the coordinates of its file. */
import type { MovedVertices, RestMesh } from "../mesh";

export interface MovedShape {
  /** Metres of its file: 3v. */
  position: Float32Array<ArrayBuffer>;
  /** Unit normals: 3v; where its file has edges, they stay. */
  normal: Float32Array<ArrayBuffer>;
}

/** @param size how many times as large the surface is as in its file */
export function movedShape(rest: RestMesh, moved: MovedVertices, size: number): MovedShape {
  const position = new Float32Array(moved.position.length);
  for (let p = 0; p < position.length; p++) position[p] = moved.position[p] / size;
  const normal = moved.normal.slice();
  if (rest.normal) turnAlong(rest.normal, rest.smoothNormals, normal);
  return { position, normal };
}

/** Normals turned by the least turn that takes the smooth ones from where they were to where they are; in place of the latter. */
function turnAlong(own: Float32Array, before: Float32Array, now: Float32Array): void {
  for (let p = 0; p < own.length; p += 3) {
    const ax = before[p];
    const ay = before[p + 1];
    const az = before[p + 2];
    const bx = now[p];
    const by = now[p + 1];
    const bz = now[p + 2];
    const cosine = ax * bx + ay * by + az * bz;
    const x = own[p];
    const y = own[p + 1];
    const z = own[p + 2];
    // Turned right over there is no least turn.
    if (cosine < -0.999999) {
      now[p] = -x;
      now[p + 1] = -y;
      now[p + 2] = -z;
      continue;
    }
    const kx = ay * bz - az * by;
    const ky = az * bx - ax * bz;
    const kz = ax * by - ay * bx;
    const along = (kx * x + ky * y + kz * z) / (1 + cosine);
    now[p] = cosine * x + ky * z - kz * y + along * kx;
    now[p + 1] = cosine * y + kz * x - kx * z + along * ky;
    now[p + 2] = cosine * z + kx * y - ky * x + along * kz;
  }
}

/** Placements as matrices and boxes for drawing and picking. */
import { Box3, Matrix4, Quaternion, Ray, Vector3 } from "three";
import { FLAG, NO_PROP, type Placements, type PropBounds } from "@/core/place";

export const isShown = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

/** Writes the matrix of placement `i`, relative to the placements' origin, into 16 numbers at `o`. */
export function writeMatrix(p: Placements, i: number, out: Float32Array, o: number): void {
  const q = 4 * i;
  const [x, y, z, w] = [p.rotation[q], p.rotation[q + 1], p.rotation[q + 2], p.rotation[q + 3]];
  const s = 3 * i;
  const [sx, sy, sz] = [p.scale[s], p.scale[s + 1], p.scale[s + 2]];
  out[o] = (1 - 2 * (y * y + z * z)) * sx;
  out[o + 1] = 2 * (x * y + z * w) * sx;
  out[o + 2] = 2 * (x * z - y * w) * sx;
  out[o + 3] = 0;
  out[o + 4] = 2 * (x * y - z * w) * sy;
  out[o + 5] = (1 - 2 * (x * x + z * z)) * sy;
  out[o + 6] = 2 * (y * z + x * w) * sy;
  out[o + 7] = 0;
  out[o + 8] = 2 * (x * z + y * w) * sz;
  out[o + 9] = 2 * (y * z - x * w) * sz;
  out[o + 10] = (1 - 2 * (x * x + y * y)) * sz;
  out[o + 11] = 0;
  out[o + 12] = p.position[s];
  out[o + 13] = p.position[s + 1];
  out[o + 14] = p.position[s + 2];
  out[o + 15] = 1;
}

/** The matrices of all shown placements of one prop: 16n numbers. */
export function matricesOf(p: Placements, prop: number): Float32Array {
  let n = 0;
  for (let i = 0; i < p.count; i++) if (p.prop[i] === prop && isShown(p, i)) n++;
  const out = new Float32Array(16 * n);
  let o = 0;
  for (let i = 0; i < p.count; i++) {
    if (p.prop[i] !== prop || !isShown(p, i)) continue;
    writeMatrix(p, i, out, o);
    o += 16;
  }
  return out;
}

const scratch = {
  matrix: new Matrix4(),
  ray: new Ray(),
  hit: new Vector3(),
  box: new Box3(),
  numbers: new Float32Array(16),
};

/** The distance along a world ray to the placement's box, or Infinity. */
function distanceTo(p: Placements, i: number, bounds: PropBounds, ray: Ray): number {
  writeMatrix(p, i, scratch.numbers, 0);
  scratch.matrix
    .fromArray(scratch.numbers)
    .setPosition(
      p.origin[0] + p.position[3 * i],
      p.origin[1] + p.position[3 * i + 1],
      p.origin[2] + p.position[3 * i + 2],
    );
  scratch.box.min.set(...bounds.min);
  scratch.box.max.set(...bounds.max);
  const { hit } = scratch;
  const local = scratch.ray.copy(ray).applyMatrix4(scratch.matrix.clone().invert());
  if (!local.intersectBox(scratch.box, hit)) return Infinity;
  return hit.applyMatrix4(scratch.matrix).distanceTo(ray.origin);
}

/** The nearest placement that a ray meets, by the boxes of the props. */
export function pick(
  p: Placements,
  bounds: ReadonlyMap<string, PropBounds>,
  ray: Ray,
): { index: number; distance: number } | null {
  let best: { index: number; distance: number } | null = null;
  const radius = p.props.map((id) => {
    const box = bounds.get(id);
    return box ? Math.hypot(...box.min.map((low, k) => Math.max(Math.abs(low), Math.abs(box.max[k])))) : 0;
  });
  const { origin, direction } = ray;
  for (let i = 0; i < p.count; i++) {
    if (!isShown(p, i)) continue;
    // A sphere about the prop's origin rules most of them out.
    const r = radius[p.prop[i]] * p.scale[3 * i];
    const x = p.origin[0] + p.position[3 * i] - origin.x;
    const y = p.origin[1] + p.position[3 * i + 1] - origin.y;
    const z = p.origin[2] + p.position[3 * i + 2] - origin.z;
    const along = x * direction.x + y * direction.y + z * direction.z;
    if (along < -r || x * x + y * y + z * z - along * along > r * r) continue;
    const box = bounds.get(p.props[p.prop[i]]);
    const distance = box ? distanceTo(p, i, box, ray) : Infinity;
    if (distance < Infinity && (!best || distance < best.distance)) best = { index: i, distance };
  }
  return best;
}

/** The world box around some placements, by their props' boxes. */
export function boxAround(
  p: Placements,
  bounds: ReadonlyMap<string, PropBounds>,
  wanted: (i: number) => boolean,
): Box3 {
  const box = new Box3();
  const corner = new Vector3();
  const turn = new Quaternion();
  for (let i = 0; i < p.count; i++) {
    if (!isShown(p, i) || !wanted(i)) continue;
    const own = bounds.get(p.props[p.prop[i]]);
    if (!own) continue;
    turn.set(p.rotation[4 * i], p.rotation[4 * i + 1], p.rotation[4 * i + 2], p.rotation[4 * i + 3]);
    for (let k = 0; k < 8; k++) {
      corner.set(k & 1 ? own.max[0] : own.min[0], k & 2 ? own.max[1] : own.min[1], k & 4 ? own.max[2] : own.min[2]);
      corner.multiplyScalar(p.scale[3 * i]).applyQuaternion(turn);
      corner.x += p.origin[0] + p.position[3 * i];
      corner.y += p.origin[1] + p.position[3 * i + 1];
      corner.z += p.origin[2] + p.position[3 * i + 2];
      box.expandByPoint(corner);
    }
  }
  return box;
}

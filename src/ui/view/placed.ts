/** Placements as boxes, for picking and for the camera. */
import type { PropBounds } from "@/core/mesh";
import { Box3, Matrix4, Ray, Sphere, Vector3 } from "three";
import { FLAG, NO_PROP, writeMatrix, type Drawn, type Placements } from "@/core/place";

export const isShown = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

/** The chunks of one prop. */
export function chunksOf({ prop }: Drawn, index: number): number[] {
  const chunks: number[] = [];
  for (let c = 0; c < prop.length; c++) if (prop[c] === index) chunks.push(c);
  return chunks;
}

export const sizeOfChunks = ({ from }: Drawn, chunks: readonly number[]): number =>
  chunks.reduce((sum, c) => sum + from[c + 1] - from[c], 0);

/** Writes the matrix of placement `i`, from the placements' origin, into 16 numbers. */
export function writeWhole(p: Placements, i: number, out: Float32Array): void {
  writeMatrix(p, i, out, 0);
  if (p.flags[i] & FLAG.mirrored) for (let k = 0; k < 3; k++) out[k] *= -1;
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
  writeWhole(p, i, scratch.numbers);
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

const largestScale = ({ scale }: Placements, i: number): number =>
  Math.max(scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]);

/** The nearest placement that a ray meets, by the boxes of the props. Chunks that it passes by are passed over. */
export function pick(
  p: Placements,
  drawn: Drawn,
  bounds: ReadonlyMap<string, PropBounds>,
  ray: Ray,
): { index: number; distance: number } | null {
  let best: { index: number; distance: number } | null = null;
  const around = new Box3();
  const { origin, direction } = ray;
  for (let c = 0; c < drawn.prop.length; c++) {
    const box = bounds.get(p.props[drawn.prop[c]]);
    if (!box || !ray.intersectsBox(chunkBox(p, drawn, c, around))) continue;
    const radius = Math.hypot(...box.min.map((low, k) => Math.max(Math.abs(low), Math.abs(box.max[k]))));
    for (let k = drawn.from[c]; k < drawn.from[c + 1]; k++) {
      const i = drawn.order[k];
      // A sphere about the prop's origin rules most of them out.
      const r = radius * largestScale(p, i);
      const x = p.origin[0] + p.position[3 * i] - origin.x;
      const y = p.origin[1] + p.position[3 * i + 1] - origin.y;
      const z = p.origin[2] + p.position[3 * i + 2] - origin.z;
      const along = x * direction.x + y * direction.y + z * direction.z;
      if (along < -r || x * x + y * y + z * z - along * along > r * r) continue;
      const distance = distanceTo(p, i, box, ray);
      if (distance < Infinity && (!best || distance < best.distance)) best = { index: i, distance };
    }
  }
  return best;
}

/** The box of a chunk in the world, a little larger than it is. */
function chunkBox({ origin }: Placements, { box }: Drawn, c: number, out: Box3): Box3 {
  const at = (k: number) => box[6 * c + k] + origin[k % 3];
  out.min.set(at(0), at(1), at(2));
  out.max.set(at(3), at(4), at(5));
  // What single precision may have cut off.
  return out.expandByScalar(1e-6 * (1 + out.max.distanceTo(out.min)));
}

/** A sphere about a chunk, from the placements' origin. */
export function chunkSphere({ box }: Drawn, c: number): Sphere {
  const [least, most] = [0, 3].map((k) => new Vector3().fromArray(box, 6 * c + k));
  return new Sphere(least.clone().add(most).multiplyScalar(0.5), 0.5 * least.distanceTo(most));
}

/** The world box around all that is shown. */
export function boxAroundAll(p: Placements, drawn: Drawn): Box3 {
  const [box, one] = [new Box3(), new Box3()];
  for (let c = 0; c < drawn.prop.length; c++) box.union(chunkBox(p, drawn, c, one));
  return box;
}

/** The world box around some placements, by their props' boxes. */
export function boxAround(p: Placements, bounds: ReadonlyMap<string, PropBounds>, members: readonly number[]): Box3 {
  const box = new Box3();
  for (const i of members) {
    const own = isShown(p, i) ? bounds.get(p.props[p.prop[i]]) : undefined;
    if (!own) continue;
    writeWhole(p, i, scratch.numbers);
    scratch.box.min.set(...own.min);
    scratch.box.max.set(...own.max);
    box.union(scratch.box.applyMatrix4(scratch.matrix.fromArray(scratch.numbers)));
  }
  return box.isEmpty() ? box : box.translate(new Vector3(...p.origin));
}

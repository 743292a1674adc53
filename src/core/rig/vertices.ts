/** Where the vertices of a rig's meshes are in a pose: morphed, then skinned by their joints or carried by their node. */
import { writeProduct, type Pose } from "./pose";
import { verticesOf, type Rig, type RigPart, type Skin } from "./rig";

/**
 * The vertices of all parts, one after the other, in the file's coordinates.
 *
 * @returns metres: 3v
 */
export function posedVertices(rig: Pick<Rig, "parts">, pose: Pose): Float64Array {
  const out = new Float64Array(3 * verticesOf(rig));
  let at = 0;
  for (const part of rig.parts) {
    const position = morphed(part, pose.weights[part.node]);
    if (part.skin) writeSkinned(out, at, position, part.skin, paletteOf(part.skin, pose.matrices));
    else writeCarried(out, at, position, pose.matrices, 12 * part.node);
    at += position.length;
  }
  return out;
}

function morphed({ position, targets }: RigPart, weights: Float64Array | null): ArrayLike<number> {
  if (!weights || targets.length === 0) return position;
  const out = Float64Array.from(position);
  targets.forEach((offset, k) => {
    const weight = weights[k] ?? 0;
    if (weight !== 0) for (let p = 0; p < out.length; p++) out[p] += weight * offset[p];
  });
  return out;
}

/** From the mesh as it was bound to where each joint has taken it: 12j. */
export function paletteOf({ joints, inverse }: Skin, matrices: Float64Array): Float64Array {
  const out = new Float64Array(12 * joints.length);
  for (let j = 0; j < joints.length; j++) writeProduct(out, 12 * j, matrices, 12 * joints[j], inverse, 12 * j);
  return out;
}

/**
 * Writes skinned vertices: *linear blend skinning*, the joints' matrices mixed by their weights.
 *
 * @param P 3v
 * @param palette 12j
 */
export function writeSkinned(
  out: Float64Array,
  at: number,
  P: ArrayLike<number>,
  { influences, joint, weight }: Skin,
  palette: Float64Array,
): void {
  for (let p = 0, i = 0; p < P.length; p += 3) {
    const [x, y, z] = [P[p], P[p + 1], P[p + 2]];
    let [a, b, c] = [0, 0, 0];
    for (const end = i + influences; i < end; i++) {
      const w = weight[i];
      if (w === 0) continue;
      const m = 12 * joint[i];
      a += w * (palette[m] * x + palette[m + 1] * y + palette[m + 2] * z + palette[m + 3]);
      b += w * (palette[m + 4] * x + palette[m + 5] * y + palette[m + 6] * z + palette[m + 7]);
      c += w * (palette[m + 8] * x + palette[m + 9] * y + palette[m + 10] * z + palette[m + 11]);
    }
    out[at + p] = a;
    out[at + p + 1] = b;
    out[at + p + 2] = c;
  }
}

function writeCarried(out: Float64Array, at: number, P: ArrayLike<number>, m: Float64Array, o: number): void {
  for (let p = 0; p < P.length; p += 3) {
    const [x, y, z] = [P[p], P[p + 1], P[p + 2]];
    for (let k = 0; k < 3; k++)
      out[at + p + k] = m[o + 4 * k] * x + m[o + 4 * k + 1] * y + m[o + 4 * k + 2] * z + m[o + 4 * k + 3];
  }
}

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
  skin: Skin,
  palette: Float64Array,
): void {
  out.fill(0, at, at + P.length);
  for (let set = 0; set < skin.influences; set += 4) addFour(out, at, P, skin, set, palette);
}

/**
 * Adds what four joints a vertex do. Their matrices are mixed first, entry by entry, which takes fewer products than to
 * carry the vertex by each: written out, since it is the innermost loop.
 */
function addFour(
  out: Float64Array,
  at: number,
  P: ArrayLike<number>,
  { influences, joint, weight }: Skin,
  set: number,
  M: Float64Array,
): void {
  const end = P.length;
  for (let p = 0, i = set; p < end; p += 3, i += influences) {
    const x = P[p];
    const y = P[p + 1];
    const z = P[p + 2];
    const a = weight[i];
    const b = weight[i + 1];
    const c = weight[i + 2];
    const d = weight[i + 3];
    const j = 12 * joint[i];
    const k = 12 * joint[i + 1];
    const l = 12 * joint[i + 2];
    const m = 12 * joint[i + 3];
    const o = at + p;
    out[o] +=
      (a * M[j] + b * M[k] + c * M[l] + d * M[m]) * x +
      (a * M[j + 1] + b * M[k + 1] + c * M[l + 1] + d * M[m + 1]) * y +
      (a * M[j + 2] + b * M[k + 2] + c * M[l + 2] + d * M[m + 2]) * z +
      (a * M[j + 3] + b * M[k + 3] + c * M[l + 3] + d * M[m + 3]);
    out[o + 1] +=
      (a * M[j + 4] + b * M[k + 4] + c * M[l + 4] + d * M[m + 4]) * x +
      (a * M[j + 5] + b * M[k + 5] + c * M[l + 5] + d * M[m + 5]) * y +
      (a * M[j + 6] + b * M[k + 6] + c * M[l + 6] + d * M[m + 6]) * z +
      (a * M[j + 7] + b * M[k + 7] + c * M[l + 7] + d * M[m + 7]);
    out[o + 2] +=
      (a * M[j + 8] + b * M[k + 8] + c * M[l + 8] + d * M[m + 8]) * x +
      (a * M[j + 9] + b * M[k + 9] + c * M[l + 9] + d * M[m + 9]) * y +
      (a * M[j + 10] + b * M[k + 10] + c * M[l + 10] + d * M[m + 10]) * z +
      (a * M[j + 11] + b * M[k + 11] + c * M[l + 11] + d * M[m + 11]);
  }
}

function writeCarried(out: Float64Array, at: number, P: ArrayLike<number>, m: Float64Array, o: number): void {
  for (let p = 0; p < P.length; p += 3) {
    const [x, y, z] = [P[p], P[p + 1], P[p + 2]];
    for (let k = 0; k < 3; k++)
      out[at + p + k] = m[o + 4 * k] * x + m[o + 4 * k + 1] * y + m[o + 4 * k + 2] * z + m[o + 4 * k + 3];
  }
}

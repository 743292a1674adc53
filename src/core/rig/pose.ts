/** Where all of a rig is at a moment of a clip: each node in the file, and how far meshes have morphed. */
import { writeChannel } from "./channel";
import type { Clip, Rig, RigNodes } from "./rig";

export interface Pose {
  /** From each node's coordinates into the file's, 3 rows of 4: 12n. */
  matrices: Float64Array;
  weights: readonly (Float64Array | null)[];
}

/**
 * @param clip null for how the rig stands by itself
 * @param t seconds of the clip
 */
export function poseAt({ nodes }: Pick<Rig, "nodes">, clip: Clip | null, t: number): Pose {
  const now = clip ? withChannels(nodes, clip, t) : nodes;
  return { matrices: matricesOf(now), weights: now.weights };
}

function withChannels(nodes: RigNodes, { channels }: Clip, t: number): RigNodes {
  const now = {
    ...nodes,
    translation: nodes.translation.slice(),
    rotation: nodes.rotation.slice(),
    scale: nodes.scale.slice(),
    weights: [...nodes.weights],
  };
  for (const channel of channels) {
    const { node, moves, width } = channel;
    if (moves !== "weights") writeChannel(channel, t, now[moves], width * node);
    else writeChannel(channel, t, (now.weights[node] = nodes.weights[node]!.slice()), 0);
  }
  return now;
}

function matricesOf({ parent, translation: T, rotation: R, scale: S }: RigNodes): Float64Array {
  const out = new Float64Array(12 * parent.length);
  const own = new Float64Array(12);
  for (let n = 0; n < parent.length; n++) {
    writeComposed(own, 0, T, 3 * n, R, 4 * n, S, 3 * n);
    if (parent[n] < 0) out.set(own, 12 * n);
    else writeProduct(out, 12 * n, out, 12 * parent[n], own, 0);
  }
  return out;
}

/** Writes the matrix that sizes, turns, then moves: 3 rows of 4. */
function writeComposed(
  out: Float64Array,
  o: number,
  T: Float64Array,
  t: number,
  R: Float64Array,
  r: number,
  S: Float64Array,
  s: number,
): void {
  const [x, y, z, w] = [R[r], R[r + 1], R[r + 2], R[r + 3]];
  const [a, b, c] = [S[s], S[s + 1], S[s + 2]];
  out[o] = (1 - 2 * (y * y + z * z)) * a;
  out[o + 1] = 2 * (x * y - z * w) * b;
  out[o + 2] = 2 * (x * z + y * w) * c;
  out[o + 3] = T[t];
  out[o + 4] = 2 * (x * y + z * w) * a;
  out[o + 5] = (1 - 2 * (x * x + z * z)) * b;
  out[o + 6] = 2 * (y * z - x * w) * c;
  out[o + 7] = T[t + 1];
  out[o + 8] = 2 * (x * z - y * w) * a;
  out[o + 9] = 2 * (y * z + x * w) * b;
  out[o + 10] = (1 - 2 * (x * x + y * y)) * c;
  out[o + 11] = T[t + 2];
}

/** Writes the product of two matrices of 3 rows of 4: first `b`, then `a`. */
export function writeProduct(
  out: Float64Array,
  o: number,
  a: ArrayLike<number>,
  p: number,
  b: ArrayLike<number>,
  q: number,
): void {
  for (let row = 0; row < 12; row += 4) {
    const [x, y, z, w] = [a[p + row], a[p + row + 1], a[p + row + 2], a[p + row + 3]];
    for (let column = 0; column < 4; column++)
      out[o + row + column] =
        x * b[q + column] + y * b[q + 4 + column] + z * b[q + 8 + column] + (column === 3 ? w : 0);
  }
}

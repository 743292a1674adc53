/**
 * Point caches that come in: as PC2 (`pc2.ts`), as a GLB that morphs, or as MDD, which is big-endian:
 *
 *     pictures, vertices; the moment of each picture, seconds; x y z of each vertex, picture by picture
 */
import { InputError } from "../schema";
import { poseAt, posedVertices, type PointCache } from "../rig";
import { hashOf } from "./assets";
import { readIncoming, type GivenFile } from "./incoming";
import { cacheIn, framesAPicture, isPointCache, readPointCache, told, viewOf, writePointCache } from "./pc2";
import { readTriangleMesh } from "./triangle-mesh";

/** A GLB is sampled into no more than so many numbers, and so many pictures. */
const MOST_NUMBERS = 150_000_000;
const MOST_PICTURES = 100_000;

/** A point cache that came in. */
export interface BroughtCache {
  asset: string;
  /** A PC2. */
  bytes: Uint8Array;
  vertices: number;
  pictures: number;
  /** Pictures a second. */
  rate: number;
}

const CACHE = /\.(pc2|mdd)$/i;

/**
 * Takes in a point cache: PC2, MDD, or a GLB or glTF whose first clip is played through.
 *
 * @param framesPerSecond of the scene: what a PC2's frames are counted in, and how finely a clip is sampled
 * @throws InputError when it is none, is damaged, or has nothing to play
 */
export async function bringInCache(
  main: GivenFile,
  others: readonly GivenFile[],
  framesPerSecond: number,
): Promise<BroughtCache> {
  const kind = CACHE.exec(main.name)?.[1].toLowerCase();
  const { cache, rate } =
    kind === "mdd"
      ? readMdd(main.bytes, main.name)
      : kind === "pc2" || isPointCache(main.bytes)
        ? { cache: readPointCache(main.bytes, main.name), rate: framesPerSecond / framesAPicture(main.bytes) }
        : await playedThrough(main, others, framesPerSecond);
  const bytes = writePointCache(cache);
  return { asset: hashOf(bytes), bytes, vertices: cache.vertices, pictures: cache.pictures, rate };
}

/** Its pictures may come at any moments; they are brought to even ones. */
function readMdd(bytes: Uint8Array, name: string): { cache: PointCache; rate: number } {
  const view = viewOf(bytes);
  const [pictures, vertices] = bytes.length >= 8 ? [view.getInt32(0), view.getInt32(4)] : [0, 0];
  const cache = cacheIn(view, 8 + 4 * Math.max(0, pictures), { vertices, pictures }, false, name);
  const moments = Float64Array.from({ length: pictures }, (_, k) => view.getFloat32(8 + 4 * k));
  const span = moments[pictures - 1] - moments[0];
  const rising = moments.every((at, k) => k === 0 || at > moments[k - 1]);
  if (pictures === 1 || !rising || !(span > 1e-3 && span < 1e6)) return { cache, rate: DEFAULT_RATE };
  const rate = (pictures - 1) / span;
  const even = moments.every((at, k) => Math.abs((at - moments[0]) * rate - k) < 0.01);
  return { cache: even ? cache : evened(cache, moments), rate };
}

const DEFAULT_RATE = 24;

function evened({ vertices, pictures, position }: PointCache, moments: Float64Array): PointCache {
  const size = 3 * vertices;
  const out = new Float32Array(position.length);
  let k = 0;
  for (let picture = 0; picture < pictures; picture++) {
    const at = moments[0] + (picture / (pictures - 1)) * (moments[pictures - 1] - moments[0]);
    while (k < pictures - 2 && moments[k + 1] <= at) k++;
    const share = Math.max(0, Math.min(1, (at - moments[k]) / (moments[k + 1] - moments[k])));
    for (let p = 0; p < size; p++) {
      const from = position[size * k + p];
      out[size * picture + p] = from + share * (position[size * (k + 1) + p] - from);
    }
  }
  return { vertices, pictures, position: out };
}

async function playedThrough(
  main: GivenFile,
  others: readonly GivenFile[],
  framesPerSecond: number,
): Promise<{ cache: PointCache; rate: number }> {
  const { bytes } = await readIncoming(main, others);
  const { position: rest, rig } = await readTriangleMesh(bytes, main.name);
  const clip = rig?.clips[0];
  if (!rig || !clip || clip.seconds === 0) throw new InputError(`Nothing in “${main.name}” moves, so there is nothing to replay.`); // prettier-ignore
  const pictures = Math.ceil(clip.seconds * framesPerSecond) + 1;
  const vertices = rest.length / 3;
  if (pictures > MOST_PICTURES || 3 * vertices * pictures > MOST_NUMBERS)
    throw new InputError(`“${main.name}” comes to ${told(pictures)} pictures of ${told(vertices)} vertices, which is more than can be kept. Bring it as the surface's own file instead.`); // prettier-ignore
  const position = new Float32Array(3 * vertices * pictures);
  for (let k = 0; k < pictures; k++)
    position.set(posedVertices(rig, poseAt(rig, clip, (k / (pictures - 1)) * clip.seconds)), 3 * vertices * k);
  return { cache: { vertices, pictures, position }, rate: (pictures - 1) / clip.seconds };
}

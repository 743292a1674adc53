/**
 * PC2, the form in which point caches are kept: where a simulation left the vertices of a mesh, picture by picture.
 * Little-endian:
 *
 *     "POINTCACHE2\0", version, vertices, first frame, frames a picture, pictures; x y z of each vertex, picture by picture
 */
import { FARTHEST, InputError } from "../schema";
import type { PointCache } from "../rig";

const MAGIC = "POINTCACHE2\0";
const HEADER = 32;
/** Bytes of a vertex. */
const VERTEX = 12;

export const isPointCache = (bytes: Uint8Array): boolean =>
  bytes.length >= MAGIC.length && [...MAGIC].every((letter, i) => bytes[i] === letter.charCodeAt(0));

export const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/**
 * Reads a PC2.
 *
 * @throws InputError when it is none, or is cut short or damaged
 */
export function readPointCache(bytes: Uint8Array, name: string): PointCache {
  if (!isPointCache(bytes)) throw new InputError(`“${name}” is no point cache: PC2 begins with “POINTCACHE2”.`);
  const view = viewOf(bytes);
  const whole = bytes.length >= HEADER;
  const [vertices, pictures] = whole ? [view.getInt32(16, true), view.getInt32(28, true)] : [0, 0];
  return cacheIn(view, HEADER, { vertices, pictures }, true, name);
}

/** Places from a byte on. @throws InputError when there are fewer bytes than it says, or places that are none */
export function cacheIn(
  view: DataView,
  from: number,
  { vertices, pictures }: Omit<PointCache, "position">,
  littleEndian: boolean,
  name: string,
): PointCache {
  if (!(vertices > 0 && pictures > 0)) throw new InputError(`“${name}” cannot be read: it is damaged or empty.`);
  const numbers = 3 * vertices * pictures;
  if (from + 4 * numbers > view.byteLength) {
    const found = Math.max(0, Math.floor((view.byteLength - from) / (VERTEX * vertices)));
    throw new InputError(
      `“${name}” is cut short: it should have ${told(pictures)} pictures of ${told(vertices)} vertices and has ${told(found)}. Copy or export it again.`,
    );
  }
  const position = new Float32Array(numbers);
  for (let k = 0; k < numbers; k++) {
    const x = view.getFloat32(from + 4 * k, littleEndian);
    if (!(Math.abs(x) <= FARTHEST)) {
      const picture = Math.floor(k / 3 / vertices) + 1;
      throw new InputError(`“${name}” cannot be used: in picture ${picture} a vertex has a place that is no number, or lies too far away.`); // prettier-ignore
    }
    position[k] = x;
  }
  return { vertices, pictures, position };
}

export const told = (n: number): string => n.toLocaleString("en");

/** A point cache as it is kept. */
export function writePointCache({ vertices, pictures, position }: PointCache): Uint8Array {
  const bytes = new Uint8Array(HEADER + 4 * position.length);
  const view = viewOf(bytes);
  for (let i = 0; i < MAGIC.length; i++) bytes[i] = MAGIC.charCodeAt(i);
  view.setInt32(12, 1, true);
  view.setInt32(16, vertices, true);
  view.setFloat32(24, 1, true);
  view.setInt32(28, pictures, true);
  for (let k = 0; k < position.length; k++) view.setFloat32(HEADER + 4 * k, position[k], true);
  return bytes;
}

/** How many of the scene's frames each picture lasts. */
export function framesAPicture(bytes: Uint8Array): number {
  const frames = viewOf(bytes).getFloat32(24, true);
  return frames >= 1e-3 && frames <= 1e3 ? frames : 1;
}

/** *A point cache*: where the vertices of a mesh were, picture by picture, as a simulation left them. */
export interface PointCache {
  vertices: number;
  /** The number of pictures. */
  pictures: number;
  /** Picture by picture: 3 · vertices · pictures. */
  position: Float32Array;
}

/**
 * The vertices at a picture, or between two.
 *
 * @param at from 0 to pictures − 1; beyond them the nearest
 * @returns 3 · vertices
 */
export function cachedVertices({ vertices, pictures, position }: PointCache, at: number): Float32Array {
  const within = Math.max(0, Math.min(pictures - 1, at));
  const first = Math.floor(within);
  const share = within - first;
  const size = 3 * vertices;
  const from = position.subarray(size * first, size * (first + 1));
  if (share === 0) return from;
  const to = position.subarray(size * (first + 1), size * (first + 2));
  const out = new Float32Array(size);
  for (let p = 0; p < size; p++) out[p] = from[p] + share * (to[p] - from[p]);
  return out;
}

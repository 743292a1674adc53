/** How large files become, reckoned before they are written. */

/**
 * About how many bytes an animation takes at most: each frame a shape of every surface that has another one in it and
 * of every line, and a place, turn and size of every placement that moves.
 */
export function animationBytes(vertices: number, points: number, placements: number, frames: number): number {
  return frames * (vertices * BYTES_PER_VERTEX + points * BYTES_PER_POINT + placements * BYTES_PER_PLACEMENT);
}
/** A place and a normal in single precision. */
const BYTES_PER_VERTEX = 24;
const BYTES_PER_POINT = 12;
/** A place and a turn, with their moments, before they are thinned out. */
const BYTES_PER_PLACEMENT = 36;

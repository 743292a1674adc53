/** The nearest place of a straight piece: of a segment that begins at the origin and goes to `d`, for a point `p`. */

/** Where along the segment the nearest place to a point is, from 0 to 1; 0 where it has no length. */
export function shareOnSegment(px: number, py: number, pz: number, dx: number, dy: number, dz: number): number {
  const along = px * dx + py * dy + pz * dz;
  const squared = dx * dx + dy * dy + dz * dz;
  return !(along > 0) ? 0 : along >= squared ? 1 : along / squared;
}

/** The squared distance of a point from the nearest place of the segment. */
export function squaredToSegment(px: number, py: number, pz: number, dx: number, dy: number, dz: number): number {
  const share = shareOnSegment(px, py, pz, dx, dy, dz);
  const x = px - share * dx;
  const y = py - share * dy;
  const z = pz - share * dz;
  return x * x + y * y + z * z;
}

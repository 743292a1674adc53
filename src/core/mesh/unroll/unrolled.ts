/** What comes of laying a mesh flat. */
export interface Unrolled {
  /** The triangles by vertices of their own, as many as the mesh has: 3m. */
  index: Uint32Array;
  /** Where these lie: x to the right, y downwards, metres: 2n. */
  places: Float64Array;
  parts: number;
  /** Metres of seams, each counted once. */
  seams: number;
  /** How many triangles have turned over. */
  flipped: number;
}

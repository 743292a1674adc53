/** What sampling a field comes to. */
/** A field has at most so many positions. */
export const MAX_SAMPLES = 2_000_000;
/** *Positions on a field*, before anything is left out of them. */
export interface Samples {
  count: number;
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  /** Unit normals of the triangles, in the world: 3n. */
  normal: Float32Array;
  /** The field's triangle that each lies on: n. */
  triangle: Uint32Array;
  /** What each is known by in its field, `LOCAL_BITS` bits, rising: n. */
  id: Uint32Array;
  /** In what order they join as they become more: n; null where all came at once. */
  joinOrder: Float64Array | null;
}

/** Positions as they are found, in the volume's own coordinates. */
export interface Growing {
  position: number[];
  local: number[];
  joinOrder: number[];
}

export const emptySamples = (count: number): Samples => ({
  count,
  position: new Float64Array(3 * count),
  normal: new Float32Array(3 * count),
  triangle: new Uint32Array(count),
  id: new Uint32Array(count),
  joinOrder: null,
});

/** Places that are asked how full they may be, and what may keep them free. */

/** Places on a field with the normals there. */
export interface Spots {
  count: number;
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  normal: Float32Array;
  /** The field's triangle that each lies on: n. */
  triangle: Uint32Array;
}

/** What can keep a place free. */
export type Reason =
  | "walls"
  | "outside"
  | "paint"
  | "mask"
  | "slope"
  | "height"
  | "facing"
  | "uv"
  | "distance"
  | "edge";

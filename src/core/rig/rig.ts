/**
 * *A rig*: what makes the meshes of a file move. A tree of nodes, meshes that hang from them or are skinned by them, shapes
 * that they may morph into, and clips that say where all of that is when.
 *
 * Source: Khronos Group, glTF 2.0 Specification (ISO/IEC 12113:2022), 3.5 to 3.7 and appendix C.
 */

export interface Rig {
  nodes: RigNodes;
  /** The vertices of the file's mesh, in its order. */
  parts: readonly RigPart[];
  clips: readonly Clip[];
}

/** Nodes, each after the one that it hangs from, as they stand where no clip says otherwise. */
export interface RigNodes {
  /** -1 for what hangs from nothing: n. */
  parent: Int32Array;
  /** Metres: 3n. */
  translation: Float64Array;
  /** Unit quaternions: 4n. */
  rotation: Float64Array;
  /** 3n. */
  scale: Float64Array;
  /** How far each mesh is on its way to the shapes that it may morph into; null where there are none: n. */
  weights: readonly (Float64Array | null)[];
}

export interface RigPart {
  /** The node that it hangs from. */
  node: number;
  /** In the node's own coordinates, metres: 3v. */
  position: Float32Array;
  /** How far each vertex is from there in each of the shapes that it may morph into, metres: 3v each. */
  targets: readonly Float32Array[];
  skin: Skin | null;
}

/** How bones carry the vertices of a part. */
export interface Skin {
  /** Nodes: j. */
  joints: Uint32Array;
  /** From the mesh into each joint's coordinates where they were bound, 3 rows of 4: 12j. */
  inverse: Float64Array;
  /** So many joints a vertex, in fours: k. */
  influences: number;
  /** Which of the joints: kv. */
  joint: Uint16Array;
  /** By how much, adding up to one a vertex: kv. */
  weight: Float32Array;
}

export interface Clip {
  name: string;
  /** When its last keyframe is, seconds from its beginning. */
  seconds: number;
  channels: readonly Channel[];
}

/** What of a node a channel moves. */
export type Moved = "translation" | "rotation" | "scale" | "weights";

export interface Channel {
  node: number;
  moves: Moved;
  interpolation: "STEP" | "LINEAR" | "CUBICSPLINE";
  /** Ascending, seconds: k. */
  times: Float64Array;
  /** k · width, or for cubic splines in-tangent, value and out-tangent each: k · 3 · width. */
  values: Float64Array;
  /** Numbers a keyframe. */
  width: number;
}

/** The number of vertices of all parts. */
export const verticesOf = ({ parts }: Pick<Rig, "parts">): number =>
  parts.reduce((sum, { position }) => sum + position.length / 3, 0);

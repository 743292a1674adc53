/**
 * *How placements differ in shape from their props*: bent along their line, clipped at its ends. A shape is told in the
 * line's own frame at the placement's foot; those that come to the same share one form, so that it is made only once.
 *
 * A point of the prop goes by the form's matrix into the line's frame (across, up, along), is clipped by its two planes,
 * and then, where there are samples, carried from the straight way along onto the bent one; the entry's frame at last
 * puts it into the world. What is bent over a surface is told in a frame on that instead (left, up, ahead), and carried by a
 * piece of it that is laid flat.
 */

/** Numbers of a form's matrix, rows first; of its two planes; of a sample. */
export const MATRIX = 12;
export const PLANES = 8;
export const SAMPLE = 8;
/** Numbers of a triangle of a piece: for each corner left and ahead, position (3) and normal (3). */
export const PIECE = 24;

export interface Shapes {
  /** For each placement its entry, or -1 for those that stand just as their prop is: n. */
  entry: Int32Array;
  /** Per entry: position from the placements' origin (3, metres) and rotation (quaternion, 4) of its frame: 7m. */
  frame: Float32Array;
  /** Per entry its form: m. */
  form: Uint32Array;
  /** Per form the index of its prop. */
  prop: Uint16Array;
  /** Per form, from the prop's coordinates into the line's frame: 12f. */
  matrix: Float32Array;
  /** Per form two planes a b c d: kept is what has a·x + b·y + c·z ≤ d, everything where d is infinite: 8f. */
  planes: Float32Array;
  /** Per form where its samples begin, and at last how many there are: f + 1. None for what is only clipped. */
  sampleAt: Uint32Array;
  /** Per sample: how far along the straight way, and there the bent one's position (3) and rotation (4): 8 numbers. */
  samples: Float32Array;
  /** Per form where its piece of a surface begins and ends, which several may share: 2f. Empty for what bends along a line. */
  pieceAt: Uint32Array;
  /** Per triangle of a piece: where its corners lie flat, left and ahead of the foot, and where they lie bent: 24 numbers. */
  pieces: Float32Array;
  /** Per form how sharply its piece breaks at most, radians: f. */
  crease: Float32Array;
  /** By how much edges of what is bent over a surface may be off it, metres: they are cut until they are not. */
  off: number;
}

/** Corner k of the triangle at `t` of a piece: left, ahead, position (3), normal (3). */
export const cornerOf = (t: number, k: number): number => t + (k * PIECE) / 3;

/** The entry of placement `i`, or -1. */
export const entryOf = (shapes: Shapes | null, i: number): number => (shapes ? shapes.entry[i] : -1);

/** Whether a form has samples, so is bent, and how many. */
export const samplesOf = ({ sampleAt }: Shapes, form: number): number => sampleAt[form + 1] - sampleAt[form];

/** The triangles of a form's piece of a surface; empty for what lies on none. */
export const pieceOf = ({ pieceAt, pieces }: Shapes, form: number): Float32Array =>
  pieces.subarray(PIECE * pieceAt[2 * form], PIECE * pieceAt[2 * form + 1]);

export const buffersOfShapes = ({
  entry,
  frame,
  form,
  prop,
  matrix,
  planes,
  sampleAt,
  samples,
  pieceAt,
  pieces,
  crease,
}: Shapes) =>
  [entry, frame, form, prop, matrix, planes, sampleAt, samples, pieceAt, pieces, crease].map(
    (array) => array.buffer as ArrayBuffer,
  );

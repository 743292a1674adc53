/** What a drawing is once it is read: outlines in one plane. */

/** A piece of an outline, from where the one before ended, in the drawing's own units; y points down. */
export type Segment =
  | { kind: "line"; to: Point }
  | { kind: "cubic"; first: Point; second: Point; to: Point }
  /** Radii, the turn of the first of them from x towards y in degrees, and which of the four ways it goes. */
  | { kind: "arc"; radii: Point; turn: number; large: boolean; sweep: boolean; to: Point };

export type Point = readonly [x: number, y: number];

/** One outline of an element: from its start to its end, or back to its start. */
export interface Outline {
  /** Says which it is, as long as the file is otherwise the same: the element's name, or its place, and which of its outlines. */
  part: string;
  start: Point;
  segments: Segment[];
  closed: boolean;
  /** Whether what lies within it is left out of what is filled. */
  hole: boolean;
}

export interface Drawing {
  outlines: Outline[];
  /** Its size as it says itself, metres. */
  width: number;
  height: number;
  /** How many metres a unit is at that size, and where the drawing's middle is, in its units. */
  unit: number;
  middle: Point;
  /** What it holds that is not read, in words, each once. */
  unread: string[];
}

/** Letters of the demo scene, cut from boards: to be set on by their backs, their heads towards their fronts. */
import type { Vec3 } from "@/core/math";
import { hex, MeshBuilder, type Paint } from "./shapes";

/** Metres. */
const [HIGH, THICK] = [0.16, 0.014];
/** How broad strokes are, as a share of the height. */
const STROKE = 0.2;

type Corner = readonly [right: number, up: number];

const box = (left: number, foot: number, right: number, head: number): Corner[] => [
  [left, foot],
  [right, foot],
  [right, head],
  [left, head],
];
/** A stroke that leans from its foot to its head; where their left edges are. */
const leaning = (from: number, to: number, foot = 0, head = 1): Corner[] => [
  [from, foot],
  [from + 1.1 * STROKE, foot],
  [to + 1.1 * STROKE, head],
  [to, head],
];
const WIDE = 0.72;
const LEFT = box(0, 0, STROKE, 1);
const RIGHT = box(WIDE - STROKE, 0, WIDE, 1);
const bar = (foot: number, from = STROKE, to = WIDE) => box(from, foot, to, foot + STROKE);

/** Convex strokes within a height of 1. */
const STROKES: Readonly<Record<string, readonly Corner[][]>> = {
  G: [LEFT, bar(0), bar(1 - STROKE), box(WIDE - STROKE, STROKE, WIDE, 0.55), bar(0.55 - STROKE, 0.42, WIDE - STROKE)],
  U: [LEFT, RIGHT, bar(0, STROKE, WIDE - STROKE)],
  L: [LEFT, bar(0)],
  H: [LEFT, RIGHT, bar(0.4, STROKE, WIDE - STROKE)],
  A: [leaning(0, 0.27), leaning(0.54, 0.27), bar(0.2, 0.2, 0.6)],
  V: [leaning(0.27, 0), leaning(0.27, 0.54)],
  E: [LEFT, bar(0), bar(0.4, STROKE, 0.62), bar(1 - STROKE)],
  N: [LEFT, RIGHT, leaning(0.5, 0)],
};

/** All letters there are. */
export const LETTERS = Object.keys(STROKES);

/** A letter, 0.16 m high; the middle of its back at the origin. */
export function letter(name: string): MeshBuilder {
  const paint: Paint = { color: hex("#efe3cb"), roughness: 0.55 };
  const edge: Paint = { color: hex("#b89a63"), roughness: 0.7 };
  const mesh = new MeshBuilder();
  // Seen from above with its front upwards, right is against X.
  const at = ([right, up]: Corner, y: number): Vec3 => [HIGH * (WIDE / 2 - right), y, HIGH * (up - 0.5)];
  for (const stroke of STROKES[name]) {
    mesh.polygon(paint, stroke.map((corner) => at(corner, THICK))); // prettier-ignore
    stroke.forEach((corner, k) => {
      const next = stroke[(k + 1) % stroke.length];
      mesh.polygon(edge, [at(corner, 0), at(next, 0), at(next, THICK), at(corner, THICK)]);
    });
  }
  return mesh;
}

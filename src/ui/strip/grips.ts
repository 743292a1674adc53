/** *What can be taken hold of on the strip* besides placements: insets, the slide, and gaps that are held open. */
import type { Dressing } from "@/core/place";
import { layoutOf, rackLayout, type RackLayout, type StripScene } from "./layout";
import type { StripView } from "./model";

export type Grip =
  | { kind: "inset"; end: "fromStart" | "fromEnd" }
  | { kind: "slide" }
  /** Where a line starts that may start anywhere. */
  | { kind: "start" }
  /** The height of a rack, or its depth where that is seen from above. */
  | { kind: "rack" }
  /** A held gap: one of its ends, or all of it. */
  | { kind: "gap"; index: number; part: "from" | "to" | "whole" };

/** Height of the bars that gaps are held by, and of the slide's grip; they lie on the free side of the cord, pixels. */
export const BAR = 8;
/** The radius of the ring at a start that can be moved, pixels. */
export const START = 6;
/** Ends can be taken hold of within so many pixels. */
const NEAR = 5;

/** Half the breadth of what a rack's height is pulled by, and how far it lies before the line's start, pixels. */
export const PULL = 9;
const BEFORE = 14;

/** Where a rack's height, or its depth, is pulled. */
export const pullAt = ({ least, most, scale }: RackLayout, cord: number, start: number): { x: number; y: number } => ({
  x: Math.max(PULL + 3, start - BEFORE),
  // What hangs is pulled at its lower end.
  y: cord - 1 - (most > 1e-9 ? most : least) * scale,
});

/** Where the bar of a row begins, from the cord. */
export const barTop = (hangs: boolean, cord: number): number => (hangs ? cord - BAR - 4 : cord + 4);

export interface HeldGap {
  /** Index among the dressing's stretches. */
  index: number;
  from: number;
  to: number;
}

/** The stretches held open on a line, one that runs through a closed line's start as two pieces. */
export function gapsOn({ gaps }: Dressing, line: string, length: number, closed: boolean): HeldGap[] {
  return gaps.stretches.flatMap((stretch, index) => {
    if (stretch.line !== line) return [];
    const { from, to } = stretch;
    if (!closed || (from <= to && from >= 0 && to <= length)) return [{ index, from, to }];
    const wrap = (at: number) => at - Math.floor(at / length) * length;
    const [a, b] = [wrap(from), wrap(to)];
    if (a <= b) return [{ index, from: a, to: b }];
    return [
      { index, from: a, to: length },
      { index, from: 0, to: b },
    ];
  });
}

/** What lies under a place of a row, in pixels of the strip. */
export function gripAt(scene: StripScene, view: StripView, row: number, px: number, py: number): Grip | null {
  const { line, length, closed } = scene.rows[row];
  const { hangs, cord } = layoutOf(scene, row);
  const { fromStart, fromEnd, slide } = scene.dressing.spacing;
  const near = (at: number) => Math.abs((at - view.from) * view.scale - px) <= NEAR;
  const top = barTop(hangs, cord);
  const rack = rackLayout(scene, row, view.scale);
  const pull = rack && pullAt(rack, cord, -view.from * view.scale);
  if (pull && Math.abs(pull.x - px) <= PULL + 2 && Math.abs(pull.y - py) <= 9) return { kind: "rack" };
  if (scene.movable[row] && near(0) && Math.abs(py - cord) <= START + 3) return { kind: "start" };
  if (py >= top - 3 && py <= top + BAR + 3) {
    for (const { index, from, to } of gapsOn(scene.dressing, line, length, closed)) {
      const at = px / view.scale + view.from;
      if (near(from)) return { kind: "gap", index, part: "from" };
      if (near(to)) return { kind: "gap", index, part: "to" };
      if (at > from && at < to) return { kind: "gap", index, part: "whole" };
    }
    if (near(fromStart + slide)) return { kind: "slide" };
  }
  if (near(fromStart)) return { kind: "inset", end: "fromStart" };
  return near(length - fromEnd) ? { kind: "inset", end: "fromEnd" } : null;
}

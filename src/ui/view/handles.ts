/** Where the handles of a Bézier line are drawn and taken hold of. */
import { handlesOf, type Line } from "@/core/line";
import { add, type Vec3 } from "@/core/math";
import type { Side } from "../state";

export interface HandleEnd {
  knot: number;
  side: Side;
  position: Vec3;
}

/** The ends of a Bézier line's handles. */
export function handleEnds(line: Line, knots: readonly number[]): HandleEnd[] {
  if (line.kind !== "bezier") return [];
  const last = line.knots.length - 1;
  return knots.flatMap((knot) => {
    const held = line.knots[knot];
    if (!held || held.join === "corner") return [];
    const handles = handlesOf(line.knots, line.closed, knot);
    const sides = (["before", "after"] as const).filter(
      (side) => line.closed || (side === "before" ? knot > 0 : knot < last),
    );
    return sides.map((side) => ({ knot, side, position: add(held.position, handles[side]) }));
  });
}

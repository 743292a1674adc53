/** What is moved or drawn catches on things under the pointer, or on the grid. */
import type { Vec3 } from "@/core/math";
import { useSession } from "../state";
import { useMove } from "./move-state";
import { onGrid, type SnapTarget } from "./snap";
import type { Aim } from "./aim";

/** Knots and handles are taken hold of, and targets caught on, within so many pixels. */
export const KNOT = 12;

/** The target under the pointer, or the nearest crossing of the grid; held down, Ctrl catches on nothing. */
export function caughtOn(
  aim: Aim,
  targets: readonly SnapTarget[],
  event: { ctrlKey: boolean; metaKey: boolean },
  aimed: Vec3,
): Vec3 {
  const { snap } = useSession.getState();
  const off = event.ctrlKey || event.metaKey;
  const found =
    off || !snap.knots
      ? null
      : aim.nearest(
          targets.map(({ position }) => position),
          KNOT,
        );
  useMove.setState({ caught: found === null ? null : targets[found] });
  if (found !== null) return targets[found].position;
  return off || snap.grid <= 0 ? aimed : onGrid(aimed, snap.grid);
}

/** What is moved or drawn catches on things under the pointer, or on the grid; the wheel goes through those, a key lets go. */
import type { Vec3 } from "@/core/math";
import { useSession } from "../state";
import { useMove } from "./move-state";
import { onGrid, type SnapTarget } from "./snap";
import { snapsNear, type But } from "./snap-field";
import type { Aim } from "./aim";

/** Knots and handles are taken hold of, and targets caught on, within so many pixels. */
export const KNOT = 12;

export type Held = { ctrlKey: boolean; metaKey: boolean };

/** Held down, Ctrl lets go for as long, and a key until what is held is put down. */
const letsGo = ({ ctrlKey, metaKey }: Held): boolean => ctrlKey || metaKey || useMove.getState().letGo;

/** Whether nothing is caught on but the grid. */
export const catchesNothing = (event: Held): boolean => letsGo(event) || !useSession.getState().snap.knots;

/** What has a name comes before what lies by so many pixels nearer and has none. */
const NAMED = 6;

/** A target, and how far it lies from a place on screen, pixels. */
export interface Near {
  target: SnapTarget;
  far: number;
}

/** Of some targets those within so many pixels of a place on screen. */
export function within(aim: Aim, targets: readonly SnapTarget[], reach: number, [x, y] = aim.pixel): Near[] {
  return targets.flatMap((target): Near[] => {
    const pixel = aim.pixelOf(target.position);
    const far = pixel ? Math.hypot(pixel[0] - x, pixel[1] - y) : Infinity;
    return far <= reach ? [{ target, far: target.name === undefined ? far : far - NAMED }] : [];
  });
}

/** The nearest of those that could be caught, or the one that the wheel has gone on to; it is told, and what is near besides. */
export function chosenOf<N extends Near>(found: N[], near: readonly SnapTarget[]): N | null {
  found.sort((a, b) => a.far - b.far);
  const { turn, near: before } = useMove.getState();
  const n = found.length;
  const chosen = n > 0 ? found[((turn % n) + n) % n] : null;
  // The same as before draws nothing anew.
  const same = before.length === near.length && before.every((one, i) => isAt(one, near[i]));
  useMove.setState({ caught: chosen?.target ?? null, others: n, ...(!same && { near }) });
  return chosen;
}

const isAt = (a: SnapTarget, b: SnapTarget): boolean =>
  a.what === b.what && a.position.every((x, k) => x === b.position[k]);

/**
 * The target under the pointer, or the nearest crossing of the grid, or the place that is aimed at.
 *
 * @param aimed null where the pointer is on nothing
 * @param props whether the snap points of props count
 * @param but those that do not: what hangs on what is moved
 */
export function caughtOn(
  aim: Aim,
  targets: readonly SnapTarget[],
  event: Held,
  aimed: Vec3 | null,
  props = true,
  but: But | null = null,
): Vec3 | null {
  const nothing = catchesNothing(event);
  const near = nothing || !props ? [] : snapsNear(aim, but);
  const caught = chosenOf(nothing ? [] : within(aim, [...targets, ...near], KNOT), near);
  if (caught) return caught.target.position;
  const { grid } = useSession.getState().snap;
  return aimed && (letsGo(event) || grid <= 0 ? aimed : onGrid(aimed, grid));
}

/** What a knot, or what stands somewhere, is to be tied to where it is caught now; null for nothing. */
export const tieCaught = (what: "tie" | "tieProps" = "tie") => {
  const { caught } = useMove.getState();
  return (useSession.getState().snap[what] && caught?.tie?.()) || null;
};

/** What is moved or drawn catches on things under the pointer, or on the grid; the wheel goes through those, a key lets go. */
import type { Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import { useResults, useSession } from "../state";
import { useMove } from "./move-state";
import { onGrid, type SnapTarget } from "./snap";
import { SnapField, type But } from "./snap-field";
import type { Aim } from "./aim";

/** Knots and handles are taken hold of, and targets caught on, within so many pixels. */
export const KNOT = 12;

type Held = { ctrlKey: boolean; metaKey: boolean };

/** Whether nothing is caught on: held down, Ctrl lets go for as long, and a key until what is held is put down. */
const isOff = ({ ctrlKey, metaKey }: Held): boolean => ctrlKey || metaKey || useMove.getState().letGo;

let seen: { sight: string; results: unknown; but: But | null; field: SnapField } | null = null;

/** The snap points of props near the pointer; of those that are held none. */
export function snapsNear(aim: Aim, but: But | null = null): SnapTarget[] {
  const { sight } = aim;
  const results = useResults.getState().byDressing;
  // What is dragged takes others along, and where these were when it was taken is near enough to find them.
  const drags = useSceneStore.getState().history.drag !== null;
  if (seen?.sight !== sight || seen.but !== but || (seen.results !== results && !drags))
    seen = { sight, results, but, field: new SnapField(aim, but) };
  return seen.field.near(...aim.pixel);
}

/** Lets go of what was looked at, when the hand is empty again. */
export const forgetSnaps = (): void => void (seen = null);

/** What has a name comes before what lies by so many pixels nearer and has none. */
const NAMED = 6;

/** Of some targets those within so many pixels of a place on screen, the nearest first. */
export function within(aim: Aim, targets: readonly SnapTarget[], reach: number, at = aim.pixel): SnapTarget[] {
  const found: { target: SnapTarget; far: number }[] = [];
  for (const target of targets) {
    const pixel = aim.pixelOf(target.position);
    const far = pixel ? Math.hypot(pixel[0] - at[0], pixel[1] - at[1]) : Infinity;
    if (far <= reach) found.push({ target, far: target.name === undefined ? far : far - NAMED });
  }
  return found.sort((a, b) => a.far - b.far).map(({ target }) => target);
}

/** Says what is caught, out of how many, and what is near; the same as before says nothing anew. */
export function showCaught(caught: SnapTarget | null, others: number, near: readonly SnapTarget[]): void {
  const before = useMove.getState();
  const named = near.filter(({ frame }) => frame);
  const same = before.near.length === named.length && before.near.every((one, i) => one.what === named[i].what && one.position.every((x, k) => x === named[i].position[k])); // prettier-ignore
  useMove.setState({ caught, others, ...(!same && { near: named }) });
}

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
  const { snap } = useSession.getState();
  const off = isOff(event);
  const near = off || !snap.knots || !props ? [] : snapsNear(aim, but);
  const found = off || !snap.knots ? [] : within(aim, [...targets, ...near], KNOT);
  const { turn } = useMove.getState();
  const caught = found.length > 0 ? found[((turn % found.length) + found.length) % found.length] : null;
  showCaught(caught, found.length, near);
  if (caught) return caught.position;
  return aimed && (off || snap.grid <= 0 ? aimed : onGrid(aimed, snap.grid));
}

/** What is to be tied where something is caught now; null for nothing. */
export const tieCaught = () => {
  const { caught } = useMove.getState();
  return (useSession.getState().snap.tie && caught?.tie?.()) || null;
};

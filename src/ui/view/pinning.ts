/** Pins in the view: put down by a click, slid over surfaces by a drag, from one onto another; copied with Alt. */
import { add, subtract, type Vec3 } from "@/core/math";
import { kindOf, type Key } from "@/core/place";
import type { Scene } from "@/core/scene";
import type { Tie } from "@/core/tie";
import { useSceneStore } from "@/store";
import {
  dressingOf,
  fieldOf,
  pinAt,
  runningLinesNow,
  selectPlacements,
  useSession,
  writePinCopies,
  writePinMoved,
  type PinPlace,
} from "../state";
import type { Aim } from "./aim";
import { caughtOn } from "./caught";
import { useMove } from "./move-state";
import { takenPlacements, type HeldPlacements } from "./pegging";
import { snapTargets } from "./snap";
import type { Draft } from "immer";

/** Pins that have been taken hold of. */
export interface HeldPins extends Omit<HeldPlacements, "kind"> {
  kind: "pins";
  /** The one that was taken, which is slid where the pointer is. */
  taken: Key;
  copied: boolean;
}

export function startPinning(): void {
  const { drawProp, dressing: id } = useSession.getState();
  const { props, dressings } = useSceneStore.getState().shown;
  if (props.length === 0) return;
  // Into a dressing of pins there goes more of what it has already.
  const pins = dressings.find((one) => one.id === id && kindOf(one.where).pins);
  const own = pins?.what.entries.find(({ prop }) => prop !== null)?.prop;
  if (own) useSession.setState({ drawProp: own });
  const known = own || props.some((prop) => prop.id === drawProp);
  useSession.setState({
    tool: "pin",
    hover: null,
    moving: null,
    grip: null,
    ...(!known && { drawProp: props.at(-1)!.id }),
  });
}

export const stopPinning = (): void => {
  useMove.setState({ caught: null, onto: null });
  if (useSession.getState().tool === "pin") useSession.setState({ tool: "select" });
};

/** Pins the prop that was picked where the pointer is; nothing beside all surfaces. */
export function pinUnder(aim: Aim, event: { ctrlKey: boolean; metaKey: boolean }): void {
  const { dressing, drawProp } = useSession.getState();
  const place = placeUnder(aim, event);
  if (place && drawProp !== null) pinAt(dressing, place, drawProp);
}

/**
 * Where the pointer is on a surface. As long as Catch is on, it is caught on corners, middles of edges and of faces, on lines and
 * snap points: what is caught on lies at the place of the surface that is nearest to that.
 *
 * @param held what is slid there, which it is not caught on
 */
export function placeUnder(
  aim: Aim,
  event: { ctrlKey: boolean; metaKey: boolean },
  held: Pick<HeldPins, "dressing" | "from"> | null = null,
): PinPlace | null {
  const met = aim.met();
  if (!met) return null;
  const { surface, point, uv, corners } = met;
  const but = held && { dressings: NO_DRESSINGS, dressing: held.dressing, keys: new Set(held.from.keys()) };
  const at = caughtOn(aim, [...targetsOf(corners), ...snapTargets(runningLinesNow())], event, null, true, but);
  return at === null ? { surface, point, uv } : { surface, point: at, uv: null };
}

const NO_DRESSINGS: ReadonlySet<string> = new Set();

function targetsOf(corners: readonly Vec3[]): { position: Vec3; what: string }[] {
  const middle = (...of: readonly Vec3[]): Vec3 =>
    [0, 1, 2].map((k) => of.reduce((sum, one) => sum + one[k], 0) / of.length) as unknown as Vec3;
  const [a, b, c] = corners;
  return [
    ...corners.map((position) => ({ position, what: "a corner" })),
    ...[middle(a, b), middle(b, c), middle(c, a)].map((position) => ({ position, what: "the middle of an edge" })),
    { position: middle(a, b, c), what: "the middle of a face" },
  ];
}

type Hit = { dressing: string; key: Key } | null;

/** Whether what the pointer is on is a pin. */
export function isPin(hit: Hit): boolean {
  const found = hit && dressingOf(useSceneStore.getState().shown, hit.dressing);
  return found ? kindOf(found.where).pins : false;
}

/** What a press on a pin takes hold of where it is selected; presses on others select. */
export const takenSelectedPin = (hit: Hit, alt: boolean): HeldPins | null =>
  hit && useSession.getState().keys.has(hit.key) ? takenPin(hit, alt) : null;

/** What a press on a pin takes hold of: all that are selected, where it is one of them; else it alone. */
export function takenPin(hit: Hit, alt: boolean): HeldPins | null {
  if (!hit || !isPin(hit)) return null;
  const { keys, dressing } = useSession.getState();
  if (dressing !== hit.dressing || !keys.has(hit.key)) selectPlacements(hit.dressing, [hit.key]);
  const held = takenPlacements(hit);
  return held && { ...held, kind: "pins", taken: hit.key, copied: alt };
}

/** Slides all that are held: the one that was taken to where the pointer is, tied to what it is caught on; the others by as much. */
export function slidePins(
  draft: Draft<Scene>,
  { dressing, from, taken, copied }: HeldPins,
  to: PinPlace,
  tie: Tie | null = null,
): void {
  if (copied) writePinCopies(draft, dressing, [...from.keys()]);
  const by = subtract(to.point, from.get(taken)!);
  const pins = dressingOf(useSceneStore.getState().shown, dressing);
  for (const [key, start] of from) {
    if (key === taken) writePinMoved(draft, dressing, key, to, tie);
    else {
      const surface = pins && fieldOf(pins, key);
      if (surface) writePinMoved(draft, dressing, key, { surface, point: add(start, by), uv: null });
    }
  }
}

/** A loose prop caught by one of its own snap points on that of another: both meet, their directions opposed. */
import { add, type Vec3 } from "@/core/math";
import { indicesOf, LOOSE, standingAt, type Key } from "@/core/place";
import { snapPointsOf, type Prop, type Scene } from "@/core/scene";
import { hungBy, snapFrame, type SnapPoint, type Standing, type Tie } from "@/core/tie";
import { useSceneStore } from "@/store";
import { isCaught, useResults, useSession, writePegs, dressingOf } from "../state";
import { KNOT, showCaught, snapsNear, within } from "./caught";
import { useMove } from "./move-state";
import type { HeldPlacements } from "./pegging";
import type { SnapTarget } from "./snap";
import type { But } from "./snap-field";
import type { Aim } from "./aim";
import type { Draft } from "immer";

/** Where a loose prop would hang, and by what of its own. */
export interface Hook {
  key: Key;
  by: string;
  free: boolean;
  on: NonNullable<SnapTarget["frame"]>;
  /** Where its origin comes to lie. */
  point: Vec3;
  tie: Tie | null;
}

/** A single loose placement in hand. */
export interface Hooking {
  key: Key;
  start: Standing;
  snaps: readonly SnapPoint[];
  but: But;
}

/** What of some held placements may catch by its own snap points; null where these are several, or no loose ones. */
export function hookingOf({ dressing, field, from }: HeldPlacements): Hooking | null {
  const placements = useResults.getState().byDressing.get(dressing)?.placements;
  const [key] = from.keys();
  if (field !== LOOSE || from.size !== 1 || !placements) return null;
  const [i] = indicesOf(placements.key, [key]);
  const standing = i === undefined ? null : standingAt(placements, i);
  const prop = useSceneStore.getState().shown.props.find(({ id }) => id === standing?.prop) as Prop | undefined;
  if (!standing || !prop) return null;
  const all = snapPointsOf(prop);
  const own = all.filter((snap) => snap.own);
  return {
    key,
    start: standing,
    snaps: own.length > 0 ? own : all.filter(({ name }) => name === "top" || name === "bottom"),
    but: { dressings: new Set(), dressing, keys: new Set([key]) },
  };
}

/** The hook nearest to where the pointer wants the prop; null where there is none, or nothing is to be caught. */
export function hookAt(
  aim: Aim,
  hooking: Hooking,
  by: Vec3,
  { ctrlKey, metaKey }: { ctrlKey: boolean; metaKey: boolean },
): Hook | null {
  const { snap } = useSession.getState();
  const { letGo, turn } = useMove.getState();
  if (!snap.knots || ctrlKey || metaKey || letGo) {
    showCaught(null, 0, []);
    return null;
  }
  const standing = { ...hooking.start, position: add(hooking.start.position, by) };
  const near = snapsNear(aim, hooking.but);
  const found = hooking.snaps.flatMap((own) => {
    const pixel = aim.pixelOf(snapFrame(standing, own).position);
    return pixel ? within(aim, near, 2 * KNOT, pixel).map((target) => ({ own, target, far: farFrom(aim, pixel, target) })) : []; // prettier-ignore
  });
  found.sort((a, b) => a.far - b.far);
  const chosen = found.length > 0 ? found[((turn % found.length) + found.length) % found.length] : null;
  showCaught(chosen?.target ?? null, found.length, near);
  if (!chosen?.target.frame) return null;
  const { own, target } = chosen;
  const free = own.free && target.free !== false;
  const { position } = hungBy(standing, own, target.frame!, free);
  const tie = snap.tieProps ? (target.tie?.() ?? null) : null;
  return { key: hooking.key, by: own.name, free, on: target.frame!, point: position, tie };
}

function farFrom(aim: Aim, [x, y]: readonly [number, number], { position }: SnapTarget): number {
  const pixel = aim.pixelOf(position);
  return pixel ? Math.hypot(pixel[0] - x, pixel[1] - y) : Infinity;
}

/** Writes into the draft what a loose prop hangs by; off its hook it stands by itself again. */
export function writeHook(draft: Draft<Scene>, dressing: string, key: Key, hook: Hook | null): void {
  const edited = dressingOf(draft, dressing);
  if (!edited) return;
  writePegs(edited, [key], (peg) => {
    if (!hook) {
      if (peg.hangs && peg.held && isCaught(peg.held as Tie)) delete peg.held;
      delete peg.hangs;
      return;
    }
    const { by, free, on, tie } = hook;
    peg.hangs = { by, free, at: [...on.position], turned: [...on.rotation], turn: peg.hangs?.turn ?? 0 };
    peg.point = [...hook.point];
    if (tie) peg.held = tie as Draft<Tie>;
    else if (peg.held && isCaught(peg.held as Tie)) delete peg.held;
  });
}

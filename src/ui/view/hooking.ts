/** A loose prop caught by one of its own snap points on that of another: both meet, their directions opposed. */
import { add, type Vec3 } from "@/core/math";
import { indicesOf, LOOSE, standingAt, type Key } from "@/core/place";
import { snapPointsOf, type Prop, type Scene } from "@/core/scene";
import {
  back,
  carriedFrame,
  carriedPoint,
  hungBy,
  snapFrame,
  type SnapPoint,
  type Standing,
  type Tie,
} from "@/core/tie";
import { useSceneStore } from "@/store";
import { carryOf, dressingOf, isCaught, useResults, useSession, writePegs } from "../state";
import { catchesNothing, chosenOf, KNOT, within, type Held } from "./caught";
import type { HeldPlacements } from "./pegging";
import type { SnapTarget } from "./snap";
import { snapsNear, type But } from "./snap-field";
import type { Aim } from "./aim";
import type { Draft } from "immer";

/** Where a loose prop would hang, and by what of its own. */
export interface Hook {
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
export function hookAt(aim: Aim, hooking: Hooking, by: Vec3, event: Held): Hook | null {
  const standing = { ...hooking.start, position: add(hooking.start.position, by) };
  const nothing = catchesNothing(event);
  const near = nothing ? [] : snapsNear(aim, hooking.but);
  const found = hooking.snaps.flatMap((own) => {
    const pixel = aim.pixelOf(snapFrame(standing, own).position);
    return pixel ? within(aim, near, 2 * KNOT, pixel).map((one) => ({ ...one, own })) : [];
  });
  const chosen = chosenOf(found, near);
  const on = chosen?.target.frame;
  if (!chosen || !on) return null;
  const { own, target } = chosen;
  const free = own.free && target.free !== false;
  const { position } = hungBy(standing, own, on, free);
  const tie = useSession.getState().snap.tieProps ? (target.tie?.() ?? null) : null;
  return { by: own.name, free, on, point: position, tie };
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
    const { by, free, tie } = hook;
    if (tie) peg.held = tie as Draft<Tie>;
    else if (peg.held && isCaught(peg.held as Tie)) delete peg.held;
    // What holds it still, besides, has carried it to where it is seen.
    const carry = !tie && peg.held ? carryOf(dressing, key) : undefined;
    const on = carry ? carriedFrame(back(carry), hook.on) : hook.on;
    peg.hangs = { by, free, at: [...on.position], turned: [...on.rotation], turn: peg.hangs?.turn ?? 0 };
    peg.point = [...(carry ? carriedPoint(back(carry), hook.point) : hook.point)];
  });
}

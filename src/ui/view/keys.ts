/** To whom a key belongs, and what it moves of what is selected in the view. */
import { add, type Vec3 } from "@/core/math";
import type { Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { lineOf, millimetre, moveKnots, placesOf, surfaceOf, useSession } from "../state";
import { focusedLine } from "./selecting";
import type { Draft } from "immer";

/** Whether somebody writes there. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** What a focused control does something with by itself. */
const CONTROLS =
  "button, a, summary, [role=button], [role=radio], [role=switch], [role=slider], [role=separator], [role=menuitem], [role=option]";
const OF_CONTROLS = /^(Enter| |Arrow.*|Page.*)$/;

/** Whether a key belongs to the control that has the focus. */
export const ownsKey = ({ target, key }: KeyboardEvent): boolean =>
  OF_CONTROLS.test(key) && target instanceof Element && target.closest(CONTROLS) !== null;

/** Moves selected knots, or the surface that is being moved, by so many metres; false where there is nothing to be moved. */
export function stepSelected(by: Vec3): boolean {
  const { focus, knots, moving } = useSession.getState();
  const { change, shown } = useSceneStore.getState();
  const line = focusedLine();
  if (line && knots.length > 0 && line.laid?.kind !== "edges") {
    const from = placesOf(line, knots);
    const move = (draft: Draft<Scene>) => {
      const moved = lineOf(draft, line.id);
      if (moved) moveKnots(moved, from, by);
    };
    change("Move knot", move, "keys");
    return true;
  }
  const surface = focus.kind === "surface" && focus.id === moving ? surfaceOf(shown, focus.id) : undefined;
  if (!surface || surface.locked) return false;
  const move = (draft: Draft<Scene>) => {
    const moved = surfaceOf(draft, surface.id);
    if (moved) moved.position = add(surface.position, by).map(millimetre) as [number, number, number];
  };
  change("Move surface", move, "keys");
  return true;
}

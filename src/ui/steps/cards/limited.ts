/** *What has limits that say how much of it there is where*: a dressing's gaps, and movers of surfaces. Their controls are the same. */
import type { Dressing, Limits } from "@/core/place";
import type { Mover } from "@/core/movers";
import type { Scene, Surface } from "@/core/scene";
import { dressingOf, editDressing, editMover, surfaceOf } from "../../state";
import type { Draft } from "immer";

export interface Limited {
  limits: Limits;
  /** Finds them in a draft of the scene. */
  find: (scene: Draft<Scene>) => Draft<Limits> | undefined;
  /** Changes them as one step. */
  change: (label: string, change: (limits: Draft<Limits>) => void) => void;
}

export const limitsOfGaps = ({ id, gaps }: Dressing): Limited => ({
  limits: gaps,
  find: (scene) => dressingOf(scene, id)?.gaps,
  change: (label, change) => editDressing(id, label, (draft) => change(draft.gaps)),
});

export const limitsOfMover = (surface: Surface, { id }: Mover, limits: Limits): Limited => ({
  limits,
  find: (scene) =>
    (surfaceOf(scene, surface.id)?.movers.find((one) => one.id === id)?.limits as Draft<Limits> | undefined) ??
    undefined,
  change: (label, change) =>
    editMover(surface.id, id, label, (draft) => {
      if (draft.limits) change(draft.limits as Draft<Limits>);
    }),
});

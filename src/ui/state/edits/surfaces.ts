/** Edits of surfaces. */
import { toast } from "sonner";
import { freeName, newId, type Scene, type Surface } from "@/core/scene";
import { selectNothing, selectSurface } from "../session";
import { editing, scene, store } from "./common";
import type { Draft } from "immer";

export function surfaceOf(draft: Draft<Scene>, id: string): Draft<Surface> | undefined;
export function surfaceOf(scene: Scene, id: string): Surface | undefined;
export function surfaceOf(any: Scene | Draft<Scene>, id: string): Surface | Draft<Surface> | undefined {
  return any.surfaces.find((surface) => surface.id === id);
}

export const editSurface = editing<Surface>((draft, id) => surfaceOf(draft, id));

const names = (): string[] => scene().surfaces.map(({ name }) => name);

/** Takes surfaces into the scene and selects the last of them. */
export function addSurfaces(surfaces: readonly Surface[]): void {
  const taken = names();
  const named = surfaces.map((surface) => {
    const name = freeName(surface.name, taken);
    taken.push(name);
    return { ...surface, name };
  });
  store().change(named.length === 1 ? "Add surface" : "Add surfaces", (draft) => {
    draft.surfaces.push(...(named as Draft<Surface>[]));
  });
  selectSurface(named[named.length - 1].id);
}

/** A copy beside the surface, with what is spread over it: whatever dresses it dresses the copy. */
export function duplicateSurface(id: string): void {
  const surface = surfaceOf(scene(), id);
  if (!surface) return;
  const [x, y, z] = surface.position;
  const copy = { ...surface, id: newId(), name: freeName(surface.name, names()), position: [x + 1, y, z + 1] as const };
  store().change("Duplicate surface", (draft) => {
    draft.surfaces.push(copy as unknown as Draft<Surface>);
    for (const { where, pegs, gaps } of draft.dressings) {
      if (!where.surfaces.includes(id)) continue;
      where.surfaces.push(copy.id);
      const { strokes } = gaps.paint;
      strokes.push(...strokes.filter(({ on }) => on === id).map((stroke) => ({ ...stroke, on: copy.id })));
      pegs.push(...pegs.filter(({ line, added }) => line === id && !added).map((peg) => ({ ...peg, line: copy.id })));
    }
  });
  selectSurface(copy.id);
}

export function deleteSurface(id: string): void {
  const surface = surfaceOf(scene(), id);
  if (!surface) return;
  store().change("Delete surface", (draft) => {
    draft.surfaces = draft.surfaces.filter((one) => one.id !== id);
    for (const dressing of draft.dressings) {
      const { fit, stance, where, gaps } = dressing;
      fit.onto = fit.onto.filter((one) => one !== id);
      where.surfaces = where.surfaces.filter((one) => one !== id);
      gaps.distances = gaps.distances.filter(({ to }) => to !== id);
      gaps.paint.strokes = gaps.paint.strokes.filter(({ on }) => on !== id);
      dressing.pegs = dressing.pegs.filter(({ line }) => line !== id);
      if (stance.thing === id) stance.thing = null;
    }
  });
  selectNothing();
  toast(`Deleted the surface “${surface.name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

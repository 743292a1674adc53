/** Edits of surfaces. */
import { hexOf, keyOfHex, keyOnOther, kindOf, type Dressing } from "@/core/place";
import { toast } from "sonner";
import { boxSchema, isSolid, MADE_KINDS, madeSchema, thingsOf, type Made, type MadeKind } from "@/core/made";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { freeName, newId, surfaceSchema, type Scene, type Surface } from "@/core/scene";
import { selectNothing, selectSurface, useSession } from "../session";
import { liftFrom } from "./laid";
import { dressingOf, editing, scene, store } from "./common";
import { addDressing, beginWalls, overFields } from "./dressings";
import { familiesWithout } from "./families";
import { hideParts, makeOf, makeWithout } from "./made";
import { dropPegs } from "./pegs";
import { loosenPins } from "./loosen";
import { writeSownCopies } from "./sown";
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
    // What is added to an assembly that is open is to be seen in it.
    return { ...surface, name, part: store().opened.length > 0 };
  });
  store().change(named.length === 1 ? "Add surface" : "Add surfaces", (draft) => {
    draft.surfaces.push(...(named as Draft<Surface>[]));
    for (const { made } of named) if (made) hideParts(draft, thingsOf(made), true);
  });
  selectSurface(named[named.length - 1].id);
  useSession.setState({ cameraWish: { kind: "surface", id: named[named.length - 1].id } });
}

/** How a made surface begins: of a line or a surface, if one is given, or else by its defaults. */
function begun(kind: MadeKind, line: Line | undefined, surface: string | null): Made {
  const at = line?.knots[0].position ?? [0, 0, 0];
  if (kind === "revolve") return madeSchema.parse({ kind, line: line?.id ?? null, through: [at[0], 0, at[2]] });
  if (kind === "band") return madeSchema.parse({ kind, line: line?.id ?? null });
  if (kind === "tube") return madeSchema.parse({ kind, lines: line ? [line.id] : [] });
  if (kind === "shell" || kind === "smoothed") return madeSchema.parse({ kind, of: surface });
  if (kind === "solid") return madeSchema.parse({ kind, parts: surface === null ? [] : [{ id: 0, of: surface }] });
  if (kind === "loft") return madeSchema.parse({ kind, lines: line ? [line.id] : [] });
  return madeSchema.parse({ kind });
}

/** A surface that is made by numbers or lines, those that are made by numbers at a point; selects it. */
export function makeSurface(kind: MadeKind, at: Vec3): void {
  const { focus } = useSession.getState();
  const line = focus.kind === "line" ? scene().lines.find(({ id }) => id === focus.id) : undefined;
  const surface = focus.kind === "surface" ? focus.id : null;
  const { label } = MADE_KINDS[kind];
  const made = begun(kind, line, surface);
  const position = kind === "box" || kind === "bumps" ? at.map((value) => Math.round(10 * value) / 10) : [0, 0, 0];
  addSurfaces([surfaceSchema.parse({ id: newId(), name: label, made, position, ground: !isSolid(made) })]);
}

/** A new dressing of a prop inside a new box, with the middle of its bottom at a point. */
export function dressBox(prop: string, at: Vec3): void {
  const { width, height, depth } = boxSchema.parse({ kind: "box" });
  const box = boxAt(at);
  const dressing = overFields({ volumes: [box.id] }, width * height * depth, prop);
  addDressing(dressing, (draft) => void draft.surfaces.push(box as unknown as Draft<Surface>));
}

/** A box for something to fill, drawn by its edges. */
function boxAt(at: Vec3): Surface {
  const name = freeName("Space", names());
  const position = at.map((value) => Math.round(10 * value) / 10);
  const made = madeSchema.parse({ kind: "box" });
  return surfaceSchema.parse({ id: newId(), name, made, position, ground: false, outline: true });
}

/** A box for a dressing to fill, drawn by its edges, with the middle of its bottom at a point. */
export function makeVolume(dressing: string, at: Vec3): void {
  const box = boxAt(at);
  store().change("Make a volume", (draft) => {
    draft.surfaces.push(box as unknown as Draft<Surface>);
    const filling = dressingOf(draft, dressing);
    if (!filling) return;
    filling.where.volumes.push(box.id);
    beginWalls(filling);
  });
}

export const editMade = <T extends Made>(id: string, label: string, edit: (made: Draft<T>) => void): void =>
  editSurface(id, label, ({ made }) => {
    if (made) edit(made as Draft<T>);
  });

/** Makes a surface of other things than before; those that become parts of it are not drawn any more, those that are no more are. */
export function remakeOf(id: string, label: string, edit: (made: Draft<Made>) => void): void {
  store().change(label, (draft) => {
    const made = surfaceOf(draft, id)?.made;
    if (!made) return;
    const before = thingsOf(made as Made);
    edit(made);
    const now = thingsOf(made as Made);
    hideParts(
      draft,
      before.filter((one) => !now.includes(one)),
      false,
    );
    hideParts(
      draft,
      now.filter((one) => !before.includes(one)),
      true,
    );
  });
}

/** A copy beside the surface, with what is spread over it: whatever dresses it dresses the copy. */
export function duplicateSurface(id: string): void {
  const surface = surfaceOf(scene(), id);
  if (!surface) return;
  const [x, y, z] = surface.position;
  const copy = { ...surface, id: newId(), name: freeName(surface.name, names()), position: [x + 1, y, z + 1] as const };
  store().change("Duplicate surface", (draft) => {
    draft.surfaces.push(copy as unknown as Draft<Surface>);
    for (const dressing of draft.dressings) {
      const { where, pegs, gaps } = dressing;
      const lists = [where.surfaces, where.volumes].filter((list) => list.includes(id));
      if (lists.length === 0) continue;
      for (const list of lists) list.push(copy.id);
      writeSownCopies(dressing, id, copy.id);
      const { strokes } = gaps.paint;
      strokes.push(...strokes.filter(({ on }) => on === id).map((stroke) => ({ ...stroke, on: copy.id })));
      for (const [hex, peg] of Object.entries(pegs)) {
        const key =
          peg.on === id && !peg.added ? keyOnOther(keyOfHex(hex), copy.id, where as Dressing["where"], []) : null;
        if (key !== null) pegs[hexOf(key)] = { ...peg, on: copy.id };
      }
    }
  });
  selectSurface(copy.id);
}

/** Puts several surfaces in the place of one: whatever named it names all of them. */
export function replaceSurfaceBy(id: string, parts: readonly Surface[]): void {
  const taken = names();
  const named = parts.map((part) => {
    const name = freeName(part.name, taken);
    taken.push(name);
    return { ...part, name };
  });
  const ids = named.map((part) => part.id);
  const all = (list: readonly string[]) => list.flatMap((one) => (one === id ? ids : one));
  store().change("Part surface", (draft) => {
    const at = draft.surfaces.findIndex((surface) => surface.id === id);
    draft.surfaces.splice(at, 1, ...(named as unknown as Draft<Surface>[]));
    makeOf(draft, id, ids);
    for (const { where, fit, gaps, stance } of draft.dressings) {
      where.surfaces = all(where.surfaces);
      where.volumes = all(where.volumes);
      fit.onto = all(fit.onto);
      gaps.distances = gaps.distances.flatMap((one) => (one.to === id ? ids.map((to) => ({ ...one, to })) : one));
      gaps.paint.strokes = gaps.paint.strokes.flatMap((one) =>
        one.on === id ? ids.map((on) => ({ ...one, on })) : one,
      );
      if (stance.thing === id) stance.thing = ids[0];
    }
    for (const line of draft.lines) {
      if (line.laid?.kind === "surface") line.laid.on = all(line.laid.on).slice(0, 1000);
      if (line.drawnOn.includes(id)) line.drawnOn = all(line.drawnOn).slice(0, 100);
    }
    liftFrom(draft, id);
  });
  selectSurface(ids[0]);
}

export function deleteSurface(id: string): void {
  const surface = surfaceOf(scene(), id);
  if (!surface) return;
  store().change("Delete surface", (draft) => {
    draft.surfaces = draft.surfaces.filter((one) => one.id !== id);
    makeWithout(draft, id);
    familiesWithout(draft, id);
    if (surface.made) hideParts(draft, thingsOf(surface.made), false);
    for (const line of draft.lines)
      if (line.drawnOn.includes(id)) line.drawnOn = line.drawnOn.filter((on) => on !== id);
    liftFrom(draft, id);
    for (const dressing of draft.dressings) {
      const { fit, stance, where, gaps } = dressing;
      fit.onto = fit.onto.filter((one) => one !== id);
      where.surfaces = where.surfaces.filter((one) => one !== id);
      where.volumes = where.volumes.filter((one) => one !== id);
      if (kindOf(dressing.where as Dressing["where"]).pins) loosenPins(dressing, surface);
      gaps.distances = gaps.distances.filter(({ to }) => to !== id);
      gaps.paint.strokes = gaps.paint.strokes.filter(({ on }) => on !== id);
      dropPegs(dressing, id);
      dressing.sown = dressing.sown.filter(({ on }) => on !== id);
      if (stance.thing === id) stance.thing = null;
    }
  });
  selectNothing();
  toast(`Deleted the surface “${surface.name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

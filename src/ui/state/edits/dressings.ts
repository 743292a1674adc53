/** Edits of dressings as a whole. */
import { toast } from "sonner";
import { STEP_SCHEMAS, type Dressing } from "@/core/place";
import { dressLine, dressOver, freeName, newId, suiting, type Prop, type Scene, type Suiting } from "@/core/scene";
import { selectDressing } from "../session";
import { dressingOf, editDressing, scene, store } from "./common";
import { familiesWithout } from "./families";
import { makeWithout } from "./made";
import type { Draft } from "immer";

/** The name that a dressing of a prop, or of a mix by its first, begins with. */
const nameFor = (prop: string): string =>
  freeName(
    propsOf(prop)[0]?.name ?? "Dressing",
    scene().dressings.map((one) => one.name),
  );

/** A dressing with the prop or mix itself as its only entry, instead of the props that it comes to. */
function withEntry(dressing: Dressing, prop: string): Dressing {
  const entries = dressing.what.entries.slice(0, 1).map((entry) => ({ ...entry, prop }));
  return { ...dressing, what: { ...dressing.what, entries } };
}

/** A new dressing of a line with a prop or mix, not yet part of the scene. */
export const alongLine = (line: string, prop: string): Dressing =>
  withEntry(dressLine(newId(), nameFor(prop), line, propsOf(prop)), prop);

/** What a dressing is spread over or fills, by ids. */
type Fields = Parameters<typeof dressOver>[2];

/** A new dressing of a prop or mix over or inside something, not yet part of the scene. */
export const overFields = (where: Fields, extent: number, prop: string): Dressing =>
  withEntry(dressOver(newId(), nameFor(prop), where, extent, propsOf(prop)), prop);

/** Takes a new dressing into the scene, with whatever else comes with it, and selects it. */
export function addDressing(dressing: Dressing, also: (draft: Draft<Scene>) => void = () => undefined): void {
  store().change("Dress", (draft) => {
    also(draft);
    draft.dressings.push(dressing as Draft<Dressing>);
    for (const id of dressing.where.volumes) showInside(draft, id);
  });
  selectDressing(dressing.id);
}

/** A new dressing of a line with a prop. */
export const dress = (line: string, prop: string): void => addDressing(alongLine(line, prop));

/** A new dressing of a prop over a surface, within an area that has none, or inside a volume. */
export const dressField = (where: Fields, extent: number, prop: string): void =>
  addDressing(overFields(where, extent, prop));

/** A box that is filled shows what is in it. */
export function showInside(draft: Draft<Scene>, id: string): void {
  const surface = draft.surfaces.find((one) => one.id === id);
  if (surface?.made?.kind === "box") surface.outline = true;
}

/** A new dressing of a prop that begins with nothing to lie on: an area that is still to be drawn, or loose. @returns its id */
export function dressNothing(kind: "over" | "loose", prop: string): string {
  const begun = overFields({}, 1, prop);
  addDressing({ ...begun, where: { ...begun.where, kind } });
  return begun.id;
}

/** The props that a dressing's sequence is made of. */
const propsAmong = ({ what }: Pick<Dressing, "what">): Prop[] =>
  what.entries.flatMap(({ prop }) => (prop ? propsOf(prop) : []));

/** What suits the props of a dressing. */
export const suitingFor = (dressing: Dressing): Suiting => suiting(dressing, propsAmong(dressing));

/** Changes which props there are; a distance that came from their size follows it, one that was chosen stays. */
export function editEntries(id: string, label: string, edit: (what: Draft<Dressing["what"]>) => void): void {
  const before = dressingOf(scene(), id);
  if (!before) return;
  const followed = before.what.entries.length === 0 || suitingFor(before).distance === before.spacing.distance;
  editDressing(id, label, (draft) => {
    edit(draft.what);
    const props = propsAmong(draft as Dressing);
    if (followed && props.length > 0) draft.spacing.distance = suiting(draft as Dressing, props).distance;
  });
}

/** What was left at its default begins from the size of the props: rows when there are some, room between when it is kept. */
export function beginRows(draft: Draft<Dressing>, before: Dressing): void {
  if (before.fit.rows > 1 || draft.fit.rows < 2 || before.fit.rowDistance !== STANDARD_FIT.rowDistance) return;
  draft.fit.rowDistance = suitingFor(before).rowDistance;
}

export function beginClearance(draft: Draft<Dressing>, before: Dressing): void {
  if (before.fit.clear !== "off" || before.fit.clearance !== STANDARD_FIT.clearance) return;
  if (draft.fit.clear !== "off") draft.fit.clearance = suitingFor(before).clearance;
}

/** What fills something keeps from its walls by its own radius, as long as nobody has said how far. */
export function beginWalls(draft: Draft<Dressing>): void {
  if (draft.gaps.walls === 0 && draft.where.volumes.length === 1)
    draft.gaps.walls = suitingFor({ ...(draft as Dressing), where: { ...draft.where, kind: "inside" } }).walls;
}

/** Has a dressing fill a volume; a box shows what is in it from then on. */
export const addVolume = (dressing: string, volume: string): void =>
  store().change("Add volume", (draft) => {
    const filling = dressingOf(draft, dressing);
    if (!filling) return;
    filling.where.volumes.push(volume);
    beginWalls(filling);
    showInside(draft, volume);
  });

const STANDARD_FIT = STEP_SCHEMAS.fit.parse({});

export function duplicateDressing(id: string): void {
  const original = dressingOf(scene(), id);
  if (!original) return;
  const name = freeName(
    original.name,
    scene().dressings.map((d) => d.name),
  );
  const copy = { ...structuredClone(original), id: newId(), name };
  store().change("Duplicate dressing", (draft) => {
    draft.dressings.splice(draft.dressings.findIndex((d) => d.id === id) + 1, 0, copy as Draft<Dressing>);
  });
  selectDressing(copy.id);
}

export function deleteDressing(id: string): void {
  const index = scene().dressings.findIndex((d) => d.id === id);
  if (index < 0) return;
  const { name } = scene().dressings[index];
  store().change("Delete dressing", (draft) => {
    draft.dressings.splice(index, 1);
    clearAway(draft, id);
  });
  const rest = scene().dressings;
  selectDressing(rest[Math.min(index, rest.length - 1)]?.id ?? null);
  toast(`Deleted the dressing “${name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

/** What names a dressing that goes does so no more. */
export function clearAway(draft: Draft<Scene>, id: string): void {
  makeWithout(draft, id);
  familiesWithout(draft, id);
  for (const { fit, gaps } of draft.dressings) {
    gaps.distances = gaps.distances.filter(({ to }) => to !== id);
    fit.ontoProps = fit.ontoProps.filter((one) => one !== id);
    fit.clearOf = fit.clearOf.filter((one) => one !== id);
  }
}

export function moveDressing(id: string, before: string): void {
  store().change("Reorder dressings", (draft) => {
    const from = draft.dressings.findIndex((d) => d.id === id);
    const to = draft.dressings.findIndex((d) => d.id === before);
    if (from < 0 || to < 0) return;
    const [moved] = draft.dressings.splice(from, 1);
    draft.dressings.splice(to, 0, moved);
  });
}

/** A prop, or the props of a mix. */
export function propsOf(id: string): Prop[] {
  const { props, mixes } = scene();
  const mix = mixes.find((one) => one.id === id);
  const wanted = mix ? mix.props.map((one) => one.prop) : [id];
  return props.filter((prop) => wanted.includes(prop.id));
}

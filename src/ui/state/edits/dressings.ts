/** Edits of dressings as a whole. */
import { toast } from "sonner";
import type { Dressing } from "@/core/place";
import { dressLine, dressOver, freeName, newId, type Prop } from "@/core/scene";
import { selectDressing } from "../session";
import { dressingOf, scene, store } from "./common";
import type { Draft } from "immer";

/** A new dressing of a line, not yet part of the scene. */
export function makeDressing(line: string, props: readonly Prop[]): Dressing {
  const taken = scene().dressings.map((d) => d.name);
  return dressLine(newId(), freeName(props[0]?.name ?? "Dressing", taken), line, props);
}

/** A new dressing of a line with a prop. */
export function dress(line: string, prop: string): void {
  const dressing = makeDressing(line, propsOf(prop));
  if (dressing.what.entries.length > 0) dressing.what.entries = [{ ...dressing.what.entries[0], prop }];
  store().change("Dress", (draft) => void draft.dressings.push(dressing as Draft<Dressing>));
  selectDressing(dressing.id);
}

/** A new dressing of a prop over a surface, within an area that has none, or inside a volume. */
export function dressField(
  where: { surfaces?: string[]; areas?: string[]; volumes?: string[] },
  extent: number,
  prop: string,
): void {
  const props = propsOf(prop);
  const taken = scene().dressings.map((d) => d.name);
  const dressing = dressOver(newId(), freeName(props[0]?.name ?? "Dressing", taken), where, extent, props);
  if (dressing.what.entries.length > 0) dressing.what.entries = [{ ...dressing.what.entries[0], prop }];
  store().change("Dress", (draft) => void draft.dressings.push(dressing as Draft<Dressing>));
  selectDressing(dressing.id);
}

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
    for (const { fit, gaps } of draft.dressings) {
      gaps.distances = gaps.distances.filter(({ to }) => to !== id);
      fit.ontoProps = fit.ontoProps.filter((one) => one !== id);
      fit.clearOf = fit.clearOf.filter((one) => one !== id);
    }
  });
  const rest = scene().dressings;
  selectDressing(rest[Math.min(index, rest.length - 1)]?.id ?? null);
  toast(`Deleted the dressing “${name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
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

/** Edits of props and mixes. */
import { toast } from "sonner";
import type { Dressing } from "@/core/place";
import { freeName, newId, type Mix, type Prop, type Scene } from "@/core/scene";
import { selectMix, selectNothing, useSession } from "../session";
import { usesSaid } from "./assemblies";
import { editing, everyDressing, scene, store } from "./common";
import type { Draft } from "immer";

/** Lets nobody play what a prop or mix played. */
function uncast(recipe: Draft<{ roles: Record<string, string | null> }> | null, id: string): void {
  for (const [role, prop] of Object.entries(recipe?.roles ?? {})) if (prop === id) recipe!.roles[role] = null;
}

/** Takes a prop or mix out of everything that a dressing says. */
function forget(dressing: Draft<Dressing>, id: string): void {
  const { what, recipe } = dressing;
  uncast(recipe, id);
  what.entries = what.entries.filter((entry) => entry.prop !== id);
  what.tagged = what.tagged.filter((one) => one.prop !== id);
  what.own = what.own.filter((one) => one.prop !== id);
  for (const name of ["first", "last", "corner", "nthProp"] as const) if (what[name] === id) what[name] = null;
  for (const [hex, peg] of Object.entries(dressing.pegs)) {
    if (peg.prop !== id) continue;
    delete peg.prop;
    const moved = peg.at !== undefined || peg.point !== undefined || peg.turn !== undefined;
    if (!(moved && !peg.added) && !peg.removed) delete dressing.pegs[hex];
  }
}

function forgetEverywhere(draft: Draft<Scene>, id: string): void {
  for (const dressing of everyDressing(draft)) forget(dressing, id);
  for (const { assembly } of draft.props) uncast(assembly?.recipe ?? null, id);
}

function dropMix(draft: Draft<Scene>, id: string): void {
  draft.mixes = draft.mixes.filter((mix) => mix.id !== id);
  forgetEverywhere(draft, id);
}

export function deleteProp(id: string): void {
  const prop = scene().props.find((p) => p.id === id);
  if (!prop) return;
  const uses = prop.assembly ? usesSaid(id) : null;
  store().changeAll("Delete prop", (draft) => {
    draft.props = draft.props.filter((p) => p.id !== id);
    forgetEverywhere(draft, id);
    for (const mix of draft.mixes) mix.props = mix.props.filter((one) => one.prop !== id);
    for (const { id: mix, props } of [...draft.mixes]) if (props.length === 0) dropMix(draft, mix);
  });
  if (useSession.getState().drawProp === id) useSession.setState({ drawProp: null });
  selectNothing();
  const said = uses ? `, which was used in ${uses}` : "";
  toast(`Deleted the ${prop.assembly ? "assembly" : "prop"} “${prop.name}”${said}.`, {
    action: { label: "Undo", onClick: () => store().undo() },
  });
}

export const editProp = editing<Prop>((draft, id) => draft.props.find((prop) => prop.id === id));

/** Renames a prop, and with it the dressings that are still called after it. */
export function renameProp(id: string, name: string): void {
  const before = scene().props.find((prop) => prop.id === id)?.name;
  if (before === undefined) return;
  store().changeAll("Rename prop", (draft) => {
    const prop = draft.props.find((one) => one.id === id);
    if (prop) prop.name = name;
    for (const dressing of everyDressing(draft)) {
      const own = dressing.what.entries.length > 0 && dressing.what.entries.every((entry) => entry.prop === id);
      if (!own || !isNamedAfter(dressing.name, before)) continue;
      const taken = everyDressing(draft).flatMap((one) => (one === dressing ? [] : one.name));
      dressing.name = freeName(name, taken);
    }
  });
}

/** Whether a name is another's, or that with a number behind it. */
const isNamedAfter = (name: string, other: string): boolean =>
  name === other || (name.startsWith(`${other} `) && /^\d+$/.test(name.slice(other.length + 1)));

/** Gives a prop another file: its name, how it is prepared and all that refers to it stay. */
export const replaceProp = (
  id: string,
  file: Pick<Prop, "asset" | "bounds" | "triangles" | "brought" | "file">,
): void => editProp(id, "Replace file of prop", (prop) => void Object.assign(prop, file, { light: null }));

/** A new mix of some props, in equal shares. */
export function addMix(props: readonly string[]): void {
  const name = freeName(
    "Mix 1",
    [...scene().mixes, ...scene().props].map((one) => one.name),
  );
  const mix: Mix = { id: newId(), name, props: props.map((prop) => ({ prop, weight: 1 })) };
  store().change("Make mix", (draft) => void draft.mixes.push(mix as Draft<Mix>));
  selectMix(mix.id);
}

export const editMix = editing<Mix>((draft, id) => draft.mixes.find((mix) => mix.id === id));

export function deleteMix(id: string): void {
  const mix = scene().mixes.find((one) => one.id === id);
  if (!mix) return;
  store().changeAll("Delete mix", (draft) => dropMix(draft, id));
  if (useSession.getState().drawProp === id) useSession.setState({ drawProp: null });
  selectNothing();
  toast(`Deleted the mix “${mix.name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

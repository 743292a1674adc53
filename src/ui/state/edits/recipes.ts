/** Edits by recipes: dressings made by them, their roles, their dials, and bringing them up to date. */
import {
  broughtUp,
  dressedBy,
  dressingSchema,
  drivenBy,
  type Dial,
  type Dressing,
  type RecipeUse,
  type Target,
} from "@/core/place";
import {
  assembledBy,
  assemblyBroughtUp,
  dialIn,
  dressLine,
  dressOver,
  freeName,
  newId,
  numberIn,
  propSchema,
  writeNumber,
  type AssemblyRecipeUse,
  type Beyond,
  type Prop,
  type Scene,
} from "@/core/scene";
import { selectDressing, selectProp } from "../session";
import { namesOf } from "./assemblies";
import { dressingOf, scene, store } from "./common";
import { addDressing } from "./dressings";
import type { Draft } from "immer";

/** A new dressing by a recipe on something. */
export function dressByRecipe(use: RecipeUse, target: Target): void {
  const name = freeName(
    use.recipe.name,
    scene().dressings.map((one) => one.name),
  );
  addDressing(dressingSchema.parse({ id: newId(), name, ...dressedBy(use, target) }));
}

/** Replaces how a dressing uses its recipe; all that was set by hand stays. */
function recast(id: string, label: string, next: (use: RecipeUse) => RecipeUse): void {
  const dressing = dressingOf(scene(), id);
  if (!dressing?.recipe) return;
  const up = broughtUp(dressing, next(dressing.recipe));
  store().change(label, (draft) => {
    const at = draft.dressings.findIndex((one) => one.id === id);
    draft.dressings[at] = up as Draft<Dressing>;
  });
}

/** Gives a role to a prop or mix, or to none. */
export const castRole = (id: string, role: string, prop: string | null): void =>
  recast(id, "Prop for a role", (use) => ({ ...use, roles: { ...use.roles, [role]: prop } }));

/** Has a dressing follow its recipe as that is now. */
export const bringRecipeUp = (id: string, recipe: RecipeUse["recipe"]): void =>
  recast(id, "Bring up to date", (use) => ({ ...use, recipe }));

/** From then on it is a dressing like any other. */
export const letGoOfRecipe = (id: string): void =>
  store().change("Let go of the recipe", (draft) => {
    const dressing = dressingOf(draft, id);
    if (dressing) dressing.recipe = null;
  });

/** Turns a dial, to a share of its way or its only number to a value: what it drives is set. */
export function turnDial(dressing: Draft<Dressing>, dial: Dial, to: { share: number } | { value: number }): void {
  const driven = "share" in to ? drivenBy(dial, to.share) : [[dial.drives[0].path, to.value] as const];
  for (const [path, value] of driven) {
    const [step, name] = path.split("/");
    (dressing[step as "spacing"] as unknown as Record<string, number>)[name] = value;
  }
}

/** Where an assembly by a recipe is to stand: repeated along a line, or over a surface of so many square metres. */
export type AssemblyTarget = { line: string } | { surface: string; area: number };

/** A new assembly by a recipe, in the basket, and a dressing of it on something where that is said. */
export function assembleByRecipe(use: Omit<AssemblyRecipeUse, "names">, on: AssemblyTarget | null): void {
  const { name, bounds, prepared } = use.recipe;
  const prop = propSchema.parse({
    id: newId(),
    name: freeName(name, namesOf(scene())),
    asset: null,
    assembly: assembledBy({ ...use, names: {} }),
    bounds,
    prepared,
    triangles: 0,
  });
  const called = freeName(prop.name, scene().dressings.map((one) => one.name)); // prettier-ignore
  const dressing =
    on === null
      ? null
      : "line" in on
        ? dressLine(newId(), called, on.line, [prop])
        : dressOver(newId(), called, { surfaces: [on.surface] }, on.area, [prop]);
  store().change("Assembly by a recipe", (draft) => {
    draft.props.push(prop as Draft<Prop>);
    if (dressing) draft.dressings.push(dressing as Draft<Dressing>);
  });
  if (dressing) selectDressing(dressing.id);
  else selectProp(prop.id);
}

/** Replaces how an assembly uses its recipe; all that was set by hand stays. */
function reassemble(id: string, label: string, next: (use: AssemblyRecipeUse) => AssemblyRecipeUse): void {
  const prop = scene().props.find((one) => one.id === id);
  if (!prop?.assembly?.recipe) return;
  const up = assemblyBroughtUp(prop, next(prop.assembly.recipe));
  store().changeAll(label, (draft) => {
    const at = draft.props.findIndex((one) => one.id === id);
    draft.props[at] = up as Draft<Prop>;
  });
}

export const castAssemblyRole = (id: string, role: string, prop: string | null): void =>
  reassemble(id, "Prop for a role", (use) => ({ ...use, roles: { ...use.roles, [role]: prop } }));

export const bringAssemblyUp = (id: string, recipe: AssemblyRecipeUse["recipe"]): void =>
  reassemble(id, "Bring up to date", (use) => ({ ...use, recipe }));

export const letGoOfAssemblyRecipe = (id: string): void =>
  store().changeAll("Let go of the recipe", (draft) => {
    const assembly = draft.props.find((one) => one.id === id)?.assembly;
    if (assembly) assembly.recipe = null;
  });

/** As {@link turnDial}, in an assembly. */
export function turnAssemblyDial(
  draft: Draft<Scene>,
  id: string,
  dial: Dial,
  to: { share: number } | { value: number },
): void {
  const assembly = draft.props.find((one) => one.id === id)?.assembly;
  if (!assembly?.recipe) return;
  const own = dialIn(assembly.recipe, dial);
  // What is in the one that is open is what is seen.
  const parts = (draft as Draft<Scene> & { beyond?: Beyond }).beyond?.opened === id ? draft : assembly;
  const found = own.drives.flatMap(({ path }) => numberIn(parts, path) ?? []);
  // What was taken away by hand is driven no more.
  const driven = { ...own, drives: own.drives.filter(({ path }) => found.some((one) => one.path === path)) };
  const values: [string, number][] =
    "value" in to
      ? driven.drives.slice(0, 1).map(({ path }) => [path, to.value])
      : drivenBy(driven, to.share, (path) => found.find((one) => one.path === path)!.schema);
  for (const [path, value] of values) writeNumber(parts, path, value);
}

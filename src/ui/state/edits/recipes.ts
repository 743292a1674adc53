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
import { freeName, newId } from "@/core/scene";
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

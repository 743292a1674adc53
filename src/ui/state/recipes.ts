/** The recipes at hand: those that are kept in the browser, and those that everybody has. */
import { create } from "zustand";
import { SHIPPED } from "@/core/place";
import { freeName, newId, readRecipe, type AnyRecipe } from "@/core/scene";
import { InputError, sentenceOf } from "@/core/schema";
import { deleteRecipe, listRecipes, putRecipe, type KeptRecipe } from "@/store";

let made: readonly KeptRecipe[] | null = null;

/** Those that everybody has, made when they are first asked for. */
export function shippedRecipes(): readonly KeptRecipe[] {
  made ??= Object.entries(SHIPPED).map(([id, recipe]) => ({ id, recipe: recipe(), picture: null }));
  return made;
}

export const useRecipes = create<{ own: readonly KeptRecipe[] }>()(() => ({ own: [] }));

/** Reads them anew, as another tab may have changed them. */
export async function readRecipes(): Promise<void> {
  useRecipes.setState({ own: await listRecipes() });
}

/** All of them, one's own first. */
export const recipesNow = (): readonly KeptRecipe[] => [...useRecipes.getState().own, ...shippedRecipes()];

export const isShipped = (id: string): boolean => Object.hasOwn(SHIPPED, id);

/** Equal names get a number. @param but one that may have the name */
const namedFreely = <R extends AnyRecipe>(recipe: R, but?: string): R => ({
  ...recipe,
  name: freeName(
    recipe.name,
    recipesNow().flatMap((one) => (one.id === but ? [] : one.recipe.name)),
  ),
});

/** A recipe, if what is given is one. @throws InputError with a sentence where it is none */
function checkedRecipe(given: unknown, name: string): AnyRecipe {
  const { success, data, error } = readRecipe(given);
  if (!success) throw new InputError(`“${name}” is no recipe: ${sentenceOf(error)}`);
  return data;
}

/** Keeps a new recipe; gives its id. @throws InputError where it could not be read again */
export async function keepRecipe(recipe: AnyRecipe, picture: string | null = null): Promise<string> {
  await readRecipes();
  const kept = { id: newId(), recipe: namedFreely(checkedRecipe(recipe, recipe.name)), picture };
  await putRecipe(kept);
  await readRecipes();
  return kept.id;
}

/** Changes one of one's own. @throws InputError where it could not be read again */
export async function changeRecipe(id: string, recipe: AnyRecipe, picture?: string | null): Promise<void> {
  const before = useRecipes.getState().own.find((one) => one.id === id);
  if (!before) return;
  const checked = namedFreely(checkedRecipe(recipe, before.recipe.name), id);
  await putRecipe({ id, recipe: checked, picture: picture === undefined ? before.picture : picture });
  await readRecipes();
}

export async function dropRecipe(id: string): Promise<void> {
  await deleteRecipe(id);
  await readRecipes();
}

/** A recipe's file is no larger than this. */
const MOST_BYTES = 4 * 2 ** 20;

/** A recipe as it is written in a file. Throws an InputError with a sentence where it is none. */
export function readRecipeFile(bytes: Uint8Array, name: string): AnyRecipe {
  if (bytes.length > MOST_BYTES) throw new InputError(`“${name}” is larger than 4 MB, which no recipe is.`);
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes));
  } catch {
    throw new InputError(`“${name}” is no JSON file.`);
  }
  return checkedRecipe(json, name);
}

export const recipeFile = (recipe: AnyRecipe): Uint8Array =>
  new TextEncoder().encode(`${JSON.stringify(recipe, null, 2)}\n`);

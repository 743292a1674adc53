/** Recipes that are kept in the browser, for all its scenes. */
import { readRecipe, type AnyRecipe } from "@/core/scene";
import { db } from "./db";

export interface KeptRecipe {
  id: string;
  recipe: AnyRecipe;
  /** What it came to when it was kept, as a data address; null for none. */
  picture: string | null;
}

/** All of them by their names; what cannot be read as one is passed over. */
export async function listRecipes(): Promise<KeptRecipe[]> {
  const rows = await db.recipes.toArray();
  const read = rows.flatMap(({ id, recipe, picture }) => {
    const { success, data } = readRecipe(recipe);
    return success ? [{ id, recipe: data, picture }] : [];
  });
  return read.sort((a, b) => a.recipe.name.localeCompare(b.recipe.name));
}

export const putRecipe = async (kept: KeptRecipe): Promise<void> => void (await db.recipes.put(kept));
export const deleteRecipe = (id: string): Promise<void> => db.recipes.delete(id);

/** Recipes: saving a dressing's rules, and using them elsewhere. */
export { RecipesDialog } from "./RecipesDialog";
export { SaveRecipeDialog } from "./SaveRecipeDialog";

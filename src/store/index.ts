/** The store: the scene on the table with its history, and all scenes kept in the browser. */
export * from "./scenes";
export { meantMoment, useScene, useSceneStore, type SaveState } from "./scene-store";
export type { Recipe } from "./history";
export { keep, kept } from "./kept";
export { deleteRecipe, listRecipes, putRecipe, type KeptRecipe } from "./recipes";

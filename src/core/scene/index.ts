/** The Scene: its schema, how it is read and how new things in it are made. */
export * from "./assemblies";
export { assemblySchema, type Assembly } from "./assembly-schema";
export { overBudget } from "./budget";
export * from "./course-paths";
export * from "./moment";
export * from "./time";
export * from "./change";
export * from "./make";
export { copyOfAssembly, keptFrom, usesOf } from "./keep";
export { partsElsewhere, type Elsewhere } from "./elsewhere";
export { renamingBy } from "./renaming";
export { PARTS, type Parts } from "./assembly-shape";
export {
  assemblyRecipeSchema,
  dialIn,
  numberIn,
  numberOfRecipe,
  labelInRecipe,
  numbersOfRecipe,
  thingsOfRecipe,
  writeNumber,
  isAssemblyRecipe,
  readRecipe,
  type AnyRecipe,
  type AssemblyRecipe,
  type AssemblyRecipeUse,
} from "./assembly-recipe";
export { assembledBy, assemblyBroughtUp, emptyRoles, recipeOfAssembly, recipeTrouble } from "./by-recipe";
export { mapped } from "./mapped";
export { namedBy } from "./named";
export { namesIn } from "./names";
export { besideOf, longestOf, oddityOf, stoodUp, type Oddity } from "./oddity";
export { parseScene } from "./parse";
export * from "./prepare";
export * from "./schema";
export { isSeenPart, partAsProp, seenParts } from "./seen-parts";
export * from "./snap-points";
export { meshAssetOf, surfaceSchema, type Surface } from "./surface-schema";
export { MOST_SNAP_POINTS, type OwnSnapPoint } from "./snap-schema";
export * from "./ties";

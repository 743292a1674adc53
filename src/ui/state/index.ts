/** What the interface knows: the session, results, and the edits of a scene. */
export { chartOf, useCharted } from "./charted";
export { chartUnder, flatPlaceAt, movedOnSheet, placesLaid } from "./layouts";
export { useClosedLines } from "./closed-lines";
export * from "./edits";
export {
  drawnByKnots,
  drawnLine,
  drawnPoints,
  guideOf,
  markPositions,
  spanMiddles,
  tagColour,
  taggedSpans,
  tagsOf,
} from "./guides";
export {
  lineName,
  lineNames,
  lineRunning,
  membersNow,
  ownerOfLine,
  runningLinesNow,
  useFamilies,
  useRunningLines,
} from "./families";
export { useLaid, useMade } from "./laid";
export { useMoved, useStills } from "./moved";
export {
  findingsOf,
  lookAgain,
  placeAgain,
  showMoment,
  startEvaluating,
  stopPlacing,
  useFindings,
  placementsNow,
  sightNow,
  usePlacements,
  useSight,
  useResults,
} from "./results";
export {
  beginScene,
  currentKnot,
  NO_KEYS,
  openStep,
  pinStep,
  selectDressing,
  selectLine,
  selectMix,
  selectNothing,
  selectPlacements,
  selectProp,
  selectSurface,
  toggleStep,
  useSession,
  type CameraWish,
  type Display,
  type Focus,
  type Why,
  SHEET_SIZES,
  type SheetBy,
} from "./session";
export { seenLine } from "./seen-line";
export { isJoined, useDrawnAsSolids, useSolids } from "./solids";
export { useEdit } from "./useEdit";
export {
  changeRecipe,
  dropRecipe,
  isShipped,
  keepRecipe,
  readRecipeFile,
  readRecipes,
  recipeFile,
  recipesNow,
  shippedRecipes,
  useRecipes,
} from "./recipes";
export { useInsides, useUsableProps, wholeOf } from "./insides";

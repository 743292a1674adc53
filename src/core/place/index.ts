/** Placing: the seven steps of a dressing and what they come to. */
export { stillAt, stillKey, type Poses, type Still } from "./variation/poses";
export { boundPlace, frameOnMesh } from "./frame-on-mesh";
export { byMesh, worldMatrix } from "./bodies";
export { Boxes } from "./boxes";
export { MOST_IN_TURN } from "./fit/in-turn";
export { MOST_TRIANGLES, propsAsGround, standingMesh, type PropsAsGround } from "./props-as-ground";
export { carriedHangs, pegStanding } from "./hung";
export { rowOffsets } from "./fit/rows";
export { heightsOf } from "./rack/rack";
export { TORN } from "./torn";
export { keyUnder } from "./under";
export { evaluated, type Evaluated } from "./evaluate";
export { buffersOfSight, sightOf, type Sight } from "./sight";
export { settledEach } from "./settle-each";
export { onePlacement } from "./under";
export { contentsOf, expanded, gathered, type Contents, type Expanded, type Gathered, type Inside } from "./expand";
export { known, type Hosts, type Sources } from "./sources";
export { dropInto } from "./fit/drop";
export { PROBES_PER_FOOTPRINT, writeFootprints } from "./fit/footprint";
export type { Charted, DensityMap } from "./gaps/maps";
export { densityAt, fullnessAt, type Fullness } from "./gaps/density-map";
export { sharesAtVertices } from "./gaps/at-vertices";
export {
  colourMaskSchema,
  GAP_LIMITS,
  imageMaskSchema,
  paintSchema,
  type ImageMask,
  type Limits,
  type Paint,
} from "./gaps/schema";
export type { Reason } from "./gaps/spots";
export { nextAdded, type OldPeg, type Peg, type Pegs } from "./pegs";
export { boxOfAll, buffersOfDrawn, CHUNK, drawnOf, linear, writeMatrix, type Drawn } from "./drawn";
export { buffersOf, copyOf, type Placements } from "./placements";
export { dressingSchema, type Dressing } from "./schema";
export { schemaOf, STEP_NAMES, STEP_SCHEMAS, type StepName } from "./steps";
export {
  ADDED,
  addedKey,
  eachAmong,
  hexOf,
  indicesOf,
  keyOfHex,
  lineKey,
  lineNumberOfKey,
  MOST_DEEP,
  placeOfKey,
  slotOfOld,
  wordsOf,
  type Key,
} from "./keys";
export { FLAG, NO_PROP, Slots } from "./slots";
export { countThere, packed, PLACE, unpacked, without } from "./sown/packed";
export { MOST_SOWN, MOST_STROKES, type Sowing } from "./sown/schema";
export { sownBy, sownKey } from "./sown/sown";
export { SowingHand, sowsLess } from "./sown/hand";
export { pairsOfSnaps } from "./snap-pairs";
export { standingAt } from "./standing-at";
export { keyOnOther, onOf } from "./on";
export { keepAmount, keepRule } from "./spacing/keep";
export { cutsAtEnd } from "./spacing/schema";
export { tagsOf } from "./where/fields";
export { fieldIdsOf, isWrapped, kindOf } from "./where/kinds";
export { carrierOn, sheetPlaces } from "./spacing/carriers";
export { sidesOf } from "./spacing/wrapped";
export type { Carrier, FlatPlace } from "./spacing/carrier";
export { footprintsOf, LOOKS, lyingOver, placesOf } from "./fit/footprints";
export { HANDLE, LOOSE, patchSchema, wrapSchema } from "./where/schema";
export { entrySchema, ownSchema, propsIn, type Entry } from "./what/schema";
export {
  broughtUp,
  dressedBy,
  drivenBy,
  merged,
  mergedById,
  namesFor,
  rolesFor,
  numbersOf,
  recast,
  recipeOf,
  shareOf,
  type Target,
} from "./recipe/recipe";
export {
  dialSchema,
  MOST_ROLES,
  isRecipeKind,
  numberAt,
  paramOf,
  RECIPE_VERSION,
  recipeSchema,
  roleSchema,
  sayOfDials,
  type Dial,
  type Recipe,
  type RecipeUse,
} from "./recipe/schema";
export { SHIPPED } from "./recipe/shipped";

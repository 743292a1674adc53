/** Placing: the seven steps of a dressing and what they come to. */
export { byMesh, placingMatrix } from "./bodies";
export { Boxes } from "./boxes";
export { MOST_TRIANGLES, propsAsGround, type PropsAsGround } from "./props-as-ground";
export { rowOffsets } from "./fit/rows";
export { evaluate } from "./evaluate";
export { known, type Sources } from "./sources";
export { dropInto } from "./fit/drop";
export { PROBES_PER_FOOTPRINT, writeFootprints } from "./fit/footprint";
export type { Charted, DensityMap } from "./gaps/maps";
export { densityAt, fullnessAt, type Fullness } from "./gaps/density-map";
export { colourMaskSchema, imageMaskSchema, paintSchema, type ImageMask, type Paint } from "./gaps/schema";
export type { Reason } from "./gaps/spots";
export { type Peg } from "./pegs";
export { buffersOf, copyOf, type Placements } from "./placements";
export { dressingSchema, STEP_NAMES, STEP_SCHEMAS, type Dressing, type StepName } from "./schema";
export {
  ADDED,
  ADDED_TAG,
  FLAG,
  keyOf,
  lineNumberOfKey,
  localOfKey,
  MAX_LOCAL,
  NO_PROP,
  overKey,
  slotOfKey,
  Slots,
  tagOfKey,
} from "./slots";
export { tagsOf } from "./where/fields";
export { fieldIdsOf, kindOf } from "./where/kinds";
export { LOOSE } from "./where/schema";
export { entrySchema, ownSchema, propsIn, type Entry } from "./what/schema";

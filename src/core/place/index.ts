/** Placing: the seven steps of a dressing and what they come to. */
export * from "./bounds";
export { Boxes } from "./boxes";
export { MOST_TRIANGLES, propsAsGround, type PropsAsGround } from "./props-as-ground";
export { rowOffsets } from "./fit/rows";
export { evaluate, evaluateChanged, groundsFor, type GroundSurface, type Surroundings } from "./evaluate";
export { dropInto } from "./fit/drop";
export { FELT, writeFootprints } from "./fit/footprint";
export { StepMemory } from "./memory";
export { type Peg } from "./pegs";
export { buffersOf, type Placements } from "./placements";
export { dressingSchema, STEP_NAMES, STEP_SCHEMAS, type Dressing, type StepName } from "./schema";
export { entryOf, type Shapes } from "./shapes";
export { ADDED, FLAG, keyOf, lineNumberOfKey, NO_PROP, slotOfKey, Slots } from "./slots";
export { entrySchema, ownSchema, propsIn, type Entry } from "./what/schema";

/** Placing: the seven steps of a dressing and what they come to. */
export * from "./bounds";
export { evaluate, evaluateChanged, type Surroundings } from "./evaluate";
export { StepMemory } from "./memory";
export { type Peg } from "./pegs";
export { buffersOf, type Placements } from "./placements";
export { dressingSchema, STEP_NAMES, STEP_SCHEMAS, type Dressing, type StepName } from "./schema";
export { FLAG, keyOf, lineNumberOfKey, NO_PROP, slotOfKey } from "./slots";
export { entrySchema, propsIn, type Entry } from "./what/schema";

/** *Ties*: things that are held by others, and go along with them. Knows nothing of what the things are. */
export { back, carriedFrame, carriedPoint, carriedTurn, carryBetween, type Carry, type Frame } from "./carry";
export { holderOf, tieSchema, type LinePlace, type Tie } from "./schema";
export { hungBy, snapFrame, type SnapPoint, type Standing } from "./snap";

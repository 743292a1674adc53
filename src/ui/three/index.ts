/** What is drawn or turned in a view of three dimensions, for whichever view. */
export { FatLine, FatSegments } from "./FatLine";
export { Label } from "./Label";
export { LevelNet } from "./LevelNet";
export { Orbit } from "./Orbit";
export {
  asDrawn,
  chooseFineness,
  drawnWith,
  finenessChoices,
  isSoftware,
  useFineness,
  type Fineness,
} from "./fineness";

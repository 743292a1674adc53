/** What anchors can lie on besides lines: surfaces and areas with their outlines, and the insides of volumes. */
export {
  extentOf,
  flatUnder,
  fromOwn,
  levelUnder,
  regionOf,
  regionOfPlane,
  standOf,
  wantedIn,
  type Field,
  type Region,
} from "./field";
export { Cells, hasInside, Plan } from "./plan";
export { Space, Volume } from "./volume";

/** The scene, its dressings and what is done with all of it. */
export { DressDialog } from "./DressDialog";
export { Rail } from "./Rail";
export { ago, PegMark } from "./SceneName";

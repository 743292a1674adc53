/** The list of scenes. */
export { Scenes } from "./Scenes";
export { ensureDemo } from "./demo";

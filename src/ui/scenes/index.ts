/** The list of scenes. */
export { Offline } from "./Offline";
export { Scenes } from "./Scenes";
export { ensureDemo } from "./demo";

/** A prop set up: pivot, front, size. */
export { PrepareDialog } from "./PrepareDialog";

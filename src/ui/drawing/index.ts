/** Bringing drawings in. */
export { DrawingDialog } from "./DrawingDialog";

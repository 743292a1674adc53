/** Files out of a scene. */
export { ExportDialog } from "./ExportDialog";

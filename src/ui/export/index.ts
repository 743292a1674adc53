/** Files out of a scene. */
export { downloadProject, ExportDialog } from "./ExportDialog";

/** The scene in three dimensions. */
export { cameraNow } from "./CameraRig";
export { SceneView } from "./SceneView";
export {
  beginStroke,
  endStroke,
  giveUpStroke,
  isPainting,
  leadStroke,
  paintClearing,
  paintedFields,
  startPainting,
  stopPainting,
  useBrush,
  useMoverPainted,
  type Brush,
} from "./brush";
export type { Budget } from "./budget";
export {
  drawAs,
  sheetPen,
  startDrawing,
  startDrawingOn,
  startPickingPairs,
  startPickingSeam,
  stopDrawing,
  useDraw,
} from "./draw-state";
export { nearestIn } from "./nearest";
export { startPinning, stopPinning } from "./pinning";
export { distanceToSee } from "./framing";
export { addPlacementAt, movePlacements, takenPlacements, type HeldPlacements } from "./pegging";
export { boxAroundAll, isShown } from "./placed";
export { NARROWEST, startSowing, stopSowing, takesSowing, useSower, WIDEST } from "./sowing";

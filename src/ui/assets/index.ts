/** Models, pictures and files of what a scene uses. */
export {
  bringIn,
  CACHE_FILES,
  lightVersionFor,
  maskPicture,
  MESH_FILES,
  openProject,
  partSurface,
  replaceFile,
  replaceSurface,
  replayFor,
  SCENE_FILES,
  standInFor,
} from "./bring-in";
export { nextDrawing, usePending } from "./drawings";
export { broughtFacts, mendedSentences, UNITS } from "./brought";
export { tintOf } from "./density-tint";
export { elevationOf, useElevations } from "./elevations";
export {
  lightOf,
  lookOf,
  modelOf,
  preparedModel,
  transformed,
  useModel,
  useModels,
  usePrepared,
  type Model,
  type ModelPart,
} from "./models";
export { keepAssembled } from "./assembled";
export { drawnProps, keepParts, useDrawnProps } from "./parts";
export { bringStartBasket } from "./start-basket";
export { usePictures, usePictureStore, type PropPictures } from "./pictures";
export { fitted, isMoving, raycastMoving, stillModel, useMovedModel } from "./moved-models";
export { boxOf, topOf, useSurfaceModel, useSurfaceModels, useSurfacesMeant, useVertexCount } from "./surface-models";
export { topView, type TopView } from "./top-view";

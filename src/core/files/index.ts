/**
 * Files: one file a format. Nothing is defined here, so that whoever needs a name or a hash loads no reader with it: how files
 * are called stands apart from what reads and writes them.
 */
export type { Nest, UsedAssembly } from "./evaluated";
export { FORMATS, type FormatName } from "./formats";
export { assetsOf, hashOf, type Assets } from "./assets";
export { standing, type EvaluatedScene, type Motion, type ShownLine, type ShownSurface } from "./evaluated";
export { meshesInZip, type GivenFile } from "./incoming";
export { CACHE_ENDINGS, COMPANION_ENDINGS, isCompanion, isParted, MESH_ENDINGS } from "./incoming/kinds";
export { isPointCache, readPointCache } from "./pc2";
export { bringInCache, type BroughtCache } from "./point-cache";
export { readPins, writePins, type PinRow } from "./pins";
export { bringInFile, readPropFile, type BroughtIn } from "./prop";
export { readTriangleMesh } from "./triangle-mesh";
export { plainGlb } from "./gltf";
export { isPacked } from "./gltf/packing";
export { writeSolid } from "./solid-file";
export { SOLID_FORMATS, type SolidForm } from "./solid-formats";
export { splitFile } from "./split";
export { linesOfDrawing, readSvg, type Drawing, type DrawingPlace, type OutlineLine } from "./svg";
export {
  assetPath,
  checkedAssets,
  holdsScene,
  parseSceneText,
  readProject,
  writeProject,
  type Project,
} from "./project";

/** Reading and laying flat of glTF files. */
export { atRest } from "./at-rest";
export { floatsOf } from "./rig";
export { parseDescription } from "./container";
export {
  boxOf,
  determinant,
  emptiesOf,
  flatMesh,
  liesFar,
  meshNodesOf,
  solidPrimitives,
  transformedMesh,
  trianglesIn,
  type Shown,
} from "./flat";
export {
  decodedUri,
  plainGlb,
  plainIO,
  readDescribed,
  readGlb,
  readGlbFile,
  writeCompressed,
  writePlain,
  type GltfFile,
  type Note,
} from "./read";

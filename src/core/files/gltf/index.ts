/** Reading and laying flat of glTF files. */
export { isGlb } from "./container";
export {
  boxOf,
  determinant,
  flatMesh,
  meshNodesOf,
  product,
  solidPrimitives,
  transformedMesh,
  trianglesIn,
  type Shown,
} from "./flat";
export { plainIO, readDescribed, readGlb, readGlbFile, writePlain, type GltfFile, type Note } from "./read";

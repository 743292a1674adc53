/** Triangle meshes: cut, clipped, bent. */
export type { Attribute, TriangleMesh } from "./mesh";
export { shapedMesh } from "./shape";
export { mergedShapes, type Member, type Merged } from "./merged";
export { CROWDED, nextOf, oppositeTwins, RIM, trianglesBeyond, twinsOf, weldedVertices } from "./adjacency";
export { areasOf, facetsOf, normalsAt, type Facets, type Points } from "./facets";
export { arrivedFor, distanceFor, evenOver, evenUpTo, spreadable, type Spreadable } from "./even-over";
export { MOST_ARRIVALS, mostArrived, taken, type Arrivals, type Arriving, type Spread } from "./arrivals";
export { PointGrid } from "./point-grid";
export { cutFacesAmong, type CutFaces } from "./cut-faces";
export { Walk } from "./walk";
export { alongForm, type AlongForm } from "./along-form";
export { arrivalsInside } from "./arrivals-inside";
export { arrivedAt, spaced, stepEnd } from "./spaced";
export type { EdgeMap } from "./edge-map";
export { RestMesh, type Shape } from "./rest-mesh";
export { WorldMesh, type MovedVertices, type Stand } from "./world-mesh";
export { writeVertexNormals } from "./vertex-normals";
export { weightsIn } from "./barycentric";
export { bind, carryDirection, carryPoints, UNBOUND, type Bound } from "./bound";
export { Body, type BodyMatrix } from "./body";
export { Chart } from "./chart";
export { axesOn } from "./chart-axes";
export { onPiece, Piece } from "./piece";
export type { ChartTable } from "./chart-table";
export type { Unrolled } from "./unroll";
export { AS_IT_COMES, layingSchema, waysOf, type Laying } from "./laying";
export { MOST_UNROLLED } from "./unroll";
export { hullOf } from "./hull";
export { landmarksAt, type Landmark } from "./landmarks";
export { hitsFor, type Hits, type Seen } from "./heights";
export { randomOver } from "./random-over";
export { RayTree, type Met } from "./ray-tree";
export { Winding } from "./winding";
export { boundsSchema, boxOfPlaces, sizeOf, type PropBounds } from "./bounds";
export { groundsUnder, type Grounds } from "./grounds";
export { fromStand, intoOwn } from "./stand";
export {
  buffersOfShapes,
  cornerOf,
  entryOf,
  MATRIX,
  PIECE,
  pieceOf,
  PLANES,
  SAMPLE,
  samplesOf,
  type Shapes,
} from "./shapes";

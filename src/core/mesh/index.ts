/** Triangle meshes: cut, clipped, bent. */
export type { Attribute, TriangleMesh } from "./mesh";
export { shapedMesh } from "./shape";
export { mergedShapes, type Member, type Merged } from "./merged";
export { trianglesBeyond } from "./adjacency";
export { areasOf, facetsOf } from "./facets";
export { distanceFor, evenOver, spreadable, type Spreadable } from "./even-over";
export { edgesOf, type EdgeMap } from "./edge-map";
export { WorldMesh as Ground, weightsIn, type Stand } from "./world-mesh";
export { Body, type BodyMatrix } from "./body";
export { UvChart, type ChartTable } from "./chart";
export { hullOf } from "./hull";
export { hitsFor, type Hits, type Seen } from "./heights";
export { randomOver, joinOrdersOf as risesOf, type Spread } from "./random-over";
export { RayTree, type Met } from "./ray-tree";
export { Winding } from "./winding";
export { boundsSchema, sizeOf, type PropBounds } from "./bounds";
export { groundsFor, type GroundSurface } from "./grounds";
export { buffersOfShapes, entryOf, MATRIX, PLANES, SAMPLE, samplesOf, type Shapes } from "./shapes";

/** *Rigs*: what a file moves by itself, by nodes, skins and morphs. Knows nothing of files or scenes. */
export type { Channel, Clip, Moved, Rig, RigNodes, RigPart, Skin } from "./rig";
export { poseAt, type Pose } from "./pose";
export { paletteOf, posedVertices, writeSkinned } from "./vertices";
export { clipTime } from "./clip-time";
export { cachedVertices, type PointCache } from "./point-cache";

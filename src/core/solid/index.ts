/** Solids: closed bodies of lines and surfaces; joined, cut and overlapped. */
export { closedBodies, movedBody, standingBody, volumeOf, type ClosedMesh, type Mended } from "./closed";
export { creased, uncreased } from "./creased";
export { factsOf, type SolidFacts } from "./facts";
export { gathered, inCell, type CellStep, type How } from "./in-cell";
export { Joiner, type CellSolver, type Joined, type JoinStep, type NamedMesh } from "./joiner";
export { solidLibrary } from "./library";
export { shellOf } from "./shell";
export { MOST_BODIES, MOST_TRIANGLES, troubleSaid, type SolidTrouble } from "./troubles";
export { meetingEnds, sectionOf, tubeOf } from "./tube";

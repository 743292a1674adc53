/** SVG drawings, as lines. */
export { linesOfDrawing, type DrawingPlace, type OutlineLine } from "./lines";
export type { Drawing } from "./drawing";
export { readSvg } from "./read";

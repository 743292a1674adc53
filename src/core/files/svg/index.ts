/** SVG drawings, as lines. */
export { linesOfDrawing, type DrawingPlace, type OutlineLine } from "./lines";
export { readSvg, type Drawing } from "./read";

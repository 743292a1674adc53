/** A line, unrolled. */
export { Strip } from "./Strip";

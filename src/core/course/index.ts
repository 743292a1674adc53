/** Courses: how values go over time. */
export * from "./keyframes";
export * from "./schema";
export { valueAt, type Mixing } from "./value";

/** Courses: how values go over time. */
export { integralOf } from "./integral";
export * from "./keyframes";
export * from "./schema";
export { valueAt, type Mixing } from "./value";

/** The Scene: its schema, how it is read and how new things in it are made. */
export { overBudget } from "./budget";
export * from "./change";
export * from "./make";
export { namesIn } from "./names";
export { parseScene } from "./parse";
export * from "./prepare";
export * from "./schema";

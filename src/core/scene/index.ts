/** The Scene: its schema, how it is read and how new things in it are made. */
export { InputError, sentenceOf } from "./errors";
export * from "./make";
export * from "./param";
export { parseScene } from "./parse";
export * from "./schema";

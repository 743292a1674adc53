/** The Scene: its schema, how it is read and how new things in it are made. */
export { InputError, sentenceOf } from "./errors";
export { evaluateExpression, formatValue } from "./expression";
export * from "./make";
export * from "./param";
export { parseScene } from "./parse";
export * from "./prepare";
export * from "./schema";

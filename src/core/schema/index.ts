/** How things are described: parameters, ids, errors with sentences, expressions with units. */
export { InputError, sentenceOf } from "./errors";
export { evaluateExpression, formatValue } from "./expression";
export { distinct, nextNumber, numbered, numberSchema, type Numbered } from "./numbered";
export * from "./param";
export { eachId, withIds } from "./ids";
export { shapeOf, unwrapped } from "./shape";

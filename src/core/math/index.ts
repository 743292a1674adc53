export { nestedDissection } from "./dissection";
export { eased } from "./ease";
export { Heap } from "./heap";
export { Ldl, symmetric, type Symmetric } from "./ldl";
export * from "./quaternion";
export * from "./random";
export * from "./segment";
export * from "./sine";
export * from "./vector";

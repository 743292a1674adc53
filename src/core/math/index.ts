export { eased } from "./ease";
export * from "./quaternion";
export * from "./random";
export * from "./segment";
export * from "./sine";
export * from "./vector";

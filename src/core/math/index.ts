export * from "./quaternion";
export * from "./random";
export * from "./vector";

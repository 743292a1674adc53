/** Our small controls. */
export * from "./buttons";
export * from "./Choose";
export * from "./Fold";
export * from "./Modal";
export * from "./NameField";
export * from "./NumberField";
export * from "./Segmented";
export * from "./Toggle";

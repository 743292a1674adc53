/** Our small controls. */
export * from "./buttons";
export * from "./Choose";
export * from "./FilesInput";
export * from "./download";
export * from "./Fold";
export * from "./GapChart";
export * from "./Modal";
export * from "./NameField";
export * from "./NumberField";
export * from "./Segmented";
export * from "./TableColours";
export { chooseTable, inks, tableChoices, useTableColours, type TableChoice } from "./table-colours";
export * from "./Sorted";
export * from "./Toggle";
export * from "./useSize";
export { leaveField } from "./leave-field";
export { listen } from "./listen";
export { markLabel, niceStep } from "./ruler";

/** The column about what is selected. */
export { fillInside, patchOn, spreadOver } from "./SpreadOver";
export { StepsColumn } from "./StepsColumn";
export { complaintOf } from "./params";
export { sentence } from "./words";

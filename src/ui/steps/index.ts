/** The column about what is selected. */
export { spreadOver } from "./SpreadOver";
export { StepsColumn } from "./StepsColumn";
export { complaintOf } from "./params";

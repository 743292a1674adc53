/** The column about what is selected. */
export { fillInside, spreadOver } from "./SpreadOver";
export { StepsColumn } from "./StepsColumn";
export { complaintOf } from "./params";

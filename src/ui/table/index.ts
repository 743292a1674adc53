/** Everything together. */
export { Table } from "./Table";

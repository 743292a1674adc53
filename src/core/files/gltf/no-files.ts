/** Stands for Node's files in the browser, where Draco's decoder names them and never asks. */
export {};

/** Seeds chosen by looking at many. */
export { SeedBoard } from "./SeedBoard";

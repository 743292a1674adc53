/** What is spread, unrolled or from above. */
export { Sheet } from "./Sheet";

/** What is spread, unrolled or from above. */
export { LargeSheet } from "./LargeSheet";
export { Sheet } from "./Sheet";

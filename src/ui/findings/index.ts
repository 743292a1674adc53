/** What the checks found. */
export { FindingsButton } from "./FindingsButton";

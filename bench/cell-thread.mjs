/** Threads do not read TypeScript by themselves. */
import { register } from "tsx/esm/api";

register();
await import("./cell-thread.ts");

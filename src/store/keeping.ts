/** Where the keeper runs: in a worker of its own in the browser, here where there are none. */
import * as Comlink from "comlink";
import { Keeper } from "./keeper";

/** What the store asks of the keeper. */
export type Keeping = Pick<Keeper, "open" | "write" | "verify" | "again" | "aside">;

let keeping: Keeping | undefined;

export function keeper(): Keeping {
  if (keeping) return keeping;
  if (typeof Worker === "undefined") return (keeping = new Keeper());
  const worker = new Worker(new URL("./keeper.worker.ts", import.meta.url), { type: "module" });
  // A wrapped class instance answers to the same calls, each with a promise.
  return (keeping = Comlink.wrap<Keeper>(worker) as unknown as Keeping);
}

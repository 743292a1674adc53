/** Where the keeper runs: in a worker of its own in the browser, here where there are none. */
import * as Comlink from "comlink";
import { Keeper, type Kept } from "./keeper";

/** What the store asks of the keeper. */
type Keeping = Pick<Keeper, "open" | "write" | "verify" | "again" | "aside">;

let keeping: Keeping | undefined;

export const keeper = (): Keeping => (keeping ??= typeof Worker === "undefined" ? new Keeper() : inWorker());

/** A worker that fails is let go of: whoever waits is told, and the next call starts another one. */
function inWorker(): Keeping {
  const worker = new Worker(new URL("./keeper.worker.ts", import.meta.url), { type: "module" });
  const remote = Comlink.wrap<Keeper>(worker);
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = () => {
      worker.terminate();
      keeping = undefined;
      reject(new Error("The worker that keeps the scene stopped."));
    };
  });
  failed.catch(() => undefined);
  const orFailed = <T>(answer: Promise<T>): Promise<T> => Promise.race([answer, failed]);
  return {
    open: (id) => orFailed(remote.open(id)),
    write: (change) => orFailed<Kept>(remote.write(change) as Promise<Kept>),
    verify: () => orFailed<Kept>(remote.write(null) as Promise<Kept>),
    again: (id, scene, assets) => orFailed<Kept>(remote.again(id, scene, assets) as Promise<Kept>),
    aside: (id, scene) => orFailed(remote.aside(id, scene)),
  };
}

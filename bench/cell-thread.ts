/** A thread that joins what lies in one cell, as the application's workers do. */
import { parentPort } from "node:worker_threads";
import { inCell, solidLibrary, type CellStep } from "../src/core/solid";

const library = await solidLibrary();
parentPort!.on("message", (steps: CellStep[]) => {
  const mesh = inCell(library, steps);
  parentPort!.postMessage(mesh, [mesh.position.buffer as ArrayBuffer, mesh.index.buffer as ArrayBuffer]);
});

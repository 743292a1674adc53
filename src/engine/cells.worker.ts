/** A worker that joins what lies in one cell of space, for the one that joins whole solids. */
import * as Comlink from "comlink";
import { inCell, solidLibrary, type CellStep, type ClosedMesh } from "@/core/solid";

const api = {
  async solve(steps: readonly CellStep[]): Promise<ClosedMesh> {
    const mesh = inCell(await solidLibrary(), steps);
    return Comlink.transfer(mesh, [mesh.position.buffer as ArrayBuffer, mesh.index.buffer as ArrayBuffer]);
  },
};

export type CellsApi = typeof api;

Comlink.expose(api);

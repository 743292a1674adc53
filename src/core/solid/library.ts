/** The library that joins closed meshes, loaded when it is first needed. */
import type { ManifoldToplevel } from "manifold-3d";

const inNode = typeof process !== "undefined" && process.versions?.node !== undefined;

let library: Promise<ManifoldToplevel> | undefined;

/** `manifold-3d` (E. Lalish): guaranteed to come to closed meshes where what goes in is closed. */
export function solidLibrary(): Promise<ManifoldToplevel> {
  return (library ??= (async () => {
    const { default: create } = await import("manifold-3d");
    const loaded = await (inNode
      ? create()
      : create({ locateFile: () => new URL("manifold-3d/manifold.wasm", import.meta.url).href }));
    loaded.setup();
    return loaded;
  })());
}

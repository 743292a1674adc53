/** What in a GLB only a reader with decoders understands. */
import { openContainer } from "./container";

export const DRACO = "KHR_draco_mesh_compression";
export const MESHOPT = ["EXT_meshopt_compression", "KHR_meshopt_compression"];
export const INSTANCES = "EXT_mesh_gpu_instancing";
/** What only a reader with decoders understands. */
export const PACKING = [DRACO, ...MESHOPT, INSTANCES];

/** Whether a GLB holds what only a reader with decoders understands. Bytes that are no GLB do not. */
export function isPacked(bytes: Uint8Array): boolean {
  try {
    const { extensionsUsed } = openContainer(bytes, "").json as { extensionsUsed?: unknown };
    return Array.isArray(extensionsUsed) && PACKING.some((extension) => extensionsUsed.includes(extension));
  } catch {
    return false;
  }
}

/** Codecs of compressed meshes, each loaded when a file first needs it: they are large and most files do without. */
import type { DecoderModule } from "draco3dgltf";
import type { MeshoptDecoder } from "meshoptimizer/decoder";
import type { MeshoptEncoder } from "meshoptimizer/encoder";

const inNode = typeof process !== "undefined" && process.versions?.node !== undefined;

let draco: Promise<DecoderModule> | undefined;
let meshopt: Promise<typeof MeshoptDecoder> | undefined;
let packing: Promise<typeof MeshoptEncoder> | undefined;

/** Draco: Google's codec for `KHR_draco_mesh_compression`. */
export function dracoDecoder(): Promise<DecoderModule> {
  return (draco ??= (async () => {
    const { default: createDecoder } = await import("draco3dgltf/draco_decoder_gltf_nodejs.js");
    // In Node it finds its own program; elsewhere that is one of our files.
    if (inNode) return createDecoder();
    const program = await fetch(new URL("draco3dgltf/draco_decoder_gltf.wasm", import.meta.url));
    return createDecoder({ wasmBinary: await program.arrayBuffer() });
  })());
}

/** Arseny Kapoulkine's codec for `EXT_meshopt_compression`. */
export function meshoptDecoder(): Promise<typeof MeshoptDecoder> {
  return (meshopt ??= (async () => {
    const { MeshoptDecoder: decoder } = await import("meshoptimizer/decoder");
    await decoder.ready;
    return decoder;
  })());
}

/** The same the other way round. */
export function meshoptEncoder(): Promise<typeof MeshoptEncoder> {
  return (packing ??= (async () => {
    const { MeshoptEncoder: encoder } = await import("meshoptimizer/encoder");
    await encoder.ready;
    return encoder;
  })());
}

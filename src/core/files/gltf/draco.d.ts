/** Draco's decoder by itself: its package's main file brings the encoder along. */
declare module "draco3dgltf/draco_decoder_gltf_nodejs.js" {
  import type { createDecoderModule } from "draco3dgltf";
  const createDecoder: typeof createDecoderModule;
  export default createDecoder;
}

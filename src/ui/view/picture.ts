/** A small picture of the view, for the scene's card. */
import * as Comlink from "comlink";
import type { Camera, Scene, WebGLRenderer } from "three";
import type { PictureApi } from "./picture.worker";

let worker: Comlink.Remote<PictureApi> | null = null;

export async function takePicture(gl: WebGLRenderer, scene: Scene, camera: Camera): Promise<string> {
  worker ??= Comlink.wrap<PictureApi>(new Worker(new URL("./picture.worker.ts", import.meta.url), { type: "module" }));
  gl.render(scene, camera);
  // Handed over as it is: whoever reads it back has to wait until all is drawn.
  const view = await createImageBitmap(gl.domElement);
  return worker.cardPicture(Comlink.transfer(view, [view]));
}

/** A small picture of the view, for the scene's card. */
import type { Camera, Scene, WebGLRenderer } from "three";

const [WIDTH, HEIGHT] = [560, 350];

export function takePicture(gl: WebGLRenderer, scene: Scene, camera: Camera): string {
  gl.render(scene, camera);
  const { width, height } = gl.domElement;
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [WIDTH, HEIGHT];
  const pen = canvas.getContext("2d")!;
  const sky = pen.createLinearGradient(0, 0, 0, HEIGHT);
  sky.addColorStop(0, "#cfe2e6");
  sky.addColorStop(0.6, "#e9efe9");
  pen.fillStyle = sky;
  pen.fillRect(0, 0, WIDTH, HEIGHT);
  const scale = Math.max(WIDTH / width, HEIGHT / height);
  const [w, h] = [width * scale, height * scale];
  pen.drawImage(gl.domElement, (WIDTH - w) / 2, (HEIGHT - h) / 2, w, h);
  return canvas.toDataURL("image/jpeg", 0.85);
}

/** Makes the small picture for a scene's card of what the view has drawn, apart from everything that must not wait. */
import * as Comlink from "comlink";

const [WIDTH, HEIGHT] = [560, 350];

const api = {
  /** The view with a sky behind it, as the text of a data URL. */
  async cardPicture(view: ImageBitmap): Promise<string> {
    const canvas = new OffscreenCanvas(WIDTH, HEIGHT);
    const pen = canvas.getContext("2d")!;
    const sky = pen.createLinearGradient(0, 0, 0, HEIGHT);
    sky.addColorStop(0, "#cfe2e6");
    sky.addColorStop(0.6, "#e9efe9");
    pen.fillStyle = sky;
    pen.fillRect(0, 0, WIDTH, HEIGHT);
    const scale = Math.max(WIDTH / view.width, HEIGHT / view.height);
    const [w, h] = [view.width * scale, view.height * scale];
    pen.drawImage(view, (WIDTH - w) / 2, (HEIGHT - h) / 2, w, h);
    view.close();
    const bytes = new Uint8Array(
      await (await canvas.convertToBlob({ type: "image/jpeg", quality: 0.85 })).arrayBuffer(),
    );
    let text = "";
    for (const byte of bytes) text += String.fromCharCode(byte);
    return `data:image/jpeg;base64,${btoa(text)}`;
  },
};

export type PictureApi = typeof api;

Comlink.expose(api);

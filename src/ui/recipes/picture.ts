/** A small picture of what a recipe comes to: taken from what lies unrolled, or that of an assembly. */
import { inks } from "../kit";

const [WIDTH, HEIGHT] = [320, 72];

/** As a data address; null where nothing lies unrolled. */
export function pictureOfStrip(): string | null {
  const shown = document.querySelector<HTMLCanvasElement>("canvas[data-testid=strip], canvas[data-testid=sheet]");
  if (!shown || shown.width === 0) return null;
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [WIDTH, HEIGHT];
  const pen = canvas.getContext("2d");
  if (!pen) return null;
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, WIDTH, HEIGHT);
  // The left part, below the ruler, at the canvas's own proportions.
  const ruler = (24 * shown.height) / Math.max(1, shown.clientHeight);
  const high = shown.height - ruler;
  const wide = Math.min(shown.width, (high * WIDTH) / HEIGHT);
  pen.drawImage(shown, 0, ruler, wide, high, 0, 0, WIDTH, HEIGHT);
  return canvas.toDataURL("image/jpeg", 0.8);
}

/** A picture of a prop's, as a data address. */
export async function pictureOfCard(url: string): Promise<string | null> {
  const image = new Image();
  image.src = url;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = HEIGHT;
  const pen = canvas.getContext("2d");
  if (!pen) return null;
  pen.fillStyle = inks.linen0;
  pen.fillRect(0, 0, HEIGHT, HEIGHT);
  pen.drawImage(image, 0, 0, HEIGHT, HEIGHT);
  return canvas.toDataURL("image/jpeg", 0.85);
}

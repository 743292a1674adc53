import type { DensityMap } from "@/core/place";

/** The map of how full it is as a picture: nothing where all may stand, and paler the fewer do. */
export function tintOf({ columns, rows, share, height }: DensityMap): HTMLCanvasElement {
  const picture = document.createElement("canvas");
  [picture.width, picture.height] = [columns, rows];
  const pen = picture.getContext("2d")!;
  const image = pen.createImageData(columns, rows);
  for (let i = 0; i < columns * rows; i++) {
    if (Number.isNaN(height[i])) continue;
    image.data.set([246, 240, 228, Math.round(205 * (1 - share[i]))], 4 * i);
  }
  pen.putImageData(image, 0, 0);
  return picture;
}

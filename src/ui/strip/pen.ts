/** Shapes that several parts of the strip are drawn of. */

/** Slots and what stands in them are drawn as no more than a block where they are smaller than this, pixels. */
export const NARROW = 4;

export function rounded(pen: CanvasRenderingContext2D, x: number, y: number, w: number, h: number, r: number): void {
  pen.beginPath();
  pen.roundRect(x, y, w, h, Math.min(r, w / 2, h / 2));
}

/** *Placements too small to have a shape*, as pixels written straight into a picture: paths of many thousands are slow. */

/** One pixel each, or two by two. */
export type DotSize = 1 | 2;

/** A colour as four bytes are read on the machines that browsers run on: alpha, blue, green, red. */
export function packed(colour: string): number {
  const rgb = /^#[0-9a-f]{6}$/i.test(colour) ? parseInt(colour.slice(1), 16) : 0xb9a784;
  return ((0xff << 24) | ((rgb & 0xff) << 16) | (rgb & 0xff00) | (rgb >> 16)) >>> 0;
}

/** Writes a dot about a place, pixels, into a picture; what lies beyond its edges is left out. */
export function putDot(pixels: Uint32Array, width: number, x: number, y: number, size: DotSize, colour: number): void {
  const left = Math.round(x - size / 2);
  const top = Math.round(y - size / 2);
  const bottom = Math.min(pixels.length / width, top + size);
  const right = Math.min(width, left + size);
  for (let row = Math.max(0, top); row < bottom; row++) {
    for (let column = Math.max(0, left); column < right; column++) pixels[row * width + column] = colour;
  }
}

/** The picture that dots are written into, kept from one drawing to the next. */
let kept: HTMLCanvasElement | null = null;

/** An empty picture over the whole sheet that dots are put into. */
export class Dots {
  readonly #pen: CanvasRenderingContext2D;
  readonly #picture: ImageData;
  readonly #pixels: Uint32Array;

  constructor(width: number, height: number) {
    kept ??= document.createElement("canvas");
    const [wide, high] = [Math.ceil(width), Math.ceil(height)];
    if (kept.width !== wide || kept.height !== high) [kept.width, kept.height] = [wide, high];
    this.#pen = kept.getContext("2d")!;
    this.#picture = this.#pen.createImageData(wide, high);
    this.#pixels = new Uint32Array(this.#picture.data.buffer);
  }

  put(x: number, y: number, size: DotSize, colour: number): void {
    putDot(this.#pixels, this.#picture.width, x, y, size, colour);
  }

  layOver(pen: CanvasRenderingContext2D): void {
    this.#pen.putImageData(this.#picture, 0, 0);
    pen.imageSmoothingEnabled = false;
    pen.drawImage(this.#pen.canvas, 0, 0);
  }
}

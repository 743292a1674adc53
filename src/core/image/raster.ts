/** Pictures that say how full a surface is: one number a pixel, from 0 to 1. */
import { convertIndexedToRgb, decode, encode, hasPngSignature } from "fast-png";
import { InputError } from "../schema";

export interface Raster {
  width: number;
  height: number;
  /** Rows from the top: width · height numbers. */
  share: Float32Array;
}

/** No side of a picture is longer, pixels. */
export const MOST_PIXELS = 4096;

export const isPng = (bytes: Uint8Array): boolean => hasPngSignature(bytes.subarray(0, 8));

/**
 * How bright each pixel of a PNG is; where it is transparent it counts as dark.
 *
 * @param name what to call the file in messages
 * @throws InputError when it is no PNG, is damaged or too large
 */
export function readRaster(bytes: Uint8Array, name: string): Raster {
  if (!isPng(bytes)) throw new InputError(`“${name}” is no PNG.`);
  let image: ReturnType<typeof decode>;
  try {
    image = decode(bytes);
  } catch {
    throw new InputError(`“${name}” is damaged: it cannot be read as a PNG.`);
  }
  const { width, height, palette } = image;
  if (Math.max(width, height) > MOST_PIXELS) {
    throw new InputError(`“${name}” is ${width} × ${height} pixels large; no side may have more than ${MOST_PIXELS}.`);
  }
  const data = palette ? convertIndexedToRgb(image) : image.data;
  const [channels, depth] = palette ? [palette[0].length, 8] : [image.channels, image.depth];
  if (depth !== 8 && depth !== 16) {
    throw new InputError(`“${name}” has ${depth} bits a pixel; save it with 8 or 16.`);
  }
  const full = 2 ** depth - 1;
  const share = new Float32Array(width * height);
  const colours = channels >= 3;
  const alpha = channels === 2 || channels === 4;
  for (let i = 0, p = 0; i < share.length; i++, p += channels) {
    // Luma as ITU-R BT.709 has it.
    const grey = colours ? 0.2126 * data[p] + 0.7152 * data[p + 1] + 0.0722 * data[p + 2] : data[p];
    share[i] = (grey / full) * (alpha ? data[p + channels - 1] / full : 1);
  }
  return { width, height, share };
}

/** A PNG in grey of how bright pixels are. @param rgba rows from the top, 4 numbers from 0 to 255 each */
export function writeRaster(width: number, height: number, rgba: ArrayLike<number>): Uint8Array {
  const data = new Uint8Array(width * height);
  for (let i = 0, p = 0; i < data.length; i++, p += 4) {
    data[i] = Math.round((0.2126 * rgba[p] + 0.7152 * rgba[p + 1] + 0.0722 * rgba[p + 2]) * (rgba[p + 3] / 255));
  }
  return encode({ width, height, data, channels: 1, depth: 8 });
}

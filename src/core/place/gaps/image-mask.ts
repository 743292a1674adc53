/** Masks: pictures laid over a surface, by its texture coordinates or from above, and colours of its mesh's vertices. */
import { weightsIn, type WorldMesh } from "../../mesh";
import type { Raster } from "../../image";
import type { Spots } from "./spots";
import type { ColourMask, ImageMask } from "./schema";

/** The share that a mask gives each place; null where it says nothing, as without texture coordinates. */
export type MaskShare = (spots: Spots, i: number) => number;

export function imageShare(mask: ImageMask, raster: Raster | undefined, ground: WorldMesh): MaskShare | null {
  if (!raster) return null;
  const shaped = shaper(mask);
  if (mask.project === "above") {
    const [[x0, z0], [x1, z1]] = [mask.least, mask.most];
    // The picture's upper edge lies in the north, where z is least.
    return ({ position: P }, i) => {
      const u = (P[3 * i] - x0) / (x1 - x0);
      const v = (P[3 * i + 2] - z0) / (z1 - z0);
      return u >= 0 && u <= 1 && v >= 0 && v <= 1 ? shaped(sampled(raster, u, v)) : 0;
    };
  }
  const { uv } = ground;
  if (!uv) return null;
  return (spots, i) => {
    const [u, v] = [valueAt(ground, uv, 2, 0, spots, i), valueAt(ground, uv, 2, 1, spots, i)];
    return shaped(sampled(raster, u - Math.floor(u), v - Math.floor(v)));
  };
}

export function colourShare(mask: ColourMask, ground: WorldMesh): MaskShare | null {
  const { colour } = ground;
  if (!mask.on || !colour) return null;
  const shaped = shaper(mask);
  const part = { red: 0, green: 1, blue: 2, bright: -1 }[mask.channel];
  return (spots, i) => {
    const of = (k: number) => valueAt(ground, colour, 3, k, spots, i);
    return shaped(part >= 0 ? of(part) : 0.2126 * of(0) + 0.7152 * of(1) + 0.0722 * of(2));
  };
}

/** What is dark leaves nothing and what is bright all, or the other way round; from one level to another. */
function shaper({ invert, levels: [low, high] }: Pick<ImageMask, "invert" | "levels">): (value: number) => number {
  const wide = Math.max(1e-6, high - low);
  return (value) => Math.max(0, Math.min(1, ((invert ? 1 - value : value) - low) / wide));
}

/** Between the four nearest pixels, whose middles are where they have their own value. */
function sampled({ width, height, share }: Raster, u: number, v: number): number {
  const x = Math.max(0, Math.min(width - 1, u * width - 0.5));
  const y = Math.max(0, Math.min(height - 1, v * height - 0.5));
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [right, bottom] = [Math.min(width - 1, left + 1), Math.min(height - 1, top + 1)];
  const [a, b] = [x - left, y - top];
  const upper = share[top * width + left] * (1 - a) + share[top * width + right] * a;
  const lower = share[bottom * width + left] * (1 - a) + share[bottom * width + right] * a;
  return upper * (1 - b) + lower * b;
}

const weights = new Float64Array(3);

/** A vertex attribute of so many numbers at a place of its triangle. */
function valueAt(
  ground: WorldMesh,
  values: Float32Array,
  width: number,
  k: number,
  { position: P, triangle }: Spots,
  i: number,
): number {
  const t = triangle[i];
  weightsIn(ground, t, P[3 * i], P[3 * i + 1], P[3 * i + 2], weights);
  let sum = 0;
  for (let corner = 0; corner < 3; corner++) sum += weights[corner] * values[width * ground.index[3 * t + corner] + k];
  return sum;
}

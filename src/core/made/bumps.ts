/**
 * A plane with bumps: gradient noise (K. Perlin, *Improving Noise*, SIGGRAPH 2002) in several sizes. Bumps stay where they
 * are when the plane becomes larger.
 */
import { CHANNEL, drawFrom, streamOf } from "../math";
import { latticeMesh } from "./lattice";
import type { TriangleMesh } from "../mesh";
import type { Bumps } from "./schema";

/** A bump of the smallest size is made of so many pieces, as long as the whole has no more than so many a side. */
const PER_BUMP = 6;
const MOST = 400;
/** Gradient noise stays within this of zero; it comes near it rarely. */
const REACH = Math.SQRT1_2;

export function bumps({ width, depth, height, size, rough, seed }: Bumps): TriangleMesh {
  const finest = size / 2 ** rough / PER_BUMP;
  const pieces = (side: number) => (height === 0 ? 1 : Math.max(1, Math.min(MOST, Math.ceil(side / finest))));
  const [columns, rows] = [pieces(width) + 1, pieces(depth) + 1];
  const noise = noiseOf(seed);
  const whole = (2 - 2 ** -rough) * REACH * 2;
  return latticeMesh({
    rows,
    columns,
    point(row, column, out) {
      out[0] = width * (column / (columns - 1) - 0.5);
      // Rows go north, away from the first view, so that the mesh shows its upper side.
      out[2] = depth * (0.5 - row / (rows - 1));
      let up = 0;
      for (let k = 0, share = 1; k <= rough; k++, share /= 2) {
        const scale = 2 ** k / size;
        up += share * noise(out[0] * scale, out[2] * scale, k);
      }
      out[1] = (height * up) / whole;
    },
  });
}

/** Noise of wavelength 1: a draw decides the slope at each whole place. */
function noiseOf(seed: number): (x: number, z: number, layer: number) => number {
  const stream = streamOf(seed, CHANNEL.bumps);
  const slope = (i: number, k: number, layer: number, x: number, z: number) => {
    const angle = 2 * Math.PI * drawFrom(stream, i, Math.imul(k, 64) + layer);
    return Math.cos(angle) * x + Math.sin(angle) * z;
  };
  const ease = (t: number) => t * t * t * (t * (6 * t - 15) + 10);
  return (x, z, layer) => {
    const [i, k] = [Math.floor(x), Math.floor(z)];
    const [fx, fz] = [x - i, z - k];
    const [a, b] = [ease(fx), ease(fz)];
    const near = slope(i, k, layer, fx, fz) * (1 - a) + slope(i + 1, k, layer, fx - 1, fz) * a;
    const far = slope(i, k + 1, layer, fx, fz - 1) * (1 - a) + slope(i + 1, k + 1, layer, fx - 1, fz - 1) * a;
    return near * (1 - b) + far * b;
  };
}

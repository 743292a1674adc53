/** Maps of how full something is: grids of samples, and why they are no fuller. */
import type { Reason } from "./spots";

/** A grid of samples, rows of x, one behind the other. */
export interface Sampled {
  /** Corners of the box that the samples fill, metres. A sample lies in the middle of its cell. */
  least: [number, number];
  most: [number, number];
  columns: number;
  rows: number;
  /** From 0, where nothing stands, to 1. */
  share: Float32Array;
  /** What takes most away there: an index into {@link REASONS}, or {@link NO_REASON}. */
  reason: Uint8Array;
}

export interface DensityMap extends Sampled {
  /** How high the highest field lies at each sample, metres; NaN where there is none. Rows of x along z. */
  height: Float32Array;
}

/** Charts beside each other, and how full they are: a grid of samples over all of them. */
export interface ChartMap extends Sampled {
  /** How far each field's chart is moved to stand beside the others, metres. */
  shift: number[];
}

export interface Charted extends ChartMap {
  /** Corners of all placements' footprints, from the front left one around: 8n, x and y. */
  footprints: Float64Array;
}

export const REASONS: readonly Reason[] = [
  "outside",
  "paint",
  "mask",
  "slope",
  "height",
  "facing",
  "uv",
  "distance",
  "edge",
];
export const NO_REASON = 255;

/**
 * A plane with bumps: gradient noise (K. Perlin, *Improving Noise*, SIGGRAPH 2002) in several sizes. Bumps stay where they
 * are when the plane becomes larger.
 */
import { CHANNEL, drawFrom, streamOf } from "../math";
import { latticeMesh } from "./lattice";
import { cutAtRim, type Cuts } from "./rim";
import type { TriangleMesh } from "../mesh";
import type { Bumps } from "./schema";

/** A bump of the smallest size is made of so many pieces, as long as the whole has no more than so many a side. */
const PER_BUMP = 6;
const MOST = 400;
/** The longer side of a flat one is made of so many pieces, at least. */
const FLAT = 8;
/** Gradient noise stays within this of zero; it comes near it rarely. */
const REACH = Math.SQRT1_2;

export function bumps(made: Bumps): TriangleMesh {
  const { width, depth, height, size, rough, seed } = made;
  const [across, along] = cuts(made);
  const [columns, rows] = [across.at.length, along.at.length];
  const noise = noiseOf(seed);
  const whole = (2 - 2 ** -rough) * REACH * 2;
  const shares = ({ at }: Cuts, side: number) => at.map((x) => x / side + 0.5);
  const mesh = latticeMesh({
    rows,
    columns,
    shares: { columns: shares(across, width), rows: shares(along, depth) },
    point(row, column, out) {
      out[0] = across.at[column];
      // Rows go north, away from the first view, so that the mesh shows its upper side.
      out[2] = -along.at[row];
      let up = 0;
      for (let k = 0, share = 1; k <= rough; k++, share /= 2) {
        const scale = 2 ** k / size;
        up += share * noise(out[0] * scale, out[2] * scale, k);
      }
      out[1] = (height * up) / whole;
    },
  });
  return { ...mesh, cut: cutAtRim(mesh.index, across, along) };
}

function cuts({ width, depth, height, size, rough }: Bumps): [across: Cuts, along: Cuts] {
  const finest = size / 2 ** rough / PER_BUMP;
  // What is flat is cut as well, so that making it larger leaves the inner pieces what they are.
  const flat = 2 ** Math.floor(Math.log2(Math.max(width, depth) / FLAT));
  const piece = height === 0 ? flat : finest;
  return [cut(width, piece), cut(depth, piece)];
}

export function trianglesOfBumps(made: Bumps): number {
  const [across, along] = cuts(made);
  return 2 * (across.at.length - 1) * (along.at.length - 1);
}

/** Where a side is cut: counted from its middle, so that a larger one is cut alike and only its rim is another. */
function cut(side: number, piece: number): Cuts {
  while (side > MOST * piece) piece *= 2;
  const half = Math.max(0, Math.ceil(side / (2 * piece) - SLIVER) - 1);
  const inner =
    piece < Infinity && side > piece ? Array.from({ length: 2 * half + 1 }, (_, k) => (k - half) * piece) : [];
  return { at: Float64Array.of(-side / 2, ...inner, side / 2), piece };
}

/** A piece at the rim is at least this share of a whole one, unless it is all. */
const SLIVER = 0.05;

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

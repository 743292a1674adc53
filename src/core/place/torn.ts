/** *Where a sheet is torn under a layout*: what lies next to each other on it, and far apart on the surface. */
import { PointGrid } from "../mesh";
import type { Spread } from "./slots";

/** Next to each other are those within so many times the room that each has in the mean. */
const NEXT = 1.8;
/** Farther apart than so many times what is usual is more than any stretch. */
export const TORN = 2;

/** So many directions on the sheet are told apart. */
const WAYS = 8;

/**
 * By how much farther each is from one next to it than the sheet says, metres: n; null where the sheet is whole.
 *
 * @param spread with where each is in its flat layout
 */
export function tornBeside({ flat, position }: Spread): Float32Array | null {
  if (!flat) return null;
  const n = flat.length / 2;
  const next = NEXT * roomOf(flat);
  if (!(next > 0)) return null;
  const grid = new PointGrid(n);
  for (let i = 0; i < n; i++) grid.push(flat[2 * i], 0, flat[2 * i + 1]);
  grid.resize(2 * next);
  /** The distance between two over the surface, as a multiple of that on the sheet. */
  const longer = (i: number, j: number): number => {
    const x = position[3 * i] - position[3 * j];
    const y = position[3 * i + 1] - position[3 * j + 1];
    const z = position[3 * i + 2] - position[3 * j + 2];
    return Math.sqrt(x * x + y * y + z * z) / flatApart(flat, i, j);
  };
  const ways = Array.from({ length: WAYS }, () => ({ ratios: new Float64Array(n), known: 0, last: -1 }));
  for (let i = 0; i < n; i++) {
    const found = grid.gather(flat[2 * i], 0, flat[2 * i + 1], next);
    for (let k = 0; k < found; k++) {
      const ratio = grid.near[k] > i ? longer(i, grid.near[k]) : NaN;
      const way = ways[wayOf(flat, i, grid.near[k])];
      if (!(ratio < Infinity) || way.last === i) continue;
      way.ratios[way.known++] = ratio;
      way.last = i;
    }
  }
  // A layout that is stretched, more so one way than the other, is not torn: what counts is what most of it does that way.
  const usual = ways.map(({ ratios, known }) => ratios.subarray(0, known).sort()[known >> 1]);
  const torn = new Float32Array(n);
  let any = false;
  for (let i = 0; i < n; i++) {
    const found = grid.gather(flat[2 * i], 0, flat[2 * i + 1], next);
    for (let k = 0; k < found; k++) {
      const j = grid.near[k];
      const ratio = longer(i, j);
      const ordinary = usual[wayOf(flat, i, j)];
      if (!(ratio > TORN * ordinary && ratio < Infinity)) continue;
      any = true;
      torn[i] = Math.max(torn[i], (ratio - ordinary) * flatApart(flat, i, j));
    }
  }
  return any ? torn : null;
}

/** In which direction one lies from another, either way round. */
function wayOf(flat: Float64Array, i: number, j: number): number {
  const angle = Math.atan2(flat[2 * i + 1] - flat[2 * j + 1], flat[2 * i] - flat[2 * j]) / Math.PI;
  // What runs along an axis is well within a direction.
  return Math.floor(WAYS * (angle + 1 + 0.5 / WAYS)) % WAYS;
}

function flatApart(flat: Float64Array, i: number, j: number): number {
  const [x, y] = [flat[2 * i] - flat[2 * j], flat[2 * i + 1] - flat[2 * j + 1]];
  return Math.sqrt(x * x + y * y);
}

/** How far apart they are in the mean, were they spread evenly over the box that they take up, metres. */
function roomOf(flat: Float64Array): number {
  const [least, most] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ];
  for (let i = 0; i < flat.length; i++) {
    least[i % 2] = Math.min(least[i % 2], flat[i]);
    most[i % 2] = Math.max(most[i % 2], flat[i]);
  }
  const [wide, deep] = [most[0] - least[0], most[1] - least[1]];
  const n = flat.length / 2;
  return Math.max(Math.sqrt((wide * deep) / n), Math.max(wide, deep) / Math.max(1, n - 1));
}

/** *A volume cut into cells*, in its own coordinates: what positions in it are found and known by. */
import type { Vec3 } from "../../math";
import type { Volume } from "../where/volume";

/** A volume is cut into at most so many cells. */
const MOST_CELLS = 2_500_000;

/** A box of cells: the first of each axis and how many there are, counted from the volume's own zero. */
export interface Cells {
  size: Vec3;
  first: readonly number[];
  count: readonly number[];
}

/** Cells of a size, or of the next larger one for which there are not too many. */
export function cellsOf({ least, most }: Volume, size: Vec3): Cells {
  for (let k = 0; ; k++) {
    const larger = size.map((one) => one * 2 ** (k / 3)) as unknown as Vec3;
    const first = least.map((low, axis) => Math.floor(low / larger[axis]));
    const count = most.map((high, axis) => Math.floor(high / larger[axis]) - first[axis] + 1);
    if (count[0] * count[1] * count[2] <= MOST_CELLS) return { size: larger, first, count };
  }
}

/** What a cell is known by, in so many bits: by its place, as long as all places can be told apart; or else by its rank. */
export function namesOf({ count }: Cells, bits: number): (i: number, j: number, k: number, rank: number) => number {
  const each = [Math.ceil(bits / 3), Math.floor(bits / 3), Math.ceil((bits - 1) / 3)];
  const fits = count.every((n, axis) => n <= 2 ** each[axis]);
  if (!fits) return (_i, _j, _k, rank) => rank % 2 ** bits;
  const [x, y, z] = each.map((n) => 2 ** n - 1);
  return (i, j, k) => ((((i & x) << each[1]) | (j & y)) << each[2]) | (k & z);
}

/** Calls `visit` for each cell with its place and rank. */
export function eachCell(cells: Cells, visit: (i: number, j: number, k: number, rank: number) => void): void {
  const [nx, ny, nz] = cells.count;
  const [x, y, z] = cells.first;
  for (let i = 0, rank = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) for (let k = 0; k < nz; k++, rank++) visit(x + i, y + j, z + k, rank);
}

/** Where a cell lies: cut by a wall, or as a whole inside or outside. */
export const [MAYBE, IN, OUT] = [0, 1, 2];

/** Cells are looked at in blocks of so many a side first. */
const BLOCK = 4;

/** For each cell whether it lies inside as a whole, or outside. */
export function sidesOf(volume: Volume, { size, first, count }: Cells): Uint8Array {
  const sides = new Uint8Array(count[0] * count[1] * count[2]);
  const diagonal = Math.hypot(...size);
  /** The side on which so many cells a side lie from one on, or {@link MAYBE}. */
  const sideOf = (i: number, j: number, k: number, cells: number): number => {
    const [x, y, z] = [i, j, k].map((cell, axis) => (first[axis] + cell + cells / 2) * size[axis]);
    const reach = (cells * diagonal) / 2;
    if (volume.toWall(x, y, z, reach) <= reach) return MAYBE;
    return volume.contains(x, y, z) ? IN : OUT;
  };
  for (let i = 0; i < count[0]; i += BLOCK) {
    for (let j = 0; j < count[1]; j += BLOCK) {
      for (let k = 0; k < count[2]; k += BLOCK) {
        const whole = sideOf(i, j, k, BLOCK);
        for (let a = i; a < Math.min(count[0], i + BLOCK); a++) {
          for (let b = j; b < Math.min(count[1], j + BLOCK); b++) {
            for (let c = k; c < Math.min(count[2], k + BLOCK); c++) {
              sides[(a * count[1] + b) * count[2] + c] = whole === MAYBE ? sideOf(a, b, c, 1) : whole;
            }
          }
        }
      }
    }
  }
  return sides;
}

/** *One even pattern for all of space*: a tile of cells full of positions, which goes on beyond each of its sides. */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { Darts, type Numbering } from "./darts";

/**
 * Cells of the tile are numbered like this. All places with the same number look alike; the nearest two of them are 34 cells
 * apart, askew to all axes, and along an axis a number comes again only after 32,768 cells: so from no side repetitions are
 * seen behind each other (steps found by trial, after the good lattices of N. M. Korobov, 1959).
 */
const TILE: Numbering = { cells: 32_768, steps: [1, 9755, 27_119], mask: 32_767 };
/** So many darts are thrown into each cell; what is still free of it is looked for in so small parts of it. */
const THROWN = 4;
const DEPTH = 2;

/** Its positions: which of the tile's cells have one, and where in these it is. */
export type Tile = Pick<Darts, "taken" | "points">;

let made: Tile | undefined;

/** Nothing but the pattern itself decides about it, so there is one for all. */
export const evenTile = (): Tile => (made ??= makeTile());

/** The cell of the tile that a cell of space is. */
export const cellInTile = (i: number, j: number, k: number): number =>
  (i + Math.imul(j, TILE.steps[1]) + Math.imul(k, TILE.steps[2])) & TILE.mask;

/**
 * Cells have their turns in the order of thresholds that are drawn for them, so that none is preferred; what comes of it is like
 * balls that are thrown at random until no more find room (B. Widom, *Random Sequential Addition of Hard Spheres to a Volume*,
 * J. Chem. Phys. 44, 1966). The search for what is left is after M. S. Ebeida, S. A. Mitchell and others, *A Simple Algorithm
 * for Maximal Poisson-Disk Sampling in High Dimensions*, Computer Graphics Forum 31(2), 2012.
 */
function makeTile(): Tile {
  const stream = streamOf(0, CHANNEL.insideEven);
  const darts = new Darts(TILE, stream, DEPTH);
  let left = inOrderOfLots(
    Int32Array.from(darts.taken, (_, cell) => cell),
    (cell) => cell,
    stream,
  );
  for (let attempt = 0; attempt <= THROWN; attempt++) {
    left = left.filter((cell) => {
      const isFree = attempt < THROWN ? darts.throwInto(cell, cell, attempt) : darts.search(cell, cell, null);
      if (isFree) darts.put(cell, ...(darts.found as unknown as [number, number, number]));
      return !isFree;
    });
  }
  return darts;
}

/** Cells in the order of thresholds drawn by their keys; cells are whole numbers below 2²². */
export function inOrderOfLots(cells: ArrayLike<number>, keyOf: (cell: number) => number, stream: number): Int32Array {
  const thresholds = Float64Array.from(
    cells,
    (cell) => Math.floor(drawFrom(stream, keyOf(cell), -1) * 2 ** 31) * 2 ** 22 + cell,
  );
  return Int32Array.from(thresholds.sort(), (threshold) => threshold % 2 ** 22);
}

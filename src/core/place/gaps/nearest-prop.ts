/** *How far the nearest of some placements is*, up to a distance: they are sorted into cubes of that size. */
import { cellKey } from "../../math";
import { FLAG } from "../slots";
import type { Placements } from "../placements";

export class NearestProp {
  readonly #points: Float64Array;
  readonly #most: number;
  readonly #cells = new Map<number, number[]>();

  /** @param most metres; what is farther is not looked for */
  constructor({ count, origin, position, flags }: Placements, most: number) {
    this.#most = most;
    this.#points = new Float64Array(3 * count);
    for (let i = 0; i < count; i++) {
      if ((flags[i] & FLAG.blank) !== 0) continue;
      for (let axis = 0; axis < 3; axis++) this.#points[3 * i + axis] = origin[axis] + position[3 * i + axis];
      const [x, y, z] = this.#points.subarray(3 * i, 3 * i + 3);
      const name = cellKey(Math.floor(x / most), Math.floor(y / most), Math.floor(z / most));
      const cell = this.#cells.get(name);
      if (cell) cell.push(i);
      else this.#cells.set(name, [i]);
    }
  }

  /** The distance, or the most there is. */
  from(x: number, y: number, z: number): number {
    const most = this.#most;
    const P = this.#points;
    const i = Math.floor(x / most);
    const j = Math.floor(y / most);
    const k = Math.floor(z / most);
    let squared = most * most;
    for (let a = i - 1; a <= i + 1; a++) {
      for (let b = j - 1; b <= j + 1; b++) {
        for (let c = k - 1; c <= k + 1; c++) {
          // What else has the same key only adds a few that are too far off to count.
          const cell = this.#cells.get(cellKey(a, b, c)) ?? NONE;
          for (let n = 0; n < cell.length; n++) {
            const p = 3 * cell[n];
            const dx = P[p] - x;
            const dy = P[p + 1] - y;
            const dz = P[p + 2] - z;
            const far = dx * dx + dy * dy + dz * dz;
            if (far < squared) squared = far;
          }
        }
      }
    }
    return Math.sqrt(squared);
  }
}

const NONE: readonly number[] = [];

/** *A volume cut into cells*, in its own coordinates: what positions in it are found and known by. */
import type { Vec3 } from "../../math";
import type { Volume } from "../../host";

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

/** Calls `visit` for each cell with its place. */
export function eachCell(cells: Cells, visit: (i: number, j: number, k: number) => void): void {
  const [nx, ny, nz] = cells.count;
  const [x, y, z] = cells.first;
  for (let i = 0; i < nx; i++) for (let j = 0; j < ny; j++) for (let k = 0; k < nz; k++) visit(x + i, y + j, z + k);
}

/** Where a cell lies: cut by a wall, or as a whole inside or outside. */
export const [MAYBE, IN, OUT] = [0, 1, 2];
const UNKNOWN = 3;
/** No mesh winds round a point so often. */
const UNASKED = 127;
/** A cell is taken as this share larger than it is, so that walls along its sides belong to both. */
const RIM = 1e-6;
/** About the middle of a cell, but not quite: edges of meshes like to go through middles, and would be counted twice there. */
const MIDDLE = [0.5134, 0.4871, 0.5257] as const;

/**
 * *Which cells of a volume lie inside*, and of those that its walls go through which places of them. Such a cell knows the
 * triangles in it and how often the mesh winds round its middle, so of a place in it only the triangles between the two have
 * to be counted: each changes that by one.
 */
export class Insides {
  /** For each cell {@link MAYBE}, {@link IN} or {@link OUT}. */
  readonly sides: Uint8Array;
  readonly #volume: Volume;
  readonly #cells: Cells;
  /** For each cell that is cut the last entry of its list of triangles, and for each entry its triangle and the one before. */
  readonly #last: Int32Array;
  readonly #triangle: number[] = [];
  readonly #before: number[] = [];
  /** 1 for cells that lie in the box about a hole, where only how often the mesh winds round a place tells on which side it is. */
  readonly #open: Uint8Array;
  /** How often the mesh winds round the middles of cells, as far as that has been asked for. */
  readonly #turns: Int8Array;
  readonly #corners = new Float64Array(9);

  constructor(volume: Volume, cells: Cells) {
    const [nx, ny, nz] = cells.count;
    this.#volume = volume;
    this.#cells = cells;
    this.sides = new Uint8Array(nx * ny * nz).fill(UNKNOWN);
    this.#turns = new Int8Array(nx * ny * nz).fill(UNASKED);
    this.#last = new Int32Array(nx * ny * nz).fill(-1);
    this.#open = new Uint8Array(nx * ny * nz);
    const walls = new Walls(cells, (cell, triangle) => {
      this.sides[cell] = MAYBE;
      this.#before.push(this.#last[cell]);
      this.#last[cell] = this.#triangle.push(triangle) - 1;
    });
    for (let t = 0; t < volume.triangles; t++) {
      volume.writeTriangle(t, this.#corners);
      walls.mark(this.#corners, t);
    }
    for (const hole of volume.holes) this.#leaveOpen(hole);
    this.#fill();
  }

  /** Marks the cells about a hole: through no others one comes from the inside to the outside without passing a triangle. */
  #leaveOpen(hole: Float64Array): void {
    const { size, first, count } = this.#cells;
    const [from, to] = [0, 3].map((end) =>
      [0, 1, 2].map((axis) => {
        const cell = Math.floor(hole[end + axis] / size[axis] + (end === 0 ? -RIM : RIM)) - first[axis];
        return Math.max(0, Math.min(count[axis] - 1, cell));
      }),
    );
    for (let i = from[0]; i <= to[0]; i++) {
      for (let j = from[1]; j <= to[1]; j++) {
        for (let k = from[2]; k <= to[2]; k++) {
          const cell = (i * count[1] + j) * count[2] + k;
          this.sides[cell] = MAYBE;
          this.#open[cell] = 1;
        }
      }
    }
  }

  /** All cells that are not cut and hang together lie on the same side, which is asked for once. */
  #fill(): void {
    const { sides } = this;
    for (let cell = 0; cell < sides.length; cell++) {
      if (sides[cell] === UNKNOWN) this.#fillFrom(cell, this.#volume.turnsAt(...this.#middle(cell)));
    }
  }

  /** Goes along the last axis as far as it can, and on to the four rows beside that. */
  #fillFrom(start: number, turns: number): void {
    const { sides } = this;
    const [nx, ny, nz] = this.#cells.count;
    const side = turns === 0 ? OUT : IN;
    const open = [start];
    for (let cell = open.pop(); cell !== undefined; cell = open.pop()) {
      if (sides[cell] !== UNKNOWN) continue;
      const row = Math.floor(cell / nz);
      let [from, to] = [cell, cell + 1];
      while (from > row * nz && sides[from - 1] === UNKNOWN) from--;
      while (to < (row + 1) * nz && sides[to] === UNKNOWN) to++;
      sides.fill(side, from, to);
      this.#turns.fill(turns, from, to);
      const beside = [row % ny > 0 ? -nz : 0, row % ny < ny - 1 ? nz : 0, row >= ny ? -ny * nz : 0];
      for (const step of [...beside, row < (nx - 1) * ny ? ny * nz : 0]) {
        for (let next = from + step; step !== 0 && next < to + step; next++) {
          if (sides[next] === UNKNOWN && (next === from + step || sides[next - 1] !== UNKNOWN)) open.push(next);
        }
      }
    }
  }

  /** Whether a point of a cell, in the volume's own coordinates, lies inside. */
  contains(cell: number, x: number, y: number, z: number): boolean {
    const side = this.sides[cell];
    if (side !== MAYBE) return side === IN;
    if (this.#open[cell] === 1) return this.#volume.contains(x, y, z);
    if (this.#turns[cell] === UNASKED) this.#turns[cell] = this.#turnsOfCut(cell);
    const { first, size, count } = this.#cells;
    const row = Math.floor(cell / count[2]);
    const i = Math.floor(row / count[1]);
    const mx = (first[0] + i + MIDDLE[0]) * size[0];
    const my = (first[1] + row - i * count[1] + MIDDLE[1]) * size[1];
    const mz = (first[2] + cell - row * count[2] + MIDDLE[2]) * size[2];
    return this.#turns[cell] + this.#turnsBetween(cell, mx, my, mz, x, y, z) !== 0;
  }

  /** How much more often the mesh winds round the second of two points, by the triangles of a cell that lie between them. */
  #turnsBetween(cell: number, ax: number, ay: number, az: number, bx: number, by: number, bz: number): number {
    let turns = 0;
    for (let e = this.#last[cell]; e >= 0; e = this.#before[e]) {
      this.#volume.writeTriangle(this.#triangle[e], this.#corners);
      turns += turnsThrough(this.#corners, ax, ay, az, bx, by, bz);
    }
    return turns;
  }

  /**
   * Of the middle of a cell that is cut: by the way to it from a neighbour of which that is known, if there is one, through the
   * triangles of both.
   */
  #turnsOfCut(cell: number): number {
    const [nx, ny, nz] = this.#cells.count;
    const at = [Math.floor(cell / (ny * nz)), Math.floor(cell / nz) % ny, cell % nz];
    const [i, j, k] = at;
    const middle = this.#middle(cell);
    for (const [next, there, axis] of [
      [cell - 1, k > 0, 2],
      [cell + 1, k < nz - 1, 2],
      [cell - nz, j > 0, 1],
      [cell + nz, j < ny - 1, 1],
      [cell - ny * nz, i > 0, 0],
      [cell + ny * nz, i < nx - 1, 0],
    ] as const) {
      if (!there || this.#turns[next] === UNASKED || this.#open[next] === 1) continue;
      const far = this.#middle(next);
      // Where the way goes from one into the other.
      const side = [...far] as typeof far;
      side[axis] = (this.#cells.first[axis] + at[axis] + (next < cell ? 0 : 1)) * this.#cells.size[axis];
      return (
        this.#turns[next] + this.#turnsBetween(next, ...far, ...side) + this.#turnsBetween(cell, ...side, ...middle)
      );
    }
    return this.#volume.turnsAt(...middle);
  }

  #middle(cell: number): [number, number, number] {
    const { first, size, count } = this.#cells;
    const k = cell % count[2];
    const j = ((cell - k) / count[2]) % count[1];
    const i = Math.floor(cell / (count[1] * count[2]));
    const [x, y, z] = MIDDLE;
    return [(first[0] + i + x) * size[0], (first[1] + j + y) * size[1], (first[2] + k + z) * size[2]];
  }
}

/**
 * What going from one point to another through a triangle adds to how often its mesh winds round one: nothing beside it, which
 * the signs of its volumes with the three edges tell; one less out of the side that it shows, one more into it.
 */
function turnsThrough(t: Float64Array, ax: number, ay: number, az: number, bx: number, by: number, bz: number): number {
  // All as seen from the first point.
  const px = t[0] - ax;
  const py = t[1] - ay;
  const pz = t[2] - az;
  const qx = t[3] - ax;
  const qy = t[4] - ay;
  const qz = t[5] - az;
  const rx = t[6] - ax;
  const ry = t[7] - ay;
  const rz = t[8] - az;
  const wx = bx - ax;
  const wy = by - ay;
  const wz = bz - az;
  // The triangle's plane: where the two ends lie with respect to it.
  const nx = (qy - py) * (rz - pz) - (qz - pz) * (ry - py);
  const ny = (qz - pz) * (rx - px) - (qx - px) * (rz - pz);
  const nz = (qx - px) * (ry - py) - (qy - py) * (rx - px);
  const here = -(nx * px + ny * py + nz * pz);
  const there = here + nx * wx + ny * wy + nz * wz;
  if (here < 0 === there < 0) return 0;
  const u = wx * (py * qz - pz * qy) + wy * (pz * qx - px * qz) + wz * (px * qy - py * qx);
  const v = wx * (qy * rz - qz * ry) + wy * (qz * rx - qx * rz) + wz * (qx * ry - qy * rx);
  const w = wx * (ry * pz - rz * py) + wy * (rz * px - rx * pz) + wz * (rx * py - ry * px);
  if (!((u >= 0 && v >= 0 && w >= 0) || (u <= 0 && v <= 0 && w <= 0))) return 0;
  return here < 0 ? -1 : 1;
}

/** Finds the cells that triangles go through, by halving the box of cells about each as long as its plane meets it. */
class Walls {
  readonly #cells: Cells;
  readonly #found: (cell: number, triangle: number) => void;
  #triangle = 0;
  /** In cells: its corners, its plane as a unit normal and how far along that, and the box of cells about it. */
  readonly #at = new Float64Array(9);
  readonly #plane = new Float64Array(4);
  readonly #box = new Int32Array(6);

  constructor(cells: Cells, found: (cell: number, triangle: number) => void) {
    this.#cells = cells;
    this.#found = found;
  }

  /** @param corners of the triangle in the volume's own coordinates: 9 numbers */
  mark(corners: Float64Array, triangle: number): void {
    this.#triangle = triangle;
    const { size, first, count } = this.#cells;
    const at = this.#at;
    for (let c = 0; c < 9; c++) at[c] = corners[c] / size[c % 3] - first[c % 3];
    const ux = at[3] - at[0];
    const uy = at[4] - at[1];
    const uz = at[5] - at[2];
    const vx = at[6] - at[0];
    const vy = at[7] - at[1];
    const vz = at[8] - at[2];
    const plane = this.#plane;
    plane[0] = uy * vz - uz * vy;
    plane[1] = uz * vx - ux * vz;
    plane[2] = ux * vy - uy * vx;
    const length = Math.sqrt(plane[0] * plane[0] + plane[1] * plane[1] + plane[2] * plane[2]);
    for (let axis = 0; axis < 3; axis++) {
      plane[axis] = length > 0 ? plane[axis] / length : 0;
      const low = Math.min(at[axis], at[3 + axis], at[6 + axis]) - RIM;
      const high = Math.max(at[axis], at[3 + axis], at[6 + axis]) + RIM;
      this.#box[axis] = Math.max(0, Math.floor(low));
      this.#box[3 + axis] = Math.min(count[axis], Math.floor(high) + 1);
    }
    plane[3] = plane[0] * at[0] + plane[1] * at[1] + plane[2] * at[2];
    const [i, j, k, iEnd, jEnd, kEnd] = this.#box;
    this.#halve(i, j, k, iEnd, jEnd, kEnd);
  }

  /** Cells from the first three numbers to before the last three. */
  #halve(i: number, j: number, k: number, iEnd: number, jEnd: number, kEnd: number): void {
    const [wide, tall, deep] = [iEnd - i, jEnd - j, kEnd - k];
    if (wide <= 0 || tall <= 0 || deep <= 0) return;
    const plane = this.#plane;
    const [nx, ny, nz] = [plane[0], plane[1], plane[2]];
    const middle = nx * (i + wide / 2) + ny * (j + tall / 2) + nz * (k + deep / 2) - plane[3];
    const reach = (Math.abs(nx) * wide + Math.abs(ny) * tall + Math.abs(nz) * deep) / 2 + RIM;
    if (Math.abs(middle) > reach) return;
    if (wide === 1 && tall === 1 && deep === 1) {
      const { count } = this.#cells;
      this.#found((i * count[1] + j) * count[2] + k, this.#triangle);
    } else if (wide >= tall && wide >= deep) {
      const half = i + (wide >> 1);
      this.#halve(i, j, k, half, jEnd, kEnd);
      this.#halve(half, j, k, iEnd, jEnd, kEnd);
    } else if (tall >= deep) {
      const half = j + (tall >> 1);
      this.#halve(i, j, k, iEnd, half, kEnd);
      this.#halve(i, half, k, iEnd, jEnd, kEnd);
    } else {
      const half = k + (deep >> 1);
      this.#halve(i, j, k, iEnd, jEnd, half);
      this.#halve(i, j, half, iEnd, jEnd, kEnd);
    }
  }
}

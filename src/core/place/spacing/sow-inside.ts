/**
 * Positions inside a volume in one of the patterns. All are found cell by cell in the volume's own coordinates and known by
 * their cells, so that moving it takes them along, and another size or another wall leaves those where they were that still
 * lie inside.
 */
import { CHANNEL, drawFrom, streamOf, rotate, type Vec3 } from "../../math";
import { LOCAL_BITS } from "../slots";
import { standOf, type Field } from "../where/over";
import type { Volume } from "../where/volume";
import type { Sown } from "./sow";
import type { Spacing } from "./schema";

/** A volume has at most so many positions, and is cut into at most so many cells. */
export const MOST_INSIDE = 300_000;
const MOST_CELLS = 2_500_000;
/** Of random positions so many can be told apart in a cell; there are so many cells, about, at least. */
const MEMBER_BITS = 10;
const LEAST_CELLS = 1024;
/** So many darts are thrown into each cell; what is left free of it is looked for in so small parts of it. */
const THROWN = 5;
const DEPTH = 2;
/** Of a cell that a wall goes through so many places are asked at most whether they lie inside. */
const ASKS = 8;
/** In close packing layers lie so many times closer to each other than neighbours, and rows in them. */
const LAYER = Math.sqrt(2 / 3);
const ROW = Math.sqrt(3) / 2;
/** How many an even spread has in a cube of its distance: balls of that diameter thrown until no more fits fill 38 %. */
export const EVEN_INSIDE = 0.74;
/** The same of close packing. */
export const PACKED = Math.SQRT2;

/** Positions as they are found, in the volume's own coordinates. */
interface Growing {
  position: number[];
  local: number[];
  rise: number[];
}

type Way = (volume: Volume, pitch: number, seed: number, out: Growing) => void;

const PATTERNS: Readonly<Record<Spacing["pattern"], Way>> = { even, random, square: grid, hexagonal: packed, uv: grid };

/** @param pitch metres: the nearest two, or what a cube of that size has on average */
export function sowInside(field: Field, volume: Volume, pitch: number, params: Spacing, seed: number): Sown {
  const out: Growing = { position: [], local: [], rise: [] };
  PATTERNS[params.pattern](volume, pitch, seed, out);
  const sown = params.clusters ? clustered(volume, out, params, seed) : out;
  return standing(field, volume, sown);
}

/** A box of cells: the first of each axis and how many there are, counted from the volume's own zero. */
interface Cells {
  size: Vec3;
  first: readonly number[];
  count: readonly number[];
}

/** Cells of a size, or of the next larger one for which there are not too many. */
function cellsOf({ least, most }: Volume, size: Vec3): Cells {
  for (let k = 0; ; k++) {
    const larger = size.map((one) => one * 2 ** (k / 3)) as unknown as Vec3;
    const first = least.map((low, axis) => Math.floor(low / larger[axis]));
    const count = most.map((high, axis) => Math.floor(high / larger[axis]) - first[axis] + 1);
    if (count[0] * count[1] * count[2] <= MOST_CELLS) return { size: larger, first, count };
  }
}

/** What a cell is known by, in so many bits: by its place, as long as all places can be told apart; or else by its rank. */
function namesOf({ count }: Cells, bits: number): (i: number, j: number, k: number, rank: number) => number {
  const each = [Math.ceil(bits / 3), Math.floor(bits / 3), Math.ceil((bits - 1) / 3)];
  const fits = count.every((n, axis) => n <= 2 ** each[axis]);
  if (!fits) return (_i, _j, _k, rank) => rank % 2 ** bits;
  const [x, y, z] = each.map((n) => 2 ** n - 1);
  return (i, j, k) => ((((i & x) << each[1]) | (j & y)) << each[2]) | (k & z);
}

/** Calls `visit` for each cell with its place and rank. */
function eachCell(cells: Cells, visit: (i: number, j: number, k: number, rank: number) => void): void {
  const [nx, ny, nz] = cells.count;
  const [x, y, z] = cells.first;
  for (let i = 0, rank = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) for (let k = 0; k < nz; k++, rank++) visit(x + i, y + j, z + k, rank);
}

/** A key for draws of a cell: distinct for all cells near each other. */
const keyOfCell = (i: number, j: number, k: number): number =>
  (Math.imul(i, 73856093) ^ Math.imul(j, 19349663) ^ Math.imul(k, 83492791)) | 0;

function random(volume: Volume, pitch: number, seed: number, out: Growing): void {
  const [wide, tall, deep] = [0, 1, 2].map((axis) => volume.most[axis] - volume.least[axis]);
  // Cells by the box alone, whatever the number: so more of them only join.
  const size = 2 ** Math.floor(Math.log2(Math.cbrt((wide * tall * deep) / LEAST_CELLS)));
  if (!(size > 0)) return;
  const cells = cellsOf(volume, [size, size, size]);
  const name = namesOf(cells, LOCAL_BITS - MEMBER_BITS);
  const cubic = cells.size[0] ** 3;
  const most = 2 ** MEMBER_BITS;
  const density = Math.min(1 / pitch ** 3, MOST_INSIDE / (volume.cubic || cubic), (most - 1) / cubic);
  const many = streamOf(seed, CHANNEL.insideCount);
  const place = streamOf(seed, CHANNEL.insidePlace);
  const sides = sidesOf(volume, cells);
  eachCell(cells, (i, j, k, rank) => {
    if (sides[rank] === OUT) return;
    const key = keyOfCell(i, j, k);
    const lot = drawFrom(many, key, 0);
    const n = Math.floor(density * cubic + lot);
    for (let nth = 0; nth < n; nth++) {
      const [x, y, z] = [i, j, k].map((cell, axis) => (cell + drawFrom(place, key, 3 * nth + axis)) * cells.size[axis]);
      if (sides[rank] === MAYBE && !volume.contains(x, y, z)) continue;
      out.position.push(x, y, z);
      out.local.push((name(i, j, k, rank) << MEMBER_BITS) | nth);
      out.rise.push((nth + 1 - lot) / cubic);
    }
  });
}

/**
 * None nearer to another than the pitch, and hardly room for one more: each cell is so small that it has room for one. Some
 * darts are thrown into all cells; then what is left free of each empty one is looked for by cutting it into eighths, and
 * those again (after M. S. Ebeida, S. A. Mitchell and others, *A Simple Algorithm for Maximal Poisson-Disk Sampling in High
 * Dimensions*, Computer Graphics Forum 31(2), 2012). Cells that could disturb each other never have their turn at the same
 * time, so that what comes of it hangs on what lies near alone (after the phases of L.-Y. Wei, *Parallel Poisson Disk
 * Sampling*, SIGGRAPH 2008).
 */
function even(volume: Volume, pitch: number, seed: number, out: Growing): void {
  const cells = cellsOf(volume, [pitch / Math.sqrt(3), pitch / Math.sqrt(3), pitch / Math.sqrt(3)]);
  const name = namesOf(cells, LOCAL_BITS);
  const { count, first } = cells;
  const darts = new Darts(volume, cells, Math.max(pitch, cells.size[0] * Math.sqrt(3)), seed);
  for (let attempt = 0; attempt <= THROWN; attempt++) {
    for (let phase = 0; phase < 27; phase++) {
      // Where to begin in each axis, so that a phase means the same cells wherever the box begins.
      const [a, b, c] = [phase % 3, Math.floor(phase / 3) % 3, Math.floor(phase / 9)].map(
        (wanted, axis) => (((wanted - first[axis]) % 3) + 3) % 3,
      );
      for (let i = a; i < count[0]; i += 3) {
        for (let j = b; j < count[1]; j += 3) {
          for (let k = c; k < count[2]; k += 3) {
            if (attempt < THROWN) darts.throwInto(i, j, k, attempt);
            else darts.search(i, j, k);
          }
        }
      }
    }
  }
  eachCell(cells, (i, j, k, rank) => {
    if (darts.push(i - first[0], j - first[1], k - first[2], out.position)) out.local.push(name(i, j, k, rank));
  });
}

/** Cells with at most one position each, none of them nearer to another than a distance. */
class Darts {
  readonly #volume: Volume;
  readonly #cells: Cells;
  readonly #stream: number;
  readonly #sides: Uint8Array;
  readonly #squared: number;
  /** Positions of the cells, with two rows of empty ones all round, so that no neighbour has to be asked whether it is there. */
  readonly #points: Float64Array;
  readonly #wide: number;
  readonly #deep: number;
  readonly #around: Int32Array;
  /** What lies about the cell that is searched, and what is drawn for it. */
  readonly #near = new Float64Array(3 * 128);
  #nears = 0;
  #key = 0;
  #draws = 0;
  /** How many more places of a cell that is cut by a wall are looked at; null for one that is not. */
  #asks: number | null = null;

  constructor(volume: Volume, cells: Cells, distance: number, seed: number) {
    const { count } = cells;
    this.#volume = volume;
    this.#cells = cells;
    this.#squared = distance * distance;
    this.#stream = streamOf(seed, CHANNEL.insideEven);
    this.#sides = sidesOf(volume, cells);
    this.#wide = count[1] + 4;
    this.#deep = count[2] + 4;
    this.#points = new Float64Array(3 * (count[0] + 4) * this.#wide * this.#deep).fill(NaN);
    this.#around = neighbours(this.#wide, this.#deep);
  }

  #place(i: number, j: number, k: number): number {
    return 3 * (((i + 2) * this.#wide + j + 2) * this.#deep + k + 2);
  }

  #side(i: number, j: number, k: number): number {
    const { count } = this.#cells;
    return this.#sides[(i * count[1] + j) * count[2] + k];
  }

  /** One dart into a cell, if it is empty. */
  throwInto(i: number, j: number, k: number, attempt: number): void {
    const p = this.#place(i, j, k);
    const side = this.#side(i, j, k);
    const points = this.#points;
    if (points[p] === points[p] || side === OUT) return;
    const { first, size } = this.#cells;
    const key = keyOfCell(first[0] + i, first[1] + j, first[2] + k);
    const x = (first[0] + i + drawFrom(this.#stream, key, 3 * attempt)) * size[0];
    const y = (first[1] + j + drawFrom(this.#stream, key, 3 * attempt + 1)) * size[1];
    const z = (first[2] + k + drawFrom(this.#stream, key, 3 * attempt + 2)) * size[2];
    const around = this.#around;
    for (let n = 0; n < around.length; n++) {
      const q = p + around[n];
      const dx = points[q] - x;
      const dy = points[q + 1] - y;
      const dz = points[q + 2] - z;
      if (dx * dx + dy * dy + dz * dz < this.#squared) return;
    }
    if (side === MAYBE && !this.#volume.contains(x, y, z)) return;
    this.#put(p, x, y, z);
  }

  #put(p: number, x: number, y: number, z: number): void {
    this.#points[p] = x;
    this.#points[p + 1] = y;
    this.#points[p + 2] = z;
  }

  /** Finds a free place in an empty cell, if there is one that is not very small. */
  search(i: number, j: number, k: number): void {
    const p = this.#place(i, j, k);
    const side = this.#side(i, j, k);
    const points = this.#points;
    if (points[p] === points[p] || side === OUT) return;
    const { first, size } = this.#cells;
    this.#key = keyOfCell(first[0] + i, first[1] + j, first[2] + k);
    this.#draws = 3 * THROWN;
    this.#asks = side === MAYBE ? ASKS : null;
    this.#nears = 0;
    for (let n = 0; n < this.#around.length; n++) {
      const q = p + this.#around[n];
      if (points[q] !== points[q]) continue;
      for (let axis = 0; axis < 3; axis++) this.#near[3 * this.#nears + axis] = points[q + axis];
      this.#nears++;
    }
    const half = size[0] / 2;
    const middle: Vec3 = [
      (first[0] + i) * size[0] + half,
      (first[1] + j) * size[1] + half,
      (first[2] + k) * size[2] + half,
    ];
    this.#searchIn(p, middle[0], middle[1], middle[2], half, 0);
  }

  /** As {@link search}, in a cube about a point. */
  #searchIn(p: number, x: number, y: number, z: number, half: number, depth: number): boolean {
    const near = this.#near;
    const squared = this.#squared;
    for (let n = 0; n < 3 * this.#nears; n += 3) {
      const dx = Math.abs(near[n] - x) + half;
      const dy = Math.abs(near[n + 1] - y) + half;
      const dz = Math.abs(near[n + 2] - z) + half;
      if (dx * dx + dy * dy + dz * dz < squared) return false;
    }
    const px = x + half * (2 * this.#draw() - 1);
    const py = y + half * (2 * this.#draw() - 1);
    const pz = z + half * (2 * this.#draw() - 1);
    if (this.#asks === 0) return false;
    if (this.#free(px, py, pz) && this.#inside(px, py, pz)) {
      this.#put(p, px, py, pz);
      return true;
    }
    if (depth === DEPTH) return false;
    const begin = Math.floor(8 * this.#draw());
    for (let eighth = 0; eighth < 8; eighth++) {
      const way = eighth ^ begin;
      const step = half / 2;
      const found = this.#searchIn(
        p,
        x + (way & 1 ? step : -step),
        y + (way & 2 ? step : -step),
        z + (way & 4 ? step : -step),
        step,
        depth + 1,
      );
      if (found) return true;
    }
    return false;
  }

  #inside(x: number, y: number, z: number): boolean {
    if (this.#asks === null) return true;
    this.#asks--;
    return this.#volume.contains(x, y, z);
  }

  #draw(): number {
    return drawFrom(this.#stream, this.#key, this.#draws++);
  }

  #free(x: number, y: number, z: number): boolean {
    const near = this.#near;
    for (let n = 0; n < 3 * this.#nears; n += 3) {
      const dx = near[n] - x;
      const dy = near[n + 1] - y;
      const dz = near[n + 2] - z;
      if (dx * dx + dy * dy + dz * dz < this.#squared) return false;
    }
    return true;
  }

  /** Adds a cell's position to others; false where it has none. */
  push(i: number, j: number, k: number, out: number[]): boolean {
    const p = this.#place(i, j, k);
    if (this.#points[p] !== this.#points[p]) return false;
    out.push(this.#points[p], this.#points[p + 1], this.#points[p + 2]);
    return true;
  }
}

/** Steps to all cells that can hold something nearer than a cell's diagonal, the nearest first: what is in the way is mostly there. */
function neighbours(wide: number, deep: number): Int32Array {
  const found: [far: number, step: number][] = [];
  for (let i = -2; i <= 2; i++) {
    for (let j = -2; j <= 2; j++) {
      for (let k = -2; k <= 2; k++) {
        const gaps = [i, j, k].map((cells) => Math.max(0, Math.abs(cells) - 1));
        if (gaps[0] + gaps[1] + gaps[2] === 3 || (i === 0 && j === 0 && k === 0)) continue;
        found.push([i * i + j * j + k * k, 3 * ((i * wide + j) * deep + k)]);
      }
    }
  }
  return Int32Array.from(found.sort(([a], [b]) => a - b).map(([, step]) => step));
}

const [MAYBE, IN, OUT] = [0, 1, 2];

/** Cells are looked at in blocks of so many a side first. */
const BLOCK = 4;

/** For each cell whether it lies inside as a whole, or outside. */
function sidesOf(volume: Volume, { size, first, count }: Cells): Uint8Array {
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

function grid(volume: Volume, pitch: number, _seed: number, out: Growing): void {
  lattice(volume, [pitch, pitch, pitch], () => [0, 0], out);
}

/** Layers of hexagonal rows, each second one in the hollows of the other. */
function packed(volume: Volume, pitch: number, _seed: number, out: Growing): void {
  const shift = (j: number, k: number): [number, number] => [
    ((k & 1) * 0.5 + (j & 1) * 0.5) * pitch,
    (j & 1) * (ROW / 1.5) * 0.5 * pitch,
  ];
  lattice(volume, [pitch, pitch * LAYER, pitch * ROW], shift, out);
}

function lattice(volume: Volume, size: Vec3, shift: (j: number, k: number) => [number, number], out: Growing): void {
  const cells = cellsOf(volume, size);
  const scale = cells.size[0] / size[0];
  // What is shifted may come in from the cell before.
  const more = { ...cells, first: cells.first.map((n) => n - 1), count: cells.count.map((n) => n + 1) };
  const name = namesOf(more, LOCAL_BITS);
  eachCell(more, (i, j, k, rank) => {
    const [right, back] = shift(j, k);
    const [x, y, z] = [i * cells.size[0] + scale * right, (j + 0.5) * cells.size[1], k * cells.size[2] + scale * back];
    if (!volume.contains(x, y, z)) return;
    out.position.push(x, y, z);
    out.local.push(name(i, j, k, rank));
  });
}

/** Round each position as many as its lot says, within a ball; those that would lie outside come nearer to it. */
function clustered(volume: Volume, centres: Growing, params: Spacing, seed: number): Growing {
  const [fewest, most] = params.clusterCount;
  const [many, far, way] = [CHANNEL.clusterCount, CHANNEL.clusterFar, CHANNEL.clusterWay].map((channel) =>
    streamOf(seed, channel),
  );
  const out: Growing = { position: [], local: [], rise: [] };
  const taken = new Set<number>();
  centres.local.forEach((centre, c) => {
    const members = fewest + Math.floor(drawFrom(many, centre, 0) * (most - fewest + 1));
    const [x, y, z] = centres.position.slice(3 * c, 3 * c + 3);
    for (let m = 0; m < members && out.local.length < MOST_INSIDE; m++) {
      const up = 2 * drawFrom(way, centre, 2 * m) - 1;
      const angle = 2 * Math.PI * drawFrom(way, centre, 2 * m + 1);
      const level = Math.sqrt(1 - up * up);
      let radius = params.clusterRadius * drawFrom(far, centre, m);
      const at = () => [x + radius * level * Math.cos(angle), y + radius * up, z + radius * level * Math.sin(angle)];
      for (let k = 0; k < 6 && !volume.contains(...(at() as [number, number, number])); k++)
        radius = k < 5 ? radius / 2 : 0;
      let name = (Math.imul(centre, 64) + m) & (2 ** LOCAL_BITS - 1);
      while (taken.has(name)) name = (name + 1) & (2 ** LOCAL_BITS - 1);
      taken.add(name);
      out.position.push(...at());
      out.local.push(name);
      if (centres.rise.length > 0) out.rise.push(centres.rise[c]);
    }
  });
  return out;
}

/** Brought into the world, with the direction away from the volume's middle as the normal. */
function standing(field: Field, volume: Volume, found: Growing): Sown {
  const count = found.local.length;
  const { position: at, rotation } = standOf(field);
  const sown: Sown = {
    count,
    position: new Float64Array(3 * count),
    normal: new Float32Array(3 * count),
    triangle: new Uint32Array(count),
    local: Uint32Array.from(found.local),
    rise: found.rise.length > 0 ? Float64Array.from(found.rise) : null,
  };
  for (let i = 0, p = 0; i < count; i++, p += 3) {
    const own: Vec3 = [found.position[p], found.position[p + 1], found.position[p + 2]];
    const [x, y, z] = rotate(rotation, own);
    sown.position[p] = at[0] + x;
    sown.position[p + 1] = at[1] + y;
    sown.position[p + 2] = at[2] + z;
    sown.normal.set(volume.outward([at[0] + x, at[1] + y, at[2] + z]), p);
  }
  return sown;
}

/**
 * Positions inside a volume in one of the patterns. All are found cell by cell in the volume's own coordinates and known by
 * their cells, so that moving it takes them along, and another size or another wall leaves those where they were that still
 * lie inside.
 */
import { CHANNEL, drawFrom, rotate, streamOf, type Vec3 } from "../../math";
import { arrivalsInside, arrivedAt, MOST_ARRIVALS, spaced, stepEnd, taken, type Arrivals } from "../../mesh";
import { writeWords } from "../keys";
import { standOf, type Field, type Volume } from "../../host";
import { cellsOf, eachCell, Insides, type Cells } from "./cells";
import { evenInside } from "./even-inside";
import { emptySamples, Growing, type Amount, type Samples } from "./samples";
import type { Spacing } from "./schema";

/** A volume has at most so many positions. */
export const MOST_INSIDE = 300_000;
/** To tell what arrives inside, a volume is cut into so many cells, about, at least. */
const LEAST_CELLS = 1024;
/** In close packing layers lie so many times closer to each other than neighbours, and rows in them. */
const LAYER = Math.sqrt(2 / 3);
const ROW = Math.sqrt(3) / 2;
/** How many an even spread has in a cube of its distance: balls of that diameter thrown until no more fits fill 38 %. */
export const EVEN_INSIDE = 0.74;
/** The same of those that keep their distance while they become more. */
export const SPACED_INSIDE = 0.37;
/** The same of close packing. */
export const PACKED = Math.SQRT2;

/** What takes in positions that are known by cells of a lattice. */
export type InCells = Pick<Growing, "inCell">;

/** A way of filling a volume. */
type VolumePattern = (volume: Volume, pitch: number, seed: number, out: Growing) => void;

const PATTERNS: Readonly<Record<Spacing["pattern"], VolumePattern>> = {
  even: evenInside,
  random: (volume, pitch, seed, out) => grow(out, arrived(volume, 1 / pitch ** 3, seed, MOST_INSIDE)),
  square: (volume, pitch, _, out) => grid(volume, pitch, () => out),
  hexagonal: (volume, pitch, _, out) => packed(volume, pitch, () => out),
  uv: (volume, pitch, _, out) => grid(volume, pitch, () => out),
};

export function sampleVolume(
  field: Field,
  volume: Volume,
  { pitch, nested }: Amount,
  params: Spacing,
  seed: number,
): Samples {
  const out = new Growing();
  if (nested && params.pattern === "even") evenByNumber(volume, pitch, seed, out);
  else PATTERNS[params.pattern](volume, pitch, seed, out);
  const samples = params.clusters ? clustered(volume, out, params, seed) : out;
  return standing(field, volume, samples);
}

/** Those that keep their distance of what arrives, so that one more is one more. */
function evenByNumber(volume: Volume, pitch: number, seed: number, out: Growing): void {
  const upTo = stepEnd(arrivedAt(pitch, 3));
  const all = arrived(volume, upTo, seed, MOST_ARRIVALS);
  const { chosen } = spaced(all, upTo, 0, 3);
  const { position, key, joinOrder, count } = taken(all, chosen);
  grow(out, { position, key, density: joinOrder!, count });
}

/** What arrives up to a density, or to that at which about as many have arrived as are looked at. */
function arrived(volume: Volume, density: number, seed: number, looked: number): Arrivals {
  const { least, most, cubic } = volume;
  const [wide, tall, deep] = [0, 1, 2].map((axis) => most[axis] - least[axis]);
  const size = 2 ** Math.floor(Math.log2(Math.cbrt((wide * tall * deep) / LEAST_CELLS)));
  const cells = cellsOf(volume, [0, 0, 0].map(() => Math.max(size, 1e-9)) as unknown as Vec3);
  const insides = new Insides(volume, cells);
  const { first, count } = cells;
  const [sx, sy, sz] = cells.size;
  const contains = (x: number, y: number, z: number): boolean => {
    const i = Math.floor(x / sx) - first[0];
    const j = Math.floor(y / sy) - first[1];
    const k = Math.floor(z / sz) - first[2];
    return insides.contains((i * count[1] + j) * count[2] + k, x, y, z);
  };
  const upTo = Math.min(density, (0.98 * looked) / (cubic || 1));
  return arrivalsInside({ least, most, cubic, contains }, upTo, seed, looked);
}

function grow(out: Growing, { position, key, density, count }: Omit<Arrivals, "triangle">): void {
  // Of many that keep their distance those that came first.
  for (let i = 0; i < Math.min(count, MOST_INSIDE); i++) {
    out.position.push(position[3 * i], position[3 * i + 1], position[3 * i + 2]);
    out.words.push(key[2 * i], key[2 * i + 1]);
    out.ordinal.push(key[2 * i] | 0);
    out.joinOrder.push(density[i]);
  }
}

/** @param into told the cells that it is made of */
export function grid(volume: Volume, pitch: number, into: (cells: Cells) => InCells): void {
  lattice(volume, [pitch, pitch, pitch], () => [0, 0], into);
}

/** Layers of hexagonal rows, each second one in the hollows of the other. */
export function packed(volume: Volume, pitch: number, into: (cells: Cells) => InCells): void {
  const shift = (j: number, k: number): [number, number] => [
    ((k & 1) * 0.5 + (j & 1) * 0.5) * pitch,
    (j & 1) * (ROW / 1.5) * 0.5 * pitch,
  ];
  lattice(volume, [pitch, pitch * LAYER, pitch * ROW], shift, into);
}

function lattice(
  volume: Volume,
  size: Vec3,
  shift: (j: number, k: number) => [number, number],
  into: (cells: Cells) => InCells,
): void {
  const cells = cellsOf(volume, size);
  const scale = cells.size[0] / size[0];
  // What is shifted may come in from the cell before.
  const more = { ...cells, first: cells.first.map((n) => n - 1), count: cells.count.map((n) => n + 1) };
  const out = into(more);
  // A volume that is too thin for the next layer or row has one in its middle, wherever the lattice would have it.
  const middle = cells.size.map((one, axis) => {
    const [least, most] = [volume.least[axis], volume.most[axis]];
    return most - least < one ? (least + most) / 2 : null;
  });
  const again = middle.map((at, axis) => (at === null ? NaN : more.first[axis] + 1));
  eachCell(more, (i, j, k) => {
    if (i >= again[0] || j >= again[1] || k >= again[2]) return;
    const [right, back] = shift(j, k);
    const x = middle[0] ?? i * cells.size[0] + scale * right;
    const y = middle[1] ?? (j + 0.5) * cells.size[1];
    const z = middle[2] ?? k * cells.size[2] + scale * back;
    if (!volume.contains(x, y, z)) return;
    out.inCell(x, y, z, i, j, k);
  });
}

/** Round each position as many as its threshold says, within a ball; those that would lie outside come nearer to it. */
function clustered(volume: Volume, centres: Growing, params: Spacing, seed: number): Growing {
  const [fewest, most] = params.clusterCount;
  const [many, far, way] = [CHANNEL.clusterCount, CHANNEL.clusterFar, CHANNEL.clusterWay].map((channel) =>
    streamOf(seed, channel),
  );
  const out = new Growing();
  const words = new Uint32Array(2);
  for (let c = 0; c < centres.count; c++) {
    const [low, high] = [centres.words[2 * c], centres.words[2 * c + 1]];
    const members = fewest + Math.floor(drawFrom(many, low, high) * (most - fewest + 1));
    const [x, y, z] = centres.position.slice(3 * c, 3 * c + 3);
    for (let m = 0; m < members && out.count < MOST_INSIDE; m++) {
      writeWords(words, 0, low, high, m);
      const up = 2 * drawFrom(way, words[0], words[1]) - 1;
      const angle = 2 * Math.PI * drawFrom(way, words[1], words[0]);
      const level = Math.sqrt(1 - up * up);
      let radius = params.clusterRadius * drawFrom(far, words[0], words[1]);
      const at = () => [x + radius * level * Math.cos(angle), y + radius * up, z + radius * level * Math.sin(angle)];
      for (let k = 0; k < 6 && !volume.contains(...(at() as [number, number, number])); k++)
        radius = k < 5 ? radius / 2 : 0;
      out.position.push(...at());
      out.words.push(words[0], words[1]);
      out.ordinal.push(m);
      if (centres.joinOrder.length > 0) out.joinOrder.push(centres.joinOrder[c]);
    }
  }
  return out;
}

function standing(field: Field, volume: Volume, { count, position, words, ordinal, joinOrder }: Growing): Samples {
  return {
    ...emptySamples(0),
    count,
    ...inWorld(field, volume, position),
    triangle: new Uint32Array(count),
    words: Uint32Array.from(words),
    ordinal: Int32Array.from(ordinal),
    joinOrder: joinOrder.length > 0 ? Float64Array.from(joinOrder) : null,
  };
}

/** Positions of a volume brought into the world, with the direction away from its middle as the normal. */
export function inWorld(
  field: Pick<Field, "ground">,
  volume: Volume,
  own: readonly number[],
): Pick<Samples, "position" | "normal"> {
  const { position: at, rotation } = standOf(field);
  const out = { position: new Float64Array(own.length), normal: new Float32Array(own.length) };
  const [right, up, front] = [rotate(rotation, [1, 0, 0]), rotate(rotation, [0, 1, 0]), rotate(rotation, [0, 0, 1])];
  const middle = [0, 1, 2].map((axis) => (volume.least[axis] + volume.most[axis]) / 2);
  for (let p = 0; p < own.length; p += 3) {
    const x = own[p];
    const y = own[p + 1];
    const z = own[p + 2];
    const [dx, dy, dz] = [x - middle[0], y - middle[1], z - middle[2]];
    const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
    for (let axis = 0; axis < 3; axis++) {
      out.position[p + axis] = at[axis] + x * right[axis] + y * up[axis] + z * front[axis];
      const way = dx * right[axis] + dy * up[axis] + dz * front[axis];
      out.normal[p + axis] = far > 0 ? way / far : axis === 1 ? 1 : 0;
    }
  }
  return out;
}

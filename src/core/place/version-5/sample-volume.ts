/** Version 5's: kept as it was, see `index.ts`. Positions inside a volume in one of the patterns. */
import { cellKey, CHANNEL, drawFrom, streamOf } from "../../math";
import type { Volume } from "../../host";
import { cellsOf, eachCell, Insides, OUT, type Cells } from "../spacing/cells";
import { evenInside } from "../spacing/even-inside";
import { grid, inWorld, packed, type InCells } from "../spacing/sample-volume";
import { LOCAL_BITS, type OldField, type OldSamples } from "./old";
import type { Spacing } from "../spacing/schema";

/** Positions as they are found, in the volume's own coordinates. */
interface Growing {
  position: number[];
  local: number[];
  joinOrder: number[];
}

/** A volume has at most so many positions. */
export const MOST_INSIDE = 300_000;
/** Of random positions so many can be told apart in a cell; there are so many cells, about, at least. */
const MEMBER_BITS = 10;
const LEAST_CELLS = 1024;
/** How many an even spread has in a cube of its distance: balls of that diameter thrown until no more fits fill 38 %. */
export const EVEN_INSIDE = 0.74;
/** The same of close packing. */
export const PACKED = Math.SQRT2;

/** A way of filling a volume. */
type VolumePattern = (volume: Volume, pitch: number, seed: number, out: Growing) => void;

const PATTERNS: Readonly<Record<Spacing["pattern"], VolumePattern>> = {
  even: (volume, pitch, seed, out) => {
    const side = pitch / Math.sqrt(3);
    evenInside(volume, pitch, seed, named(cellsOf(volume, [side, side, side]), out));
  },
  random,
  square: (volume, pitch, _, out) => grid(volume, pitch, (cells) => named(cells, out)),
  hexagonal: (volume, pitch, _, out) => packed(volume, pitch, (cells) => named(cells, out)),
  uv: (volume, pitch, _, out) => grid(volume, pitch, (cells) => named(cells, out)),
};

/** Takes in positions by what cells were known by. */
function named(cells: Cells, out: Growing): InCells {
  const name = namesOf(cells, LOCAL_BITS);
  const { first, count } = cells;
  return {
    inCell(x, y, z, i, j, k) {
      out.position.push(x, y, z);
      out.local.push(name(i, j, k, ((i - first[0]) * count[1] + j - first[1]) * count[2] + k - first[2]));
    },
  };
}

/** What a cell was known by, in so many bits: by its place, as long as all places could be told apart; or else by its rank. */
function namesOf({ count }: Cells, bits: number): (i: number, j: number, k: number, rank: number) => number {
  const each = [Math.ceil(bits / 3), Math.floor(bits / 3), Math.ceil((bits - 1) / 3)];
  const fits = count.every((n, axis) => n <= 2 ** each[axis]);
  if (!fits) return (_i, _j, _k, rank) => rank % 2 ** bits;
  const [x, y, z] = each.map((n) => 2 ** n - 1);
  return (i, j, k) => ((((i & x) << each[1]) | (j & y)) << each[2]) | (k & z);
}

/** @param pitch metres: the nearest two, or what a cube of that size has on average */
export function sampleVolume(
  field: OldField,
  volume: Volume,
  pitch: number,
  params: Spacing,
  seed: number,
): OldSamples {
  const out: Growing = { position: [], local: [], joinOrder: [] };
  PATTERNS[params.pattern](volume, pitch, seed, out);
  const samples = params.clusters ? clustered(volume, out, params, seed) : out;
  return standing(field, volume, samples);
}

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
  const insides = new Insides(volume, cells);
  const [nx, ny, nz] = cells.first;
  eachCell(cells, (i, j, k) => {
    const rank = ((i - nx) * cells.count[1] + j - ny) * cells.count[2] + k - nz;
    if (insides.sides[rank] === OUT) return;
    const key = cellKey(i, j, k);
    const threshold = drawFrom(many, key, 0);
    const n = Math.floor(density * cubic + threshold);
    for (let nth = 0; nth < n; nth++) {
      const [x, y, z] = [i, j, k].map((cell, axis) => (cell + drawFrom(place, key, 3 * nth + axis)) * cells.size[axis]);
      if (!insides.contains(rank, x, y, z)) continue;
      out.position.push(x, y, z);
      out.local.push((name(i, j, k, rank) << MEMBER_BITS) | nth);
      out.joinOrder.push((nth + 1 - threshold) / cubic);
    }
  });
}

/** Round each position as many as its threshold says, within a ball; those that would lie outside come nearer to it. */
function clustered(volume: Volume, centres: Growing, params: Spacing, seed: number): Growing {
  const [fewest, most] = params.clusterCount;
  const [many, far, way] = [CHANNEL.clusterCount, CHANNEL.clusterFar, CHANNEL.clusterWay].map((channel) =>
    streamOf(seed, channel),
  );
  const out: Growing = { position: [], local: [], joinOrder: [] };
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
      if (centres.joinOrder.length > 0) out.joinOrder.push(centres.joinOrder[c]);
    }
  });
  return out;
}

function standing(field: OldField, volume: Volume, found: Growing): OldSamples {
  const count = found.local.length;
  return {
    count,
    ...inWorld(field, volume, found.position),
    triangle: new Uint32Array(count),
    id: Uint32Array.from(found.local),
    joinOrder: found.joinOrder.length > 0 ? Float64Array.from(found.joinOrder) : null,
  };
}

/** Version 5's: kept as it was, see `index.ts`. Positions on a field in one of the patterns. */
import { CHANNEL, drawFrom, rotate, streamOf } from "../../math";
import { facetsOf, type Met } from "../../mesh";
import { standOf } from "../../host";
import { GRID, latticeOver } from "../spacing/lattice";
import { uvRows } from "../spacing/uv-rows";
import { MAX_SAMPLES } from "../spacing/samples";
import { distanceFor, evenOver } from "./even-over";
import { joinOrdersOf, randomOver, type Spread } from "./random-over";
import { EVEN_INSIDE, PACKED, sampleVolume } from "./sample-volume";
import { emptySamples, LOCAL_BITS, type OldField, type OldSamples } from "./old";
import type { Spacing } from "../spacing/schema";

/** A pattern's positions, `pitch` metres apart: the nearest two, or what a square of that size has on average. */
type Pattern = (field: OldField, pitch: number, params: Spacing, seed: number) => OldSamples;

const LOCALS = 2 ** LOCAL_BITS;
/** Rows and columns of a grid are told apart by so many bits each. */
const GRID_BITS = LOCAL_BITS / 2;
/** Members of a cluster are told apart by so many bits. */
const MEMBER_BITS = 6;
/** In a hexagonal grid rows lie so many times closer to each other than the positions in them. */
const ROW_SHARE = Math.sqrt(3) / 2;

const PATTERNS: Readonly<Record<Spacing["pattern"], Pattern>> = {
  even: (field, pitch, _, seed) => {
    const spread = evenOver(field.region, pitch, seed, MAX_SAMPLES);
    return fromSpread(
      field,
      spread,
      Uint32Array.from({ length: spread.count }, (_, i) => i),
      null,
    );
  },
  random: (field, pitch, _, seed) => {
    const { region } = field;
    const spread = randomOver(region, { density: 1 / (pitch * pitch) }, seed, MAX_SAMPLES, region.numbers);
    const { joinOrder: rise, nth } = joinOrdersOf(region, spread, seed, region.numbers);
    return fromSpread(field, spread, byArea(field, spread, nth), rise);
  },
  square: (field, pitch, params) => lattice(field, pitch, pitch, 0, params.heading),
  hexagonal: (field, pitch, params) => lattice(field, pitch, pitch * ROW_SHARE, 0.5, params.heading),
  uv: (field, pitch, params, seed) => alongUvs(field, pitch) ?? PATTERNS.square(field, pitch, params, seed),
};

/** The positions of a pattern, and about them their clusters where those are asked for. */
export function sampleSurface(field: OldField, pitch: number, params: Spacing, seed: number): OldSamples {
  if (field.volume) return sampleVolume(field, field.volume, pitch, params, seed);
  const samples = PATTERNS[params.pattern](field, pitch, params, seed);
  return params.clusters ? clustered(field, samples, params, seed) : samples;
}

/**
 * How far apart positions of a pattern are when there are so many to the square metre.
 *
 * @param solid whether they fill volumes and the density is to the cubic metre
 */
export function pitchFor(pattern: Spacing["pattern"], density: number, solid = false): number {
  if (solid) return Math.cbrt({ even: EVEN_INSIDE, hexagonal: PACKED, random: 1, square: 1, uv: 1 }[pattern] / density);
  if (pattern === "even") return distanceFor(LARGE, LARGE / density);
  return Math.sqrt(1 / (density * (pattern === "hexagonal" ? ROW_SHARE : 1)));
}

/** Some number of positions that is large enough for the rim not to count. */
const LARGE = 1e6;

/** Positions of a region, brought from its own coordinates into the world. */
function fromSpread(field: OldField, spread: Spread, local: Uint32Array, rise: Float64Array | null): OldSamples {
  const { count, position, normal } = spread;
  const { numbers } = field.region;
  const { position: at, rotation } = standOf(field);
  const triangle = numbers ? spread.triangle.map((t) => numbers[t]) : spread.triangle;
  const [xx, xy, xz] = rotate(rotation, [1, 0, 0]);
  const [yx, yy, yz] = rotate(rotation, [0, 1, 0]);
  const [zx, zy, zz] = rotate(rotation, [0, 0, 1]);
  for (let p = 0; p < 3 * count; p += 3) {
    const [x, y, z] = [position[p], position[p + 1], position[p + 2]];
    position[p] = at[0] + xx * x + yx * y + zx * z;
    position[p + 1] = at[1] + xy * x + yy * y + zy * z;
    position[p + 2] = at[2] + xz * x + yz * y + zz * z;
    const [a, b, c] = [normal[p], normal[p + 1], normal[p + 2]];
    normal[p] = xx * a + yx * b + zx * c;
    normal[p + 1] = xy * a + yy * b + zy * c;
    normal[p + 2] = xz * a + yz * b + zz * c;
  }
  return { count, position, normal, triangle, id: local, joinOrder: rise };
}

/**
 * Numbers by where positions are: each triangle has as many as its share of the whole mesh's area, and its positions take
 * them one by one. So they stay the same however many there are and whatever is left out.
 */
function byArea({ ground, region }: OldField, { count, triangle }: Spread, nth: Uint32Array): Uint32Array {
  const { area } = facetsOf({ position: region.position, index: ground.index });
  const begin = new Float64Array(area.length + 1);
  for (let t = 0; t < area.length; t++) begin[t + 1] = begin[t] + area[t];
  const share = (LOCALS - MAX_SAMPLES) / (begin[area.length] || 1);
  const local = new Uint32Array(count);
  let next = 0;
  for (let i = 0; i < count; i++) {
    const t = region.numbers ? region.numbers[triangle[i]] : triangle[i];
    local[i] = Math.max(next, Math.floor(begin[t] * share) + nth[i]);
    next = local[i] + 1;
  }
  return local;
}

/** Rows and columns along the texture coordinates; null where there are none. */
function alongUvs(field: OldField, pitch: number): OldSamples | null {
  const rows = uvRows(field, pitch, MAX_SAMPLES);
  if (!rows) return null;
  const samples = emptySamples(rows.triangle.length);
  samples.position.set(rows.position);
  samples.triangle.set(rows.triangle);
  samples.id = inGrid(rows.row.flatMap((row, i) => [row, rows.column[i]]));
  samples.normal = field.ground.flatNormals(samples.triangle);
  return samples;
}

/** Rows and columns seen from above, the highest of the mesh at each. They count from the world's middle, so they fit together. */
function lattice(field: OldField, pitch: number, rowPitch: number, shift: number, heading: number): OldSamples {
  const { hits, names } = latticeOver(field, { pitch, rowPitch, shift, heading }, { at: [0, 0], heading: 0 });
  return { ...hits, id: inGrid(names), joinOrder: null };
}

/** Rows and columns, 2n, as one number each. */
const inGrid = (names: ArrayLike<number>): Uint32Array =>
  Uint32Array.from(
    { length: names.length / 2 },
    (_, i) => ((names[2 * i] & (GRID - 1)) << GRID_BITS) | (names[2 * i + 1] & (GRID - 1)),
  );

/** Round each position as many as its threshold says, more of them near it; each on the nearest place of the mesh. */
function clustered({ ground, tag }: OldField, centres: OldSamples, params: Spacing, seed: number): OldSamples {
  const [fewest, most] = params.clusterCount;
  const howMany = streamOf(seed, CHANNEL.clusterCount);
  const far = streamOf(seed, CHANNEL.clusterFar);
  const way = streamOf(seed, CHANNEL.clusterWay);
  const names = namesOfClusters(centres, params.pattern);
  const members = new Uint8Array(names.length);
  let count = 0;
  for (let c = 0; c < names.length; c++) {
    const threshold = drawFrom(howMany, names[c], tag);
    members[c] = Math.min(2 ** MEMBER_BITS, fewest + Math.floor(threshold * (most - fewest + 1)));
    count += members[c];
  }
  const samples = emptySamples(Math.min(count, MAX_SAMPLES));
  if (centres.joinOrder) samples.joinOrder = new Float64Array(samples.count);
  const face = new Float64Array(3);
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  for (let c = 0, i = 0; c < names.length; c++) {
    const p = 3 * c;
    const [nx, ny, nz] = centres.normal.subarray(p, p + 3);
    // Two directions along the triangle (J. R. Frisvad's, revised: Duff et al., JCGT 6(1), 2017).
    const side = nz < 0 ? -1 : 1;
    const a = -1 / (side + nz);
    const b = nx * ny * a;
    for (let m = 0; m < members[c] && i < samples.count; m++, i++) {
      const name = (names[c] << MEMBER_BITS) | m;
      // Even draws of the radius, rather than of the disk, lie closer together in the middle.
      const radius = params.clusterRadius * drawFrom(far, name, tag);
      const angle = 2 * Math.PI * drawFrom(way, name, tag);
      const [u, v] = [radius * Math.cos(angle), radius * Math.sin(angle)];
      ground.tree.nearest(
        centres.position[p] + u * (1 + side * nx * nx * a) + v * b,
        centres.position[p + 1] + u * side * b + v * (side + ny * ny * a),
        centres.position[p + 2] - u * side * nx - v * ny,
        met,
      );
      samples.position.set([met.x, met.y, met.z], 3 * i);
      ground.flatNormal(met.triangle, face);
      samples.normal.set(face, 3 * i);
      samples.triangle[i] = met.triangle;
      samples.id[i] = name;
      if (samples.joinOrder && centres.joinOrder) samples.joinOrder[i] = centres.joinOrder[c];
    }
  }
  return samples;
}

/** The centres' numbers with room left in them for their members', no two alike. */
function namesOfClusters({ count, id: local }: OldSamples, pattern: Spacing["pattern"]): Uint32Array {
  const bits = LOCAL_BITS - MEMBER_BITS;
  const taken = new Uint8Array(2 ** bits);
  const half = 2 ** (bits / 2) - 1;
  const short: Readonly<Record<Spacing["pattern"], (name: number) => number>> = {
    even: (name) => name,
    random: (name) => name >>> MEMBER_BITS,
    square: (name) => (((name >>> GRID_BITS) & half) << (bits / 2)) | (name & half),
    hexagonal: (name) => short.square(name),
    uv: (name) => short.square(name),
  };
  const names = new Uint32Array(Math.min(count, taken.length));
  for (let c = 0; c < names.length; c++) {
    let name = short[pattern](local[c]) & (taken.length - 1);
    while (taken[name] === 1) name = (name + 1) & (taken.length - 1);
    taken[name] = 1;
    names[c] = name;
  }
  return names;
}

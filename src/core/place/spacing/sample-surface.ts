/**
 * Spacing over a field: positions on its mesh in one of the patterns, so far apart. Where they lie hangs on the field, the
 * pattern, the distance and the seed alone; what is left out of them afterwards moves none.
 */
import { CHANNEL, drawFrom, rotate, streamOf, type Vec3 } from "../../math";
import { arrivedAt, arrivedFor, distanceFor, evenOver, evenUpTo, mostArrived, randomOver } from "../../mesh";
import type { Arriving, Met, Spread } from "../../mesh";
import { writeWords } from "../keys";
import { standOf, wantedIn, type Field } from "../../host";
import { latticeOver, type Frame } from "./lattice";
import { uvRows } from "./uv-rows";
import { EVEN_INSIDE, PACKED, SPACED_INSIDE, sampleVolume } from "./sample-volume";
import { emptySamples, MAX_SAMPLES, type Amount, type Samples } from "./samples";
import type { Spacing } from "./schema";

type Pattern = (field: Field, amount: Amount, params: Spacing, seed: number, frame: Frame) => Samples;

/** In a hexagonal grid rows lie so many times closer to each other than the positions in them. */
const ROW_SHARE = Math.sqrt(3) / 2;

const PATTERNS: Readonly<Record<Spacing["pattern"], Pattern>> = {
  even: (field, { pitch, nested }, _, seed) => {
    const { region } = field;
    const arriving = arrivingOn(field, seed);
    const mesh = region.mesh();
    if (nested)
      return fromSpread(
        field,
        evenUpTo(region, mesh, arrivedAt(pitch), arriving),
        tooMany(field, arrivedAt(pitch), arriving),
      );
    const spread = evenOver(region, mesh, pitch, { ...arriving, most: MAX_SAMPLES });
    return fromSpread(field, spread, spread.count === MAX_SAMPLES);
  },
  random: (field, { pitch }, _, seed) => {
    const { region } = field;
    const density = 1 / (pitch * pitch);
    const arriving = { ...arrivingOn(field, seed), most: MAX_SAMPLES };
    const spread = randomOver(region, { density }, arriving, region.mesh().facets);
    return fromSpread(field, spread, tooMany(field, density, arriving));
  },
  square: (field, { pitch }, { heading }, _, frame) => lattice(field, pitch, pitch, 0, heading, frame),
  hexagonal: (field, { pitch }, { heading }, _, frame) => lattice(field, pitch, pitch * ROW_SHARE, 0.5, heading, frame),
  uv: (field, amount, params, seed, frame) =>
    alongUvs(field, amount.pitch) ?? PATTERNS.square(field, amount, params, seed, frame),
};

/** Alike on surfaces of the same mesh, so that a copy of one has the same on it. */
function arrivingOn({ region }: Field, seed: number): Arriving {
  const { names, cut, area } = region;
  return { seed, names, cut, area, wanted: wantedIn(region) };
}

/** Whether more would arrive up to a density than are looked at. */
const tooMany = ({ region }: Field, density: number, arriving: Arriving): boolean =>
  density > mostArrived(region.mesh().facets, arriving);

/** The frame of a dressing's lattices: of the first of its fields, so that they go along when it is moved. */
export function frameOf(first: Field | undefined): Frame {
  const stand = first?.ground.stand;
  if (!stand) return { at: [0, 0], heading: 0 };
  const [x, , z] = rotate(stand.rotation, NORTH);
  const level = Math.hypot(x, z) > 1e-6;
  return { at: [stand.position[0], stand.position[2]], heading: level ? Math.atan2(x, -z) : 0 };
}
const NORTH: Vec3 = [0, 0, -1];

/** The positions of a pattern, and about them their clusters where those are asked for. */
export function sampleSurface(field: Field, amount: Amount, params: Spacing, seed: number, frame: Frame): Samples {
  if (field.volume) return sampleVolume(field, field.volume, amount, params, seed);
  const samples = PATTERNS[params.pattern](field, amount, params, seed, frame);
  return params.clusters ? clustered(field, samples, params, seed) : samples;
}

/**
 * How far apart positions of a pattern are when there are so many to the square metre.
 *
 * @param solid whether they fill volumes and the density is to the cubic metre
 */
export function pitchFor(pattern: Spacing["pattern"], density: number, solid = false, nested = false): number {
  if (solid && pattern === "even" && nested) return Math.cbrt(SPACED_INSIDE / density);
  if (solid) return Math.cbrt({ even: EVEN_INSIDE, hexagonal: PACKED, random: 1, square: 1, uv: 1 }[pattern] / density);
  if (pattern === "even" && nested) return Math.sqrt(arrivedAt(1) / arrivedFor(LARGE, LARGE / density));
  if (pattern === "even") return distanceFor(LARGE, LARGE / density);
  return Math.sqrt(1 / (density * (pattern === "hexagonal" ? ROW_SHARE : 1)));
}

/** Some number of positions that is large enough for the rim not to count. */
const LARGE = 1e6;

/** Positions of a region, brought from its own coordinates into the world. */
function fromSpread(field: Field, { count, position, triangle, key, joinOrder }: Spread, capped: boolean): Samples {
  const { position: at, rotation } = standOf(field);
  const [xx, xy, xz] = rotate(rotation, [1, 0, 0]);
  const [yx, yy, yz] = rotate(rotation, [0, 1, 0]);
  const [zx, zy, zz] = rotate(rotation, [0, 0, 1]);
  for (let p = 0; p < 3 * count; p += 3) {
    const x = position[p];
    const y = position[p + 1];
    const z = position[p + 2];
    position[p] = at[0] + xx * x + yx * y + zx * z;
    position[p + 1] = at[1] + xy * x + yy * y + zy * z;
    position[p + 2] = at[2] + xz * x + yz * y + zz * z;
  }
  const samples = { ...emptySamples(0), count, position, words: key, joinOrder, capped };
  samples.triangle = trianglesOf(field, position, triangle);
  samples.normal = field.ground.flatNormals(samples.triangle);
  return samples;
}

/** The triangles of the field's mesh that positions on those of its region lie on. */
function trianglesOf({ ground, plane, region }: Field, position: Float64Array, triangle: Uint32Array): Uint32Array {
  const { numbers } = region;
  if (numbers) return triangle.map((t) => numbers[t]);
  if (!plane) return triangle;
  const P = ground.position;
  return triangle.map((_, i) => {
    const across = (position[3 * i] - P[0]) / (P[6] - P[0]);
    return (position[3 * i + 2] - P[2]) / (P[8] - P[2]) >= across ? 0 : 1;
  });
}

/** Rows and columns along the texture coordinates; null where there are none. */
function alongUvs(field: Field, pitch: number): Samples | null {
  const rows = uvRows(field, pitch, MAX_SAMPLES);
  if (!rows) return null;
  const samples = emptySamples(rows.triangle.length);
  samples.position.set(rows.position);
  samples.triangle.set(rows.triangle);
  samples.normal = field.ground.flatNormals(samples.triangle);
  samples.ordinal = new Int32Array(samples.count);
  for (let i = 0; i < samples.count; i++) {
    const [row, column] = [rows.row[i], rows.column[i]];
    writeWords(samples.words, 2 * i, row, column, 0);
    samples.ordinal[i] = row + column;
  }
  return samples;
}

/** Rows and columns seen from above, the highest of the mesh at each. */
function lattice(field: Field, pitch: number, rowPitch: number, shift: number, heading: number, frame: Frame): Samples {
  const { hits, names } = latticeOver(field, { pitch, rowPitch, shift, heading }, frame);
  const samples = { ...emptySamples(hits.count), ...hits, ordinal: new Int32Array(hits.count) };
  samples.capped = hits.count >= MAX_SAMPLES;
  for (let i = 0; i < hits.count; i++) {
    writeWords(samples.words, 2 * i, names[2 * i], names[2 * i + 1], 0);
    samples.ordinal[i] = names[2 * i] + names[2 * i + 1];
  }
  return samples;
}

/** Round each position as many as its threshold says, more of them near it; each on the nearest place of the mesh. */
function clustered({ ground }: Field, centres: Samples, params: Spacing, seed: number): Samples {
  const [fewest, most] = params.clusterCount;
  const howMany = streamOf(seed, CHANNEL.clusterCount);
  const far = streamOf(seed, CHANNEL.clusterFar);
  const way = streamOf(seed, CHANNEL.clusterWay);
  const { words, joinOrder } = centres;
  const members = new Uint8Array(centres.count);
  let count = 0;
  for (let c = 0; c < members.length; c++) {
    const threshold = drawFrom(howMany, words[2 * c], words[2 * c + 1]);
    members[c] = fewest + Math.floor(threshold * (most - fewest + 1));
    count += members[c];
  }
  const samples = emptySamples(Math.min(count, MAX_SAMPLES));
  if (joinOrder) samples.joinOrder = new Float64Array(samples.count);
  const ordinal = (samples.ordinal = new Int32Array(samples.count));
  const face = new Float64Array(3);
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  for (let c = 0, i = 0; c < members.length; c++) {
    const p = 3 * c;
    const [nx, ny, nz] = centres.normal.subarray(p, p + 3);
    // Two directions along the triangle (J. R. Frisvad's, revised: Duff et al., JCGT 6(1), 2017).
    const side = nz < 0 ? -1 : 1;
    const a = -1 / (side + nz);
    const b = nx * ny * a;
    for (let m = 0; m < members[c] && i < samples.count; m++, i++) {
      writeWords(samples.words, 2 * i, words[2 * c], words[2 * c + 1], m);
      const [name, rest] = [samples.words[2 * i], samples.words[2 * i + 1]];
      // Even draws of the radius, rather than of the disk, lie closer together in the middle.
      const radius = params.clusterRadius * drawFrom(far, name, rest);
      const angle = 2 * Math.PI * drawFrom(way, name, rest);
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
      ordinal[i] = m;
      if (samples.joinOrder && joinOrder) samples.joinOrder[i] = joinOrder[c];
    }
  }
  return samples;
}

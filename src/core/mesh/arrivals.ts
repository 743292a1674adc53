/**
 * *Places that arrive on a mesh one after another*, evenly at random, as a Poisson process: each has the density from which on
 * it is there, in places to the square metre. So a higher density only adds, whatever triangles the mesh is cut into.
 *
 * Every triangle has its own. After each place the next one comes once the density has risen by an exponentially distributed
 * amount, whose mean is one place to the triangle. When many have arrived on a triangle its four quarters take over, and in time
 * theirs; so places in a small part of a large triangle are found without the others. A place is known by its triangle, its
 * quarters and its number in them.
 */
import { CHANNEL, finish, mix, streamOf } from "../math";
import { isWithin, wholesOf, writeWhole, type CutFaces } from "./cut-faces";
import type { Facets, Points } from "./facets";

/** Structure of arrays, one entry a place, in the order of triangles. */
export interface Arrivals {
  count: number;
  /** In the mesh's own coordinates, metres: 3n. */
  position: Float64Array;
  /** From what density on each is there, 1/m²: n. */
  density: Float64Array;
  /** The triangle that each lies on; {@link BEYOND} for what lies beyond a rim that cuts triangles off: n. */
  triangle: Uint32Array;
  /** Two words that no other place on the mesh has: 2n. */
  key: Uint32Array;
}

/** The triangle of what lies on none. */
export const BEYOND = 2 ** 32 - 1;

/** What arrivals hang on besides the mesh. */
export interface Arriving {
  seed: number;
  /** What each triangle is known by: m; null for its number. */
  names?: Uint32Array | null;
  /** The triangles that a rim cut off. */
  cut?: CutFaces | null;
  /** How many square metres are wanted, about; all without it. */
  area?: number;
  /** No more places than this. */
  most?: number;
  /** Whether anything is wanted of a box (least and most of each axis); triangles and quarters elsewhere are left out. */
  wanted?: (least: Float64Array, most: Float64Array) => boolean;
}

/** So many places, about, arrive on a triangle before its quarters take over. */
const WHOLE = 32;
/** And so many at most, of which there is no likelihood. */
const MOST_EACH = 256;
/** No more places than this are looked at, for whatever comes of them. */
export const MOST_ARRIVALS = 6_000_000;
/** Triangles are quartered so often at most. */
const MAX_DEPTH = 60;
const HALF_WORD = 2 ** 16;
const PER_HALF = 1 / HALF_WORD;
/** What the two words of all keys begin with. */
export const LOW = streamOf(0, CHANNEL.key);
export const HIGH = streamOf(1, CHANNEL.key);

/**
 * @param upTo the density up to which places arrive, 1/m²
 * @param beyond whether what would arrive a little way beyond a rim that cuts triangles off is wanted too
 */
export function arrivalsOver(
  { position: P, index }: Points,
  { area: areas }: Pick<Facets, "area">,
  upTo: number,
  { seed, names = null, cut = null, most = MOST_ARRIVALS, wanted, ...about }: Arriving,
  beyond = false,
): Arrivals {
  const area = about.area ?? sum(areas);
  const expected = Math.min(most, area * upTo);
  const out = emptyArrivals(Math.ceil(expected + 6 * Math.sqrt(expected) + MOST_EACH));
  const stream = streamOf(seed, CHANNEL.overArrive);
  const corners = new Float64Array(9);
  const wholes = cut ? wholesOf(cut) : NO_WHOLES;
  for (let t = 0, c = 0, w = 0; t < areas.length && out.count < most; t++) {
    if (!(areas[t] > 0)) continue;
    while (cut && cut.triangle[c] < t) c++;
    if (cut?.triangle[c] === t) {
      for (; w < wholes.length && cut.triangle[wholes[w][0]] <= t; w++) {
        const from = out.count;
        for (const part of wholes[w]) {
          const begin = out.count;
          const area = areas[cut.triangle[part]] * writeWhole({ position: P, index }, cut, part, corners);
          const name = cut.name[part] | 0;
          fill(out, cut.triangle[part], name, name, corners, area, 1, upTo, stream, most, wanted);
          keepWithin(out, begin, { position: P, index }, part, cut, wholes[w], beyond);
        }
        sortByDensity(out, from);
      }
      continue;
    }
    for (let k = 0; k < 3; k++) {
      const p = 3 * index[3 * t + k];
      corners[3 * k] = P[p];
      corners[3 * k + 1] = P[p + 1];
      corners[3 * k + 2] = P[p + 2];
    }
    const name = names ? names[t] : t;
    fill(out, t, name | 0, name | 0, corners, areas[t], 1, upTo, stream, most, wanted);
  }
  return out;
}

const NO_WHOLES: number[][] = [];

/**
 * Leaves out those from one on that do not lie in their part of a whole triangle; what lies in none of its parts is kept as
 * lying beyond the rim where that is wanted, once for all parts.
 */
function keepWithin(
  out: Arrivals,
  from: number,
  ground: Points,
  part: number,
  cut: CutFaces,
  parts: readonly number[],
  beyond: boolean,
): void {
  const { position, density, key, triangle } = out;
  const outside = beyond && part === parts[0];
  const t = cut.triangle[part];
  let count = from;
  for (let i = from; i < out.count; i++) {
    const x = position[3 * i];
    const y = position[3 * i + 1];
    const z = position[3 * i + 2];
    const within = isWithin(ground, t, x, y, z);
    if (!within && (!outside || parts.some((one) => isWithin(ground, cut.triangle[one], x, y, z)))) continue;
    position.copyWithin(3 * count, 3 * i, 3 * i + 3);
    density[count] = density[i];
    key.copyWithin(2 * count, 2 * i, 2 * i + 2);
    triangle[count] = within ? t : BEYOND;
    count++;
  }
  out.count = count;
}

/** Puts those from one on into the order in which they arrived, whichever part they lie on. */
function sortByDensity(all: Arrivals, from: number): void {
  const order = Uint32Array.from({ length: all.count - from }, (_, i) => from + i);
  order.sort((a, b) => all.density[a] - all.density[b]);
  const sorted = taken(all, order);
  all.position.set(sorted.position, 3 * from);
  all.triangle.set(sorted.triangle, from);
  all.key.set(sorted.key, 2 * from);
  all.density.set(sorted.joinOrder!, from);
}

/** *Positions on a mesh.* */
export interface Spread {
  count: number;
  /** In the mesh's coordinates, metres: 3n. */
  position: Float64Array;
  /** The triangle of each: n. */
  triangle: Uint32Array;
  /** Two words that no other position on the mesh has: 2n. */
  key: Uint32Array;
  /** In what order they join as they become more: n; null where all come at once. */
  joinOrder: Float64Array | null;
}

/** The density at which as many have arrived as are looked at. */
export function mostArrived({ area: areas }: Pick<Facets, "area">, { area, most = MOST_ARRIVALS }: Arriving): number {
  return (0.98 * Math.min(most, MOST_ARRIVALS)) / ((area ?? sum(areas)) || 1);
}

/** The sum of many numbers. */
export function sum(numbers: Float64Array): number {
  let out = 0;
  for (let i = 0; i < numbers.length; i++) out += numbers[i];
  return out;
}

/** Some of the arrivals, in an order. */
export function taken(all: Arrivals, chosen: Uint32Array): Spread {
  const n = chosen.length;
  const out: Spread = {
    count: n,
    position: new Float64Array(3 * n),
    triangle: new Uint32Array(n),
    key: new Uint32Array(2 * n),
    joinOrder: new Float64Array(n),
  };
  const { position, triangle, key } = out;
  const joinOrder = out.joinOrder!;
  for (let o = 0; o < n; o++) {
    const i = chosen[o];
    position[3 * o] = all.position[3 * i];
    position[3 * o + 1] = all.position[3 * i + 1];
    position[3 * o + 2] = all.position[3 * i + 2];
    triangle[o] = all.triangle[i];
    key[2 * o] = all.key[2 * i];
    key[2 * o + 1] = all.key[2 * i + 1];
    joinOrder[o] = all.density[i];
  }
  return out;
}

export const emptyArrivals = (room: number): Arrivals => ({
  count: 0,
  position: new Float64Array(3 * room),
  density: new Float64Array(room),
  triangle: new Uint32Array(room),
  key: new Uint32Array(2 * room),
});

/**
 * What arrives on a part of a triangle while it is its turn, and on its quarters after it.
 *
 * @param low what the part is known by, as is `high`
 * @param corners of the part, 9
 * @param area of the whole triangle
 * @param parts how many such parts the triangle has: a power of 4
 */
function fill(
  out: Arrivals,
  t: number,
  low: number,
  high: number,
  corners: Float64Array,
  area: number,
  parts: number,
  upTo: number,
  stream: number,
  most: number,
  wanted: Arriving["wanted"],
): void {
  // There may be more parts than could ever be looked at.
  if (out.count >= most || (wanted && !isWanted(corners, wanted))) return;
  // As for a triangle that is a little larger; of what arrives there that share is taken that this one is of it. So when it
  // changes a little, what stays comes as early as before.
  const nominal = stepAbove(area);
  const share = (area / nominal) * HALF_WORD;
  const per = parts / nominal;
  const end = WHOLE * per;
  const limit = upTo < end ? upTo : end;
  const first = finish(mix(LOW, low));
  const second = finish(mix(HIGH, high));
  const own = mix(stream, first);
  const ax = corners[0];
  const ay = corners[1];
  const az = corners[2];
  const ux = corners[3] - ax;
  const uy = corners[4] - ay;
  const uz = corners[5] - az;
  const vx = corners[6] - ax;
  const vy = corners[7] - ay;
  const vz = corners[8] - az;
  let i = out.count;
  if (i + MOST_EACH > out.density.length) grow(out, i + MOST_EACH);
  const { position: P, density: D, triangle: T, key: K } = out;
  const last = Math.min(most, i + MOST_EACH);
  let density = parts === 1 ? 0 : end / 4;
  for (let k = 0; k < MOST_EACH && i < last; k++) {
    const draws = mix(own, k);
    const arrival = finish(draws);
    density += per * exponential(arrival);
    if (density > limit) break;
    if ((arrival & 0xffff) >= share) continue;
    // Half the bits for each: a part holds so few that they lie on no grid that could be seen.
    const bits = finish(mix(draws, 1));
    let left = bits >>> 16;
    let right = bits & 0xffff;
    // The other half of the parallelogram is folded back onto the triangle.
    const fold = -((left + right) >>> 16) & 0xffff;
    left ^= fold;
    right ^= fold;
    const s = (left + 0.5) * PER_HALF;
    const r = (right + 0.5) * PER_HALF;
    const p = 3 * i;
    P[p] = ax + s * ux + r * vx;
    P[p + 1] = ay + s * uy + r * vy;
    P[p + 2] = az + s * uz + r * vz;
    D[i] = density;
    T[i] = t;
    K[2 * i] = first + k;
    K[2 * i + 1] = second + k;
    i++;
  }
  out.count = i;
  if (upTo <= end || parts >= 4 ** MAX_DEPTH) return;
  const quarter = new Float64Array(9);
  for (let child = 0; child < 4; child++) {
    writeQuarter(quarter, corners, child);
    const [a, b] = [finish(mix(first, ~child)) | 0, finish(mix(second, ~child)) | 0];
    fill(out, t, a, b, quarter, area, 4 * parts, upTo, stream, most, wanted);
  }
}

/** Areas are in so many steps to each doubling, which lie aside of round numbers, since areas like to be round. */
const STEP_BITS = 2;
const STEP = 2 ** (20 - STEP_BITS);
const ASIDE = Math.floor(0.37 * STEP);
const number = new Float64Array(1);
const halves = new Uint32Array(number.buffer);

/** The next step above an area: in the upper half of a number's bits are its power of two, and steps in that. */
function stepAbove(area: number): number {
  number[0] = area;
  halves[1] = ((halves[1] - ASIDE) | (STEP - 1)) + 1 + ASIDE;
  halves[0] = 0;
  return number[0];
}

/** An exponentially distributed number of mean 1 from 32 random bits: minus the logarithm of their share, to 1e-6. */
export function exponential(bits: number): number {
  const zeros = Math.clz32(bits | 1);
  const m = ((bits | 1) << zeros) >>> 0;
  const t = (m - 2 ** 31) / (m + 2 ** 31);
  const tt = t * t;
  return (zeros + 1) * Math.LN2 - 2 * t * (1 + tt * (1 / 3 + tt * (1 / 5 + tt * (1 / 7 + tt * (1 / 9 + tt / 11)))));
}

const least = new Float64Array(3);
const greatest = new Float64Array(3);

function isWanted(c: Float64Array, wanted: NonNullable<Arriving["wanted"]>): boolean {
  for (let axis = 0; axis < 3; axis++) {
    least[axis] = Math.min(c[axis], c[3 + axis], c[6 + axis]);
    greatest[axis] = Math.max(c[axis], c[3 + axis], c[6 + axis]);
  }
  return wanted(least, greatest);
}

/** The corners of a triangle's quarter: at one of its corners, or the middle one. */
function writeQuarter(out: Float64Array, c: Float64Array, child: number): void {
  for (let axis = 0; axis < 3; axis++) {
    const a = c[axis];
    const b = c[3 + axis];
    const d = c[6 + axis];
    const ab = 0.5 * (a + b);
    const bd = 0.5 * (b + d);
    const da = 0.5 * (d + a);
    out[axis] = child === 0 ? a : child === 2 ? da : ab;
    out[3 + axis] = child === 1 ? b : child === 0 ? ab : bd;
    out[6 + axis] = child === 2 ? d : child === 1 ? bd : da;
  }
}

/** Adds a place that lies on no triangle. */
export function addArrival(
  out: Arrivals,
  x: number,
  y: number,
  z: number,
  density: number,
  low: number,
  high: number,
): void {
  const i = out.count;
  if (i === out.density.length) grow(out, i + 1);
  out.position[3 * i] = x;
  out.position[3 * i + 1] = y;
  out.position[3 * i + 2] = z;
  out.density[i] = density;
  out.key[2 * i] = low;
  out.key[2 * i + 1] = high;
  out.count++;
}

function grow(out: Arrivals, least: number): void {
  const more = { ...emptyArrivals(Math.max(least + 64, 2 * out.density.length)), count: out.count };
  more.position.set(out.position);
  more.density.set(out.density);
  more.triangle.set(out.triangle);
  more.key.set(out.key);
  Object.assign(out, more);
}

/**
 * Version 5's: kept as it was, see `index.ts`.
 *
 * *Random positions over a mesh*, so many to the square metre. Each triangle has its own, known by their numbers on it, so
 * that a higher density only adds to them, and what lies elsewhere changes none.
 */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { facetsOf, type Facets, type WorldMesh } from "../../mesh";

/** Positions on a mesh. */
export interface Spread {
  count: number;
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  /** Unit normals of the triangles: 3n. */
  normal: Float32Array;
  /** The triangle of each: n. */
  triangle: Uint32Array;
}

/** The density for a number is found in so many steps at most. */
const MAX_STEPS = 60;

/**
 * Random positions over a mesh.
 *
 * @param amount so many in all, exactly, or so many to the square metre
 * @param most no more than so many
 * @param numbers what each triangle is known by, where these are some of a larger mesh's: m
 */
export function randomOver(
  ground: Pick<WorldMesh, "position" | "index">,
  amount: { count: number } | { density: number },
  seed: number,
  most = 10_000_000,
  numbers: Uint32Array | null = null,
): Spread {
  const facets = facetsOf(ground);
  const areas = facets.area;
  const lots = lotsOf(areas.length, seed, numbers);
  const wanted = "count" in amount ? Math.min(amount.count, most) : most;
  let density = "count" in amount ? densityFor(wanted, areas, lots) : amount.density;
  if (!("count" in amount) && countAt(density, areas, lots) > most) density = densityFor(most, areas, lots);
  return written(ground, facets, lots, density, Math.min(wanted, countAt(density, areas, lots)), seed, numbers);
}

/** What decides, for each triangle, whether a part of a position that it has room for is one. */
function lotsOf(count: number, seed: number, numbers: Uint32Array | null): Float64Array {
  const stream = streamOf(seed, CHANNEL.overCount);
  const lots = new Float64Array(count);
  for (let t = 0; t < count; t++) lots[t] = drawFrom(stream, numbers ? numbers[t] : t, 0);
  return lots;
}

/** For positions that {@link randomOver} gave: the density from which on each is among them, and its number in its triangle. */
export function joinOrdersOf(
  ground: Pick<WorldMesh, "position" | "index">,
  { count, triangle }: Spread,
  seed: number,
  numbers: Uint32Array | null = null,
): { joinOrder: Float64Array; nth: Uint32Array } {
  const { area } = facetsOf(ground);
  const lots = lotsOf(area.length, seed, numbers);
  const rise = new Float64Array(count);
  const nth = new Uint32Array(count);
  for (let i = 0; i < count; i++) {
    const t = triangle[i];
    nth[i] = i > 0 && triangle[i - 1] === t ? nth[i - 1] + 1 : 0;
    rise[i] = (nth[i] + 1 - lots[t]) / area[t];
  }
  return { joinOrder: rise, nth };
}

/** How many positions there are at a density: in each triangle as many as it has room for, rounded by its lot. */
function countAt(density: number, areas: Float64Array, lots: Float64Array): number {
  let count = 0;
  for (let t = 0; t < areas.length; t++) count += Math.floor(density * areas[t] + lots[t]);
  return count;
}

/** The least density, nearly, at which there are so many positions. */
function densityFor(count: number, areas: Float64Array, lots: Float64Array): number {
  let total = 0;
  for (let t = 0; t < areas.length; t++) total += areas[t];
  if (!(total > 0) || count <= 0) return 0;
  const guess = count / total;
  // The number is off by about the root of how many triangles there are, so the density is found close by.
  let [low, high] = [guess, guess];
  let step = (guess * 4) / Math.sqrt(Math.max(16, count));
  while (countAt(low, areas, lots) >= count && low > 0) {
    high = low;
    low = Math.max(0, low - step);
    step *= 4;
  }
  while (countAt(high, areas, lots) < count) {
    low = high;
    high += step;
    step *= 4;
  }
  for (let k = 0; k < MAX_STEPS && high - low > 1e-12 * high; k++) {
    const middle = (low + high) / 2;
    const there = countAt(middle, areas, lots);
    if (there === count) return middle;
    if (there < count) low = middle;
    else high = middle;
  }
  return high;
}

function written(
  { position: p, index }: Pick<WorldMesh, "position" | "index">,
  { area: areas, normal: facing }: Facets,
  lots: Float64Array,
  density: number,
  count: number,
  seed: number,
  numbers: Uint32Array | null,
): Spread {
  const spread: Spread = {
    count,
    position: new Float64Array(3 * count),
    normal: new Float32Array(3 * count),
    triangle: new Uint32Array(count),
  };
  const { position, normal, triangle } = spread;
  const first = streamOf(seed, CHANNEL.overFirst);
  const second = streamOf(seed, CHANNEL.overSecond);
  let i = 0;
  for (let t = 0, corner = 0; t < areas.length && i < count; t++, corner += 3) {
    const n = Math.min(count - i, Math.floor(density * areas[t] + lots[t]));
    if (n === 0) continue;
    const known = numbers ? numbers[t] : t;
    const a = 3 * index[corner];
    const b = 3 * index[corner + 1];
    const c = 3 * index[corner + 2];
    const ax = p[a];
    const ay = p[a + 1];
    const az = p[a + 2];
    const ux = p[b] - ax;
    const uy = p[b + 1] - ay;
    const uz = p[b + 2] - az;
    const vx = p[c] - ax;
    const vy = p[c + 1] - ay;
    const vz = p[c + 2] - az;
    const nx = facing[corner];
    const ny = facing[corner + 1];
    const nz = facing[corner + 2];
    for (let k = 0, o = 3 * i; k < n; k++, i++, o += 3) {
      let s = drawFrom(first, known, k);
      let r = drawFrom(second, known, k);
      // The other half of the parallelogram is folded back onto the triangle.
      if (s + r > 1) {
        s = 1 - s;
        r = 1 - r;
      }
      position[o] = ax + s * ux + r * vx;
      position[o + 1] = ay + s * uy + r * vy;
      position[o + 2] = az + s * uz + r * vz;
      normal[o] = nx;
      normal[o + 1] = ny;
      normal[o + 2] = nz;
      triangle[i] = t;
    }
  }
  return spread;
}

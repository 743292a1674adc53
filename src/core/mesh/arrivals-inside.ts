/**
 * *Places that arrive in space*, as those on a mesh do (see `arrivals.ts`): a cube that holds all has its own, and its eighths
 * take over from it. So what arrives somewhere is the same whatever is filled, and however large that is.
 */
import { CHANNEL, finish, mix, PER_DRAW, streamOf, type Vec3 } from "../math";
import { addArrival, emptyArrivals, exponential, HIGH, LOW, MOST_ARRIVALS, type Arrivals } from "./arrivals";

/** Half the side of the cube that all lies in, metres. */
const HALF = 2 ** 24;
/** So many arrive in a part before its eighths take over. */
const WHOLE = 32;

/** What is filled. */
export interface Filled {
  /** The box that it lies in, metres. */
  least: Vec3;
  most: Vec3;
  /** How much it holds, cubic metres, about. */
  cubic: number;
  contains(x: number, y: number, z: number): boolean;
}

/** @param upTo the density up to which places arrive, 1/m³ */
export function arrivalsInside(filled: Filled, upTo: number, seed: number, most = MOST_ARRIVALS): Arrivals {
  const expected = Math.min(most, upTo * filled.cubic);
  const out = emptyArrivals(Math.ceil(expected + 6 * Math.sqrt(expected) + 64));
  const far = Math.max(...filled.least.map(Math.abs), ...filled.most.map(Math.abs), 1);
  const half = Math.max(HALF, 2 ** (1 + Math.ceil(Math.log2(far))));
  const stream = streamOf(seed, CHANNEL.insideArrive);
  fill(out, { filled, upTo, stream, most, whole: 2 * half }, 0, 0, -half, -half, -half, 2 * half);
  return out;
}

interface Rest {
  filled: Filled;
  upTo: number;
  stream: number;
  most: number;
  /** The side of the cube that holds all. */
  whole: number;
}

function fill(
  out: Arrivals,
  rest: Rest,
  low: number,
  high: number,
  x: number,
  y: number,
  z: number,
  side: number,
): void {
  const { filled, upTo, stream, most, whole } = rest;
  if (out.count >= most) return;
  const [[ax, ay, az], [bx, by, bz]] = [filled.least, filled.most];
  // What only touches the box has nothing in it, however finely it is cut.
  if (x >= bx || y >= by || z >= bz || x + side <= ax || y + side <= ay || z + side <= az) return;
  const per = 1 / side ** 3;
  const end = WHOLE * per;
  const limit = Math.min(upTo, end);
  const first = finish(mix(LOW, low));
  const second = finish(mix(HIGH, high));
  const own = mix(stream, first);
  let density = side === whole ? 0 : end / 8;
  for (let k = 0; out.count < most; k++) {
    const draws = mix(own, k);
    density += per * exponential(finish(draws));
    if (density > limit) break;
    const px = x + side * finish(mix(draws, 1)) * PER_DRAW;
    const py = y + side * finish(mix(draws, 2)) * PER_DRAW;
    const pz = z + side * finish(mix(draws, 3)) * PER_DRAW;
    if (px < ax || py < ay || pz < az || px > bx || py > by || pz > bz) continue;
    if (filled.contains(px, py, pz)) addArrival(out, px, py, pz, density, first + k, second + k);
  }
  if (upTo <= end) return;
  const half = side / 2;
  for (let child = 0; child < 8; child++) {
    const [a, b] = [finish(mix(first, ~child)) | 0, finish(mix(second, ~child)) | 0];
    fill(out, rest, a, b, x + half * (child & 1), y + half * ((child >> 1) & 1), z + half * (child >> 2), half);
  }
}

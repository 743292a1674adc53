/**
 * *A mesh that was turned round an axis, laid flat by its angle and the arc length of its profile*: what goes round it runs
 * straight across, as wide as the way round is in the mean; what goes along it is true to length.
 */
import { areasOf } from "../facets";
import { nextOf } from "./twins";
import type { Unrolled } from "./unrolled";

/** Places nearer than this share of the mesh are one. */
const ALIKE = 1e-4;
/** Fewer around an axis are no circle. */
const FEWEST = 6;
/** Around a circle no gap is so many times what it would be if all were alike. */
const UNEVEN = 1.6;

/** What is no more than this beyond the half turn, radians, lies at its end. */
const SEAM = 1e-6;
/** Heights count fewer steps of what is alike than this. */
const FAR = 2 ** 26;

interface Ring {
  radius: number;
  height: number;
  /** Angles of its vertices. */
  angles: number[];
}

/** Null for a mesh that is not turned round one of its own axes, or is in several pieces. */
export function unrollRound(position: ArrayLike<number>, index: Uint32Array): Unrolled | null {
  const middle = middleOf(position, index);
  for (const axis of [1, 2, 0] as const) {
    const found = roundAbout(position, index, axis, middle);
    if (found) return found;
  }
  return null;
}

/** The middle of all triangles, by their areas: on the axis of what was turned, however its seam is doubled. */
function middleOf(P: ArrayLike<number>, index: Uint32Array): Float64Array {
  const area = areasOf({ position: P, index });
  const middle = new Float64Array(3);
  let whole = 0;
  for (let t = 0; t < area.length; t++) {
    whole += area[t];
    const a = 3 * index[3 * t];
    const b = 3 * index[3 * t + 1];
    const c = 3 * index[3 * t + 2];
    for (let k = 0; k < 3; k++) middle[k] += (area[t] * (P[a + k] + P[b + k] + P[c + k])) / 3;
  }
  return middle.map((sum) => sum / (whole || 1));
}

function roundAbout(P: ArrayLike<number>, index: Uint32Array, axis: 0 | 1 | 2, middle: Float64Array): Unrolled | null {
  const n = P.length / 3;
  // Seen along the axis, from its far end: to the right and up.
  const [right, up] = [(axis + 2) % 3, (axis + 1) % 3];
  const used = new Uint8Array(n);
  for (const v of index) used[v] = 1;
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let k = 0; k < 3; k++)
    for (let v = 0; v < n; v++) {
      if (used[v] === 0) continue;
      box[k] = Math.min(box[k], P[3 * v + k]);
      box[3 + k] = Math.max(box[3 + k], P[3 * v + k]);
    }
  const size = Math.max(box[3] - box[0], box[4] - box[1], box[5] - box[2]);
  const alike = ALIKE * size;
  const [middleX, middleY] = [middle[right], middle[up]];
  const rings: Ring[] = [];
  const known = new Map<number, number>();
  const ringOf = new Int32Array(n).fill(-1);
  const angle = new Float64Array(n);
  const near = (radius: number, height: number): number => {
    const [a, b] = [Math.round(radius / alike), Math.round(height / alike)];
    for (let i = a - 1; i <= a + 1; i++)
      for (let j = b - 1; j <= b + 1; j++) {
        const found = known.get(i * FAR + j);
        if (found !== undefined) return found;
      }
    known.set(a * FAR + b, rings.length);
    return rings.push({ radius: radius <= 2 * alike ? 0 : radius, height, angles: [] }) - 1;
  };
  for (let v = 0; v < n; v++) {
    if (!used[v]) continue;
    const [x, y] = [P[3 * v + right] - middleX, P[3 * v + up] - middleY];
    angle[v] = Math.atan2(y, x);
    // Both ends of the half turn are one.
    if (angle[v] < SEAM - Math.PI) angle[v] += 2 * Math.PI;
    const ring = near(Math.hypot(x, y), P[3 * v + axis]);
    ringOf[v] = ring;
    rings[ring].angles.push(angle[v]);
    // A free mesh has far fewer vertices a ring than one that was turned.
    if (rings.length > 64 && rings.length * FEWEST > v + 64) return null;
  }
  if (!rings.some(({ radius }) => radius > 0) || !rings.every(isCircle)) return null;
  const order = profileOf(rings, ringOf, index);
  return order && laidRound(P, index, { rings, ringOf, angle, order });
}

function isCircle({ radius, angles }: Ring): boolean {
  if (radius === 0) return true;
  const sorted = [...new Set(angles.map((one) => Math.round(one * 1e5)))].sort((a, b) => a - b);
  if (sorted.length < FEWEST) return false;
  const even = (2 * Math.PI * 1e5) / sorted.length;
  return sorted.every((one, k) => {
    const next = k + 1 < sorted.length ? sorted[k + 1] : sorted[0] + 2 * Math.PI * 1e5;
    // A seam that is doubled lies at both ends of the half turn.
    return next - one < UNEVEN * even + 3;
  });
}

/** The rings in the order of the profile, from its foot; round a profile that closes, from its lowest. Null where it branches. */
function profileOf(rings: readonly Ring[], ringOf: Int32Array, index: Uint32Array): number[] | null {
  const beside = rings.map(() => new Set<number>());
  for (let h = 0, last = -1; h < index.length; h++) {
    const a = ringOf[index[h]];
    const b = ringOf[index[nextOf(h)]];
    // Neighbours in the mesh mostly lie between the same two rings.
    const pair = Math.min(a, b) * rings.length + Math.max(a, b);
    if (a === b || pair === last) continue;
    last = pair;
    beside[a].add(b);
    beside[b].add(a);
  }
  if (rings.length < 2 || beside.some((ends) => ends.size === 0 || ends.size > 2)) return null;
  const ends = rings.map((_, r) => r).filter((r) => beside[r].size === 1);
  const low = (all: readonly number[]) => all.reduce((a, b) => (rings[b].height < rings[a].height ? b : a));
  const start = low(ends.length > 0 ? ends : rings.map((_, r) => r));
  const order = [start];
  for (let last = -1, here = start; ;) {
    const next = [...beside[here]].find((r) => r !== last && (r !== start || order.length > 2));
    if (next === undefined || (next === start && ends.length === 0)) break;
    order.push(next);
    if (order.length > rings.length) return null;
    [last, here] = [here, next];
  }
  return order.length === rings.length ? (ends.length === 0 ? [...order, start] : order) : null;
}

interface Turned {
  rings: readonly Ring[];
  ringOf: Int32Array;
  angle: Float64Array;
  order: readonly number[];
}

function laidRound(P: ArrayLike<number>, index: Uint32Array, { rings, ringOf, angle, order }: Turned): Unrolled {
  const closes = order[0] === order[order.length - 1];
  const along = new Float64Array(rings.length);
  let [far, area] = [0, 0];
  order.forEach((ring, k) => {
    if (k > 0) {
      const [a, b] = [rings[order[k - 1]], rings[ring]];
      const step = Math.hypot(b.radius - a.radius, b.height - a.height);
      far += step;
      area += (step * (a.radius + b.radius)) / 2;
    }
    if (k < rings.length) along[ring] = far;
  });
  const mean = area / far;
  const room = new Float64Array(2 * index.length);
  let count = 0;
  // Where each vertex lies: at first, beyond the half turn, and both where the profile closes.
  const known = new Int32Array((4 * P.length) / 3).fill(-1);
  const laid = new Uint32Array(index.length);
  const theta = new Float64Array(3);
  const onAxis = Uint8Array.from(ringOf, (ring) => (ring >= 0 && rings[ring].radius === 0 ? 1 : 0));
  for (let t = 0; t < index.length; t += 3) {
    const beyond = anglesOf(index, t, angle, onAxis, theta);
    // Of what closes lengthwise the last ring is the first one again.
    let wraps = false;
    for (let k = 0; closes && k < 3; k++) wraps ||= along[ringOf[index[t + k]]] > far / 2;
    for (let k = 0; k < 3; k++) {
      const v = index[t + k];
      const ring = ringOf[v];
      const again = wraps && ring === order[0];
      const name = 4 * v + 2 * ((beyond >> k) & 1) + (again ? 1 : 0);
      const pole = onAxis[v] === 1;
      let at = pole ? -1 : known[name];
      if (at < 0) {
        at = count++;
        room[2 * at] = mean * theta[k];
        room[2 * at + 1] = again ? 0 : far - along[ring];
        if (!pole) known[name] = at;
      }
      laid[t + k] = at;
    }
  }
  const places = room.slice(0, 2 * count);
  // Seen from the side that it shows, which y downwards turns about.
  if (flatArea(laid, places) > 0) for (let p = 0; p < places.length; p += 2) places[p] = -places[p];
  let least = Infinity;
  for (let p = 0; p < places.length; p += 2) least = Math.min(least, places[p]);
  const seams = far + (closes ? 2 * Math.PI * rings[order[0]].radius : 0);
  for (let p = 0; p < places.length; p += 2) places[p] -= least;
  return { index: laid, places, parts: 1, seams, flipped: 0 };
}

/**
 * Writes the angles of a triangle's corners so that none is more than half a turn from another, a pole's in the middle of the
 * others'; which of them that took beyond the half turn, a bit for each.
 */
function anglesOf(index: Uint32Array, t: number, angle: Float64Array, onAxis: Uint8Array, theta: Float64Array): number {
  let [low, high, sum, count, beyond] = [Infinity, -Infinity, 0, 0, 0];
  for (let k = 0; k < 3; k++) {
    theta[k] = angle[index[t + k]];
    if (onAxis[index[t + k]] === 1) continue;
    low = Math.min(low, theta[k]);
    high = Math.max(high, theta[k]);
  }
  for (let k = 0; k < 3; k++) {
    if (onAxis[index[t + k]] === 1) continue;
    if (high - low > Math.PI && theta[k] < 0) {
      theta[k] += 2 * Math.PI;
      beyond |= 1 << k;
    }
    sum += theta[k];
    count++;
  }
  for (let k = 0; k < 3; k++) if (onAxis[index[t + k]] === 1) theta[k] = count > 0 ? sum / count : 0;
  return beyond;
}

/** Twice the area that triangles have together where they lie, above 0 as they turn about with y downwards: 2 numbers a vertex. */
export function flatArea(index: Uint32Array, places: ArrayLike<number>): number {
  let area = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [2 * index[t], 2 * index[t + 1], 2 * index[t + 2]];
    const [ux, uy] = [places[b] - places[a], places[b + 1] - places[a + 1]];
    const [vx, vy] = [places[c] - places[a], places[c + 1] - places[a + 1]];
    area += ux * vy - uy * vx;
  }
  return area;
}

/**
 * *A disk laid flat with the least stretch.* First all angles are kept as well as can be (least squares conformal maps:
 * B. Lévy, S. Petitjean, N. Ray, J. Maillot, ACM TOG 21(3), 2002), then lengths: every triangle is turned only, and the
 * vertices take the places that suit all of theirs best, again and again (as rigid as possible: L. Liu, L. Zhang, Y. Xu,
 * C. Gotsman, S. Gortler, *A Local/Global Approach to Mesh Parameterization*, Computer Graphics Forum 27(5), 2008). The system
 * of the second part is factored once for all rounds.
 */
import { Anderson, hermitian, Ldl, solveHermitian, symmetric } from "../../math";
import { nextOf } from "./twins";
import { neighboursOf, type Disk } from "./disk";

/** Rounds at most, and how little a round has to better it to be the last one. */
const ROUNDS = 120;
const ENOUGH = 1e-3;
/** What is off by less than this share of the area is true to length. */
const TRUE = 1e-12;

/**
 * Places of its vertices, x and y, metres: 2n; null where it is so cramped that numbers do not reach.
 *
 * @param begun places to begin from, which nothing has turned over in; those that keep angles where there are none
 */
export function flatten(disk: Disk, begun: Float64Array | null = conformal(disk)): Float64Array | null {
  return begun && asRigidAsPossible(disk, begun);
}

/**
 * Angles kept, by least squares, with two far vertices held a metre apart: how large it comes out is not told by angles. Places
 * are complex numbers.
 */
function conformal({ corner, count: n, flat, order }: Disk): Float64Array | null {
  const most = corner.length + n;
  const [rows, columns] = [new Uint32Array(most), new Uint32Array(most)];
  const [values, imaginary] = [new Float64Array(most), new Float64Array(most)];
  let count = 0;
  const put = (i: number, j: number, re: number, im: number) => {
    rows[count] = i;
    columns[count] = j;
    values[count] = re;
    imaginary[count++] = im;
  };
  let hold = 0;
  const own = new Float64Array(n);
  for (let o = 0; o < corner.length; o += 3) {
    const [side, along, high] = [flat[o], flat[o + 1], flat[o + 2]];
    if (!(high > 0)) continue;
    const scale = 1 / (2 * side * high);
    // What the three corners weigh as complex numbers: the edge opposite to each.
    const re = [along - side, -along, side];
    const im = [high, -high, 0];
    for (let i = 0; i < 3; i++) {
      const real = scale * (re[i] * re[i] + im[i] * im[i]);
      own[corner[o + i]] += real;
      hold = Math.max(hold, real);
      for (let j = 0; j < i; j++) {
        const across = scale * (re[i] * re[j] + im[i] * im[j]);
        put(corner[o + i], corner[o + j], across, scale * (re[i] * im[j] - im[i] * re[j]));
        hold = Math.max(hold, Math.abs(across));
      }
    }
  }
  const [one, other] = farApart(corner, n);
  if (!(hold > 0) || one === other) return null;
  for (const v of [one, other]) own[v] += HELD * hold;
  own.forEach((x, v) => put(v, v, x, 0));
  const places = new Float64Array(2 * n);
  places[2 * other] = HELD * hold;
  const entries = [rows, columns, values, imaginary].map((all) => all.subarray(0, count));
  const solved = solveHermitian(hermitian(n, entries[0], entries[1], entries[2], entries[3]), order, places);
  return solved && places.every(Number.isFinite) ? places : null;
}

/** What is held is held so many times as strongly as the rest. */
const HELD = 1e3;

/** Two vertices many edges apart. */
function farApart(corner: Uint32Array, n: number): [number, number] {
  const { start, neighbour } = neighboursOf(corner, n);
  const one = lastReached(start, neighbour, 0);
  return [one, lastReached(start, neighbour, one)];
}

/** One that most edges lead to from another. */
function lastReached(start: Int32Array, neighbour: Uint32Array, from: number): number {
  const reached = new Uint8Array(start.length - 1);
  const queue = new Uint32Array(start.length - 1);
  queue[0] = from;
  reached[from] = 1;
  let count = 1;
  for (let q = 0; q < count; q++) {
    for (let e = start[queue[q]]; e < start[queue[q] + 1]; e++) {
      const v = neighbour[e];
      if (reached[v] === 1) continue;
      reached[v] = 1;
      queue[count++] = v;
    }
  }
  return queue[count - 1];
}

/** Triangles turned only, vertices where they suit best. */
function asRigidAsPossible({ corner, count: n, flat, weight, order }: Disk, places: Float64Array): Float64Array | null {
  const m3 = corner.length;
  const [rows, columns] = [new Uint32Array(m3 + n), new Uint32Array(m3 + n)];
  const values = new Float64Array(m3 + n);
  const own = new Float64Array(n);
  let count = 0;
  const put = (i: number, j: number, x: number) => {
    rows[count] = i;
    columns[count] = j;
    values[count++] = x;
  };
  let stiffest = 0;
  for (let h = 0; h < m3; h++) {
    const [a, b, w] = [corner[h], corner[nextOf(h)], weight[h]];
    put(a, b, -w);
    own[a] += w;
    own[b] += w;
    stiffest = Math.max(stiffest, Math.abs(w));
  }
  // Where it lies is free: one vertex stays.
  own[order[n - 1]] += stiffest;
  own.forEach((x, v) => put(v, v, x));
  const ldl = Ldl.of(symmetric(n, rows, columns, values), order);
  if (!ldl) return null;
  const area = scaleToSize(corner, flat, places);
  const [x, y] = [new Float64Array(n), new Float64Array(n)];
  for (let v = 0; v < n; v++) [x[v], y[v]] = [places[2 * v], places[2 * v + 1]];
  const [bx, by] = [new Float64Array(n), new Float64Array(n)];
  const on = new Anderson([x, y]);
  let before = Infinity;
  for (let round = 0; round < ROUNDS; round++) {
    bx.fill(0);
    by.fill(0);
    let energy = 0;
    for (let o = 0; o < m3; o += 3) {
      const p = corner[o];
      const q = corner[o + 1];
      const r = corner[o + 2];
      const wp = weight[o];
      const wq = weight[o + 1];
      const wr = weight[o + 2];
      // The triangle's edges by itself, p to q, q to r, r to p; and as they lie.
      const ax = flat[o];
      const bx0 = flat[o + 1] - ax;
      const by0 = flat[o + 2];
      const cx = -flat[o + 1];
      const ux = x[q] - x[p];
      const uy = y[q] - y[p];
      const vx = x[r] - x[q];
      const vy = y[r] - y[q];
      const sx = x[p] - x[r];
      const sy = y[p] - y[r];
      // The turn that suits them best, by their weights.
      let c = wp * ax * ux + wq * (bx0 * vx + by0 * vy) + wr * (cx * sx - by0 * sy);
      let s = wp * ax * uy + wq * (bx0 * vy - by0 * vx) + wr * (cx * sy + by0 * sx);
      const size = Math.sqrt(c * c + s * s);
      c = size > 0 ? c / size : 1;
      s = size > 0 ? s / size : 0;
      const px = c * ax;
      const py = s * ax;
      const qx = c * bx0 - s * by0;
      const qy = s * bx0 + c * by0;
      const rx = c * cx + s * by0;
      const ry = s * cx - c * by0;
      bx[p] += wr * rx - wp * px;
      by[p] += wr * ry - wp * py;
      bx[q] += wp * px - wq * qx;
      by[q] += wp * py - wq * qy;
      bx[r] += wq * qx - wr * rx;
      by[r] += wq * qy - wr * ry;
      energy +=
        wp * ((ux - px) * (ux - px) + (uy - py) * (uy - py)) +
        wq * ((vx - qx) * (vx - qx) + (vy - qy) * (vy - qy)) +
        wr * ((sx - rx) * (sx - rx) + (sy - ry) * (sy - ry));
    }
    if (energy > before && on.ahead) {
      on.takeBack();
      continue;
    }
    if (before - energy < ENOUGH * energy || energy <= TRUE * area) break;
    before = energy;
    bx[order[n - 1]] += stiffest * x[order[n - 1]];
    by[order[n - 1]] += stiffest * y[order[n - 1]];
    ldl.solveBoth(bx, by);
    on.next([bx, by]);
  }
  const out = Float64Array.from({ length: 2 * n }, (_, c) => (c % 2 === 0 ? x : y)[c >> 1]);
  return out.every(Number.isFinite) ? out : null;
}

/** Brings places to the area that the triangles have, which it gives. */
function scaleToSize(corner: Uint32Array, flat: Float64Array, places: Float64Array): number {
  let [wanted, there] = [0, 0];
  for (let o = 0; o < corner.length; o += 3) {
    const [a, b, c] = [2 * corner[o], 2 * corner[o + 1], 2 * corner[o + 2]];
    wanted += flat[o] * flat[o + 2];
    there += Math.abs(
      (places[b] - places[a]) * (places[c + 1] - places[a + 1]) -
        (places[c] - places[a]) * (places[b + 1] - places[a + 1]),
    );
  }
  const scale = there > 0 ? Math.sqrt(wanted / there) : 1;
  for (let k = 0; k < places.length; k++) places[k] *= scale;
  return wanted / 2;
}

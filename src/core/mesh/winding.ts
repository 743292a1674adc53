/**
 * *Inside or outside of a mesh*, by how often it winds round a point. Of a closed mesh that is 1 inside and 0 outside; small
 * holes change it a little near them and nowhere else, so what is asked is whether it is more than a half. Far groups of
 * triangles count as one (G. Barill, N. G. Dickson, R. Schmidt, D. I. W. Levin, A. Jacobson, *Fast Winding Numbers for Soups
 * and Clouds*, ACM TOG 37(4), 2018).
 */

/** A group is taken as one from so many times its own radius on. */
const FAR = 3.2;
/** Groups of so few triangles are looked at one by one. */
const LEAF = 8;
/** Numbers a group has: middle, area-weighted normal, radius. */
const GROUP = 7;

export class Winding {
  readonly #position: ArrayLike<number>;
  readonly #index: Uint32Array;
  /** Triangles, so that each group's lie one behind the other. */
  readonly #order: Uint32Array;
  /** Groups as a heap: the two halves of group `g` are `2g + 1` and `2g + 2`. */
  readonly #groups: Float64Array;
  /** Where each group's triangles begin and end. */
  readonly #from: Uint32Array;
  readonly #to: Uint32Array;

  /**
   * @param position of vertices, 3v
   * @param index of triangles, 3m
   */
  constructor(position: ArrayLike<number>, index: Uint32Array) {
    this.#position = position;
    this.#index = index;
    const m = index.length / 3;
    this.#order = Uint32Array.from({ length: m }, (_, t) => t);
    let levels = 0;
    while (LEAF * 2 ** levels < m) levels++;
    const groups = 2 ** (levels + 1) - 1;
    this.#groups = new Float64Array(GROUP * groups);
    this.#from = new Uint32Array(groups);
    this.#to = new Uint32Array(groups);
    const middles = new Float64Array(3 * m);
    for (let t = 0; t < m; t++) {
      for (let axis = 0; axis < 3; axis++) {
        const [a, b, c] = [0, 1, 2].map((k) => position[3 * index[3 * t + k] + axis]);
        middles[3 * t + axis] = (a + b + c) / 3;
      }
    }
    this.#build(0, 0, m, middles);
  }

  /** How often the mesh winds round a point. */
  at(x: number, y: number, z: number): number {
    return this.#of(0, x, y, z) / (4 * Math.PI);
  }

  contains(x: number, y: number, z: number): boolean {
    return Math.abs(this.at(x, y, z)) > 0.5;
  }

  #build(group: number, from: number, to: number, middles: Float64Array): void {
    this.#from[group] = from;
    this.#to[group] = to;
    this.#sum(group, from, to, middles);
    if (2 * group + 2 >= this.#from.length) return;
    const order = this.#order.subarray(from, to);
    const axis = widest(order, middles);
    const half = (from + to) >> 1;
    halve(order, half - from, middles, axis);
    this.#build(2 * group + 1, from, half, middles);
    this.#build(2 * group + 2, half, to, middles);
  }

  #sum(group: number, from: number, to: number, middles: Float64Array): void {
    const [P, G] = [this.#position, this.#groups];
    const g = GROUP * group;
    let weight = 0;
    for (let k = from; k < to; k++) {
      const t = this.#order[k];
      const [a, b, c] = this.#corners(t);
      const [ux, uy, uz] = [P[b] - P[a], P[b + 1] - P[a + 1], P[b + 2] - P[a + 2]];
      const [vx, vy, vz] = [P[c] - P[a], P[c + 1] - P[a + 1], P[c + 2] - P[a + 2]];
      const normal = [(uy * vz - uz * vy) / 2, (uz * vx - ux * vz) / 2, (ux * vy - uy * vx) / 2];
      const area = Math.hypot(normal[0], normal[1], normal[2]);
      weight += area;
      for (let axis = 0; axis < 3; axis++) {
        G[g + axis] += area * middles[3 * t + axis];
        G[g + 3 + axis] += normal[axis];
      }
    }
    for (let axis = 0; axis < 3; axis++) G[g + axis] = weight > 0 ? G[g + axis] / weight : 0;
    for (let k = from; k < to; k++) {
      for (const p of this.#corners(this.#order[k])) {
        G[g + 6] = Math.max(G[g + 6], Math.hypot(P[p] - G[g], P[p + 1] - G[g + 1], P[p + 2] - G[g + 2]));
      }
    }
  }

  #corners(t: number): [number, number, number] {
    return [3 * this.#index[3 * t], 3 * this.#index[3 * t + 1], 3 * this.#index[3 * t + 2]];
  }

  /** The solid angle of a group. */
  #of(group: number, x: number, y: number, z: number): number {
    const G = this.#groups;
    const g = GROUP * group;
    const [dx, dy, dz] = [G[g] - x, G[g + 1] - y, G[g + 2] - z];
    const squared = dx * dx + dy * dy + dz * dz;
    const reach = FAR * G[g + 6];
    if (squared > reach * reach) {
      return (dx * G[g + 3] + dy * G[g + 4] + dz * G[g + 5]) / (squared * Math.sqrt(squared));
    }
    if (2 * group + 2 < this.#from.length) return this.#of(2 * group + 1, x, y, z) + this.#of(2 * group + 2, x, y, z);
    let sum = 0;
    for (let k = this.#from[group]; k < this.#to[group]; k++) sum += this.#solidAngle(this.#order[k], x, y, z);
    return sum;
  }

  /** The solid angle of a triangle (A. van Oosterom, J. Strackee, *The Solid Angle of a Plane Triangle*, 1983). */
  #solidAngle(t: number, x: number, y: number, z: number): number {
    const P = this.#position;
    const [a, b, c] = this.#corners(t);
    const [ax, ay, az] = [P[a] - x, P[a + 1] - y, P[a + 2] - z];
    const [bx, by, bz] = [P[b] - x, P[b + 1] - y, P[b + 2] - z];
    const [cx, cy, cz] = [P[c] - x, P[c + 1] - y, P[c + 2] - z];
    const la = Math.sqrt(ax * ax + ay * ay + az * az);
    const lb = Math.sqrt(bx * bx + by * by + bz * bz);
    const lc = Math.sqrt(cx * cx + cy * cy + cz * cz);
    const volume = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    const bottom =
      la * lb * lc +
      (ax * bx + ay * by + az * bz) * lc +
      (bx * cx + by * cy + bz * cz) * la +
      (cx * ax + cy * ay + cz * az) * lb;
    return 2 * Math.atan2(volume, bottom);
  }
}

/** Brings the lower `n` of some triangles along an axis before the others (C. A. R. Hoare, *Algorithm 65: Find*, 1961). */
function halve(order: Uint32Array, n: number, middles: Float64Array, axis: number): void {
  const at = (k: number) => middles[3 * order[k] + axis];
  let [low, high] = [0, order.length - 1];
  while (low < high) {
    const pivot = at((low + high) >> 1);
    let [i, j] = [low, high];
    while (i <= j) {
      while (at(i) < pivot) i++;
      while (at(j) > pivot) j--;
      if (i > j) break;
      const held = order[i];
      order[i++] = order[j];
      order[j--] = held;
    }
    if (n <= j) high = j;
    else if (n >= i) low = i;
    else return;
  }
}

/** The axis along which some triangles' middles lie farthest apart. */
function widest(order: Uint32Array, middles: Float64Array): number {
  const spans = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity];
    for (const t of order) {
      low = Math.min(low, middles[3 * t + axis]);
      high = Math.max(high, middles[3 * t + axis]);
    }
    return high - low;
  });
  return spans.indexOf(Math.max(...spans));
}

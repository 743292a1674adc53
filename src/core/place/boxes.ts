/**
 * Boxes of placements against each other, by the separating axis theorem (S. Gottschalk, M. C. Lin, D. Manocha, *OBBTree*,
 * SIGGRAPH 1996), once the cylinders around them meet. By footprint, what counts is a box's outline seen from above; by radius a
 * circle about it; and by mesh, boxes only tell whose meshes are to be compared.
 */
import { FLAG } from "./slots";
import { CYLINDER, Cylinders, HALF, levelReach, RADIUS } from "./cylinders";
import type { Placements } from "./placements";

/** Three half axes a box: 9 numbers. */
const AXES = 9;

/** Overlaps up to this share of the smaller box's radius, or a hundredth of a millimetre, count as touching. */
const TOUCH_SHARE = 1e-4;
const TOUCH = 1e-5;
/** Places are known to this share of their distance from the dressing's origin. */
const SINGLE = 2 ** -21;

/** `eachHit` compares a box with so many times as many others as it is to tell of. */
const CANDIDATES = 16;

/** How what stands is compared: by circles or footprints seen from above, by boxes in space, or by the meshes themselves. */
export type Shape = "radius" | "footprint" | "box" | "mesh";

/** Whether placement `i` meets placement `j`, asked of those whose boxes do. */
export type Exactly = (i: number, j: number) => boolean;

type Standing = Pick<Placements, "position" | "rotation" | "scale" | "prop" | "flags">;

/** *The boxes of some of a dressing's placements*, for asking which overlap. They are counted as in `members`. */
export class Boxes {
  readonly #cylinders: Cylinders;
  readonly #within: Float64Array;
  /** Those of the two boxes that are being compared. */
  readonly #axes = new Float64Array(2 * AXES);
  /** The member whose axes are written first there. */
  #first = -1;
  readonly #standing: Standing;
  readonly #members: Uint32Array;
  readonly #props: Float64Array;
  readonly #flat: boolean;
  readonly #round: boolean;
  readonly #room: number;
  readonly #exactly: Exactly | null;

  /**
   * @param standing where the placements stand
   * @param members indices of those whose boxes are asked for
   * @param props the middle of each prop's box and half its extents: 6 numbers a prop
   * @param room how much is to stay free between two boxes, metres; below zero they may overlap by so much
   * @param exactly asked where boxes meet, by their indices in `standing`; null where boxes are all there is to it
   */
  constructor(
    standing: Standing,
    members: Uint32Array,
    props: Float64Array,
    shape: Shape,
    room = 0,
    exactly: Exactly | null = null,
  ) {
    const n = members.length;
    this.#standing = standing;
    this.#members = members;
    this.#props = props;
    this.#cylinders = new Cylinders(n);
    this.#within = new Float64Array(n);
    this.#round = shape === "radius";
    this.#flat = shape === "footprint" || this.#round;
    this.#exactly = exactly;
    this.#room = room;
    let broadest = 0;
    for (let k = 0; k < n; k++) {
      this.set(k);
      broadest = Math.max(broadest, this.#cylinders.data[CYLINDER * k + RADIUS]);
    }
    this.#cylinders.reach(broadest);
  }

  /** Takes over where member `k` stands now. */
  set(k: number): void {
    this.#first = -1;
    const i = this.#members[k];
    const { position, rotation, scale, prop, flags } = this.#standing;
    const props = this.#props;
    const q = 4 * i;
    const x = rotation[q];
    const y = rotation[q + 1];
    const z = rotation[q + 2];
    const w = rotation[q + 3];
    const p = 6 * prop[i];
    const sx = scale[3 * i];
    const sy = scale[3 * i + 1];
    const sz = scale[3 * i + 2];
    const mx = props[p] * (flags[i] & FLAG.mirrored ? -sx : sx);
    const my = props[p + 1] * sy;
    const mz = props[p + 2] * sz;
    const hx = props[p + 3] * sx;
    const hy = props[p + 4] * sy;
    const hz = props[p + 5] * sz;
    const m00 = 1 - 2 * (y * y + z * z);
    const m20 = 2 * (x * z - w * y);
    const m01 = 2 * (x * y - w * z);
    const m21 = 2 * (y * z + w * x);
    const m02 = 2 * (x * z + w * y);
    const m22 = 1 - 2 * (x * x + y * y);
    const { data } = this.#cylinders;
    const o = CYLINDER * k;
    data[o] = position[3 * i] + m00 * mx + m01 * my + m02 * mz;
    data[o + 2] = position[3 * i + 2] + m20 * mx + m21 * my + m22 * mz;
    let around: number;
    let within = Math.min(hx, hy, hz);
    let half = 0;
    if (this.#round) around = within = Math.max(hx, hz);
    else {
      around = levelReach(m00 * hx, m20 * hx, m01 * hy, m21 * hy, m02 * hz, m22 * hz);
      // An upright box is seen from above by its own outline.
      if (this.#flat && m01 * m01 + m21 * m21 < 1e-12) within = Math.min(hx, hz);
    }
    if (this.#flat) data[o + 1] = 0;
    else {
      const m10 = 2 * (x * y + w * z);
      const m11 = 1 - 2 * (x * x + z * z);
      const m12 = 2 * (y * z - w * x);
      data[o + 1] = position[3 * i + 1] + m10 * mx + m11 * my + m12 * mz;
      half = Math.abs(m10) * hx + Math.abs(m11) * hy + Math.abs(m12) * hz + 0.5 * this.#room;
    }
    data[o + RADIUS] = around + 0.5 * this.#room;
    data[o + HALF] = half;
    this.#within[k] = within + 0.5 * this.#room;
  }

  /** Writes the half axes of a member's box at `o` into the room for two. */
  #writeAxes(k: number, o: number): void {
    const { rotation, scale, prop } = this.#standing;
    const i = this.#members[k];
    const x = rotation[4 * i];
    const y = rotation[4 * i + 1];
    const z = rotation[4 * i + 2];
    const w = rotation[4 * i + 3];
    const p = 6 * prop[i] + 3;
    const hx = this.#props[p] * scale[3 * i];
    const hy = this.#props[p + 1] * scale[3 * i + 1];
    const hz = this.#props[p + 2] * scale[3 * i + 2];
    const b = this.#axes;
    const level = this.#flat ? 0 : 1;
    b[o] = (1 - 2 * (y * y + z * z)) * hx;
    b[o + 1] = level * 2 * (x * y + w * z) * hx;
    b[o + 2] = 2 * (x * z - w * y) * hx;
    b[o + 3] = 2 * (x * y - w * z) * hy;
    b[o + 4] = level * (1 - 2 * (x * x + z * z)) * hy;
    b[o + 5] = 2 * (y * z + w * x) * hy;
    b[o + 6] = 2 * (x * z + w * y) * hz;
    b[o + 7] = level * 2 * (y * z - w * x) * hz;
    b[o + 8] = (1 - 2 * (x * x + y * y)) * hz;
  }

  /** By how much members `i` and `j` overlap by their boxes, or circles, metres, along the direction in which they overlap least; 0 where they are clear. */
  overlap(i: number, j: number): number {
    const { data } = this.#cylinders;
    const [p, q] = [CYLINDER * i, CYLINDER * j];
    const dx = data[q] - data[p];
    const dy = data[q + 1] - data[p + 1];
    const dz = data[q + 2] - data[p + 2];
    if (this.#round) return Math.max(0, data[p + RADIUS] + data[q + RADIUS] - Math.hypot(dx, dz) - TOUCH);
    const [a, c] = [0, AXES];
    if (this.#first !== i) this.#writeAxes(i, a);
    this.#first = i;
    this.#writeAxes(j, c);
    const share = TOUCH_SHARE * Math.min(this.#reach(a), this.#reach(c));
    const rounding = SINGLE * (Math.abs(data[p]) + Math.abs(data[p + 1]) + Math.abs(data[p + 2]));
    const touch = Math.max(TOUCH, share, rounding);
    const b = this.#axes;
    let least = Infinity;
    for (let k = 0; k < 18; k += 3) {
      const o = k < 9 ? a + k : c + k - 9;
      // Seen from above a box is bounded by edges along its axes; in space, by faces square to them.
      const by = this.#flat
        ? this.#depth(a, c, dx, dy, dz, -b[o + 2], 0, b[o])
        : this.#depth(a, c, dx, dy, dz, b[o], b[o + 1], b[o + 2]);
      if (by <= touch) return 0;
      if (by < least) least = by;
    }
    if (this.#flat) return least;
    for (let k = 0; k < 9; k += 3) {
      for (let l = 0; l < 9; l += 3) {
        const u = a + k;
        const v = c + l;
        const x = b[u + 1] * b[v + 2] - b[u + 2] * b[v + 1];
        const y = b[u + 2] * b[v] - b[u] * b[v + 2];
        const z = b[u] * b[v + 1] - b[u + 1] * b[v];
        // Of almost parallel edges the cross product says nothing that the faces have not said.
        const by = this.#depth(a, c, dx, dy, dz, x, y, z);
        if (by <= touch) return 0;
        if (by < least) least = by;
      }
    }
    return least;
  }

  /** How far a box reaches from its middle, by its half axes. */
  #reach(o: number): number {
    let sum = 0;
    for (let k = o; k < o + AXES; k++) sum += this.#axes[k] * this.#axes[k];
    return Math.sqrt(sum);
  }

  /** By how much two boxes overlap along a direction, metres; infinite along none. */
  #depth(a: number, c: number, dx: number, dy: number, dz: number, x: number, y: number, z: number): number {
    const length = Math.sqrt(x * x + y * y + z * z);
    if (!(length > 1e-12)) return Infinity;
    const reach = this.#extent(a, x, y, z) + this.#extent(c, x, y, z);
    return (reach - Math.abs(dx * x + dy * y + dz * z)) / length + this.#room;
  }

  #extent(k: number, x: number, y: number, z: number): number {
    const b = this.#axes;
    return (
      Math.abs(b[k] * x + b[k + 1] * y + b[k + 2] * z) +
      Math.abs(b[k + 3] * x + b[k + 4] * y + b[k + 5] * z) +
      Math.abs(b[k + 6] * x + b[k + 7] * y + b[k + 8] * z)
    );
  }

  /** Whether boxes overlap for certain, by the spheres within them: a quick answer for many. */
  #surely(i: number, j: number): boolean {
    const { data } = this.#cylinders;
    const within = this.#within[i] + this.#within[j] - 2 * TOUCH;
    const [p, q] = [CYLINDER * i, CYLINDER * j];
    const dx = data[q] - data[p];
    const dy = data[q + 1] - data[p + 1];
    const dz = data[q + 2] - data[p + 2];
    return within > 0 && dx * dx + dy * dy + dz * dz < 0.99 * within * within;
  }

  /** Puts box `i` into the grid. */
  put(i: number): void {
    this.#cylinders.put(i);
  }

  /** A box in the grid that overlaps box `i`, or -1. */
  hit(i: number): number {
    const count = this.#cylinders.gather(i);
    const { found } = this.#cylinders;
    for (let k = 0; k < count; k++) if (this.#meet(i, found[k])) return found[k];
    return -1;
  }

  #meet(i: number, j: number): boolean {
    if (!this.#exactly) return this.#surely(i, j) || this.overlap(i, j) > 0;
    return this.overlap(i, j) > 0 && this.#exactly(this.#members[i], this.#members[j]);
  }

  /**
   * Calls `found` for at most so many of the boxes in the grid that overlap box `i`, with by how much. Where many crowd on
   * one spot, not even all that are near are looked at: what is wrong there is known after a few.
   *
   * @param passes tells of box `i` and another whether they are not to be compared
   */
  eachHit(
    i: number,
    most: number,
    passes: (i: number, other: number) => boolean,
    found: (other: number, by: number) => void,
  ): void {
    const count = this.#cylinders.gather(i, CANDIDATES * most);
    for (let k = 0, hits = 0; k < count && hits < most; k++) {
      const j = this.#cylinders.found[k];
      if (passes(i, j)) continue;
      const by = this.overlap(i, j);
      if (by <= 0 || (this.#exactly && !this.#exactly(this.#members[i], this.#members[j]))) continue;
      hits++;
      found(j, by);
    }
  }
}

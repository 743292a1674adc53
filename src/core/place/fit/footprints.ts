/** *Footprints of props that are bent over a surface*, as they lie there: their boxes say nothing of them any more. */
import { rotate, type Quat, type Vec3 } from "../../math";
import { entryOf, facetsOf, Piece, pieceOf, type PropBounds, type Shapes } from "../../mesh";
import { FLAG, NO_PROP, type Slots } from "../slots";

/** So many places a side of a footprint are looked at. */
export const LOOKS = 7;

/** Places all over a prop's footprint, left and ahead of the foot, row by row, so many side by side and behind each other. */
export function placesOf(
  m: ArrayLike<number>,
  { min, max }: PropBounds,
  counts: readonly [left: number, ahead: number] = [LOOKS, LOOKS],
): [left: number, ahead: number][] {
  const across = [0, 2].map((row, side) => {
    const middle = [0, 1, 2].reduce((sum, k) => sum + (m[4 * row + k] * (min[k] + max[k])) / 2, m[4 * row + 3]);
    const half = [0, 1, 2].reduce((sum, k) => sum + (Math.abs(m[4 * row + k]) * (max[k] - min[k])) / 2, 0);
    const n = counts[side];
    return Array.from({ length: n }, (_, k) => middle + half * ((2 * k) / (n - 1) - 1));
  });
  return across[0].flatMap((left) => across[1].map((ahead): [number, number] => [left, ahead]));
}

/** A footprint's cells: so many over its shorter side, at most so many over the longer one. */
const [SHORT, LONG] = [6, 48];
/** No more are compared. */
const [MOST, PAIRS] = [500, 20_000];
/** Facets look the same way where their normals agree by more than this, as a cosine. */
const SAME_WAY = 0.3;

/** A footprint as it lies on the surface: triangles with their corners, 9 numbers each, and unit normals. */
interface Footprint {
  i: number;
  corners: Float64Array;
  normals: Float64Array;
  least: number[];
  most: number[];
  /** How far one of its triangles reaches, metres. */
  reach: number;
}

/** The footprints of those among some placements that are bent over a surface; no more than are compared. */
export function footprintsOf(
  shapes: Shapes,
  members: Iterable<number>,
  boundsOf: (i: number) => PropBounds | undefined,
): Footprint[] {
  const all: Footprint[] = [];
  for (const i of members) {
    const entry = entryOf(shapes, i);
    const bounds = boundsOf(i);
    if (entry < 0 || !bounds || pieceOf(shapes, shapes.form[entry]).length === 0) continue;
    if (all.push(footprintOf(shapes, entry, i, bounds)) === MOST) break;
  }
  return all;
}

/** Pairs of those that lie over each other, by the indices of their placements. */
export function* lyingOver(all: readonly Footprint[]): Generator<[number, number]> {
  for (const [a, b] of pairsOf(all)) if (liesOn(a, b) || liesOn(b, a)) yield [a.i, b.i];
}

/**
 * Flags with those of bent placements marked that give way to one before them; the very same where none does.
 *
 * @param boxes of the props: middles and halves, 6 numbers each
 * @param room metres that stay free between two
 */
export function partedOver(
  shapes: Shapes,
  { count, prop }: Pick<Slots, "count" | "prop">,
  before: Uint16Array,
  boxes: Float64Array,
  room: number,
): Uint16Array {
  const stands = (i: number) => prop[i] !== NO_PROP && !(before[i] & FLAG.blank);
  const boundsOf = (i: number): PropBounds => {
    const box = boxes.subarray(6 * prop[i], 6 * prop[i] + 6);
    const end = (sign: number): Vec3 =>
      [0, 1, 2].map((k) => box[k] + sign * (box[3 + k] + room / 2)) as unknown as Vec3;
    return { min: end(-1), max: end(1) };
  };
  const members = Array.from({ length: count }, (_, i) => i).filter(stands);
  const over = new Map<number, number[]>();
  for (const [a, b] of lyingOver(footprintsOf(shapes, members, boundsOf))) {
    const later = Math.max(a, b);
    over.set(later, [...(over.get(later) ?? []), Math.min(a, b)]);
  }
  if (over.size === 0) return before;
  const flags = before.slice();
  // Who has given way is in nobody's way.
  for (const i of [...over.keys()].sort((a, b) => a - b))
    if (over.get(i)!.some((other) => !(flags[other] & FLAG.blank))) flags[i] |= FLAG.blank | FLAG.crowded;
  return flags;
}

function footprintOf(shapes: Shapes, entry: number, i: number, bounds: PropBounds): Footprint {
  const form = shapes.form[entry];
  const matrix = shapes.matrix.subarray(12 * form, 12 * form + 12);
  const [wide, deep] = [0, 2].map((row) =>
    [0, 1, 2].reduce((sum, k) => sum + Math.abs(matrix[4 * row + k]) * (bounds.max[k] - bounds.min[k]), 0),
  );
  const cells = (own: number, other: number) =>
    Math.min(LONG, Math.max(SHORT, Math.round((SHORT * own) / Math.min(own, other)) || SHORT));
  const [across, along] = [cells(wide, deep), cells(deep, wide)];
  const flat = placesOf(matrix, bounds, [across + 1, along + 1]);
  const points = new Piece(pieceOf(shapes, form)).carry(
    Float64Array.from(flat.flatMap(([left, ahead]) => [left, 0, ahead])),
  );
  const [x, y, z, ...turn] = shapes.frame.subarray(7 * entry, 7 * entry + 7);
  const world = Array.from({ length: flat.length }, (_, k) => {
    const [px, py, pz] = rotate(turn as unknown as Quat, [points[3 * k], points[3 * k + 1], points[3 * k + 2]]);
    return [x + px, y + py, z + pz];
  });
  const corners: number[] = [];
  for (let a = 0; a < across; a++) {
    for (let b = 0; b < along; b++) {
      const [p, q, r, s] = [(along + 1) * a + b, (along + 1) * (a + 1) + b, (along + 1) * (a + 1) + b + 1, (along + 1) * a + b + 1]; // prettier-ignore
      for (const v of [p, q, r, p, r, s]) corners.push(...world[v]);
    }
  }
  return measured(i, Float64Array.from(corners));
}

function measured(i: number, corners: Float64Array): Footprint {
  const out: Footprint = {
    i,
    corners,
    normals: facetsOf({ position: corners, index: Uint32Array.from({ length: corners.length / 3 }, (_, c) => c) })
      .normal,
    least: [Infinity, Infinity, Infinity],
    most: [-Infinity, -Infinity, -Infinity],
    reach: 0,
  };
  for (let c = 0; c < corners.length; c++) {
    out.least[c % 3] = Math.min(out.least[c % 3], corners[c]);
    out.most[c % 3] = Math.max(out.most[c % 3], corners[c]);
  }
  for (let c = 0; c < corners.length; c += 9)
    for (const k of [3, 6])
      out.reach = Math.max(
        out.reach,
        Math.hypot(...[0, 1, 2].map((axis) => corners[c + k + axis] - corners[c + axis])),
      );
  return out;
}

/** Those whose boxes come near each other, by sweeping along x. */
function* pairsOf(all: readonly Footprint[]): Generator<[Footprint, Footprint]> {
  const order = [...all].sort((a, b) => a.least[0] - b.least[0]);
  let told = 0;
  for (let k = 0; k < order.length; k++) {
    const a = order[k];
    for (let n = k + 1; n < order.length && order[n].least[0] <= a.most[0]; n++) {
      const b = order[n];
      if ([1, 2].some((axis) => b.least[axis] > a.most[axis] || b.most[axis] < a.least[axis])) continue;
      if (told++ === PAIRS) return;
      yield [a, b];
    }
  }
}

/** Whether the middle of a triangle of one lies on the other, on the same side of the surface. */
function liesOn(one: Footprint, other: Footprint): boolean {
  for (let t = 0; t < one.normals.length / 3; t++) {
    const at = [0, 1, 2].map((axis) => [0, 3, 6].reduce((sum, k) => sum + one.corners[9 * t + k + axis], 0) / 3);
    if (at.some((value, axis) => value < other.least[axis] - other.reach || value > other.most[axis] + other.reach))
      continue;
    const normal = one.normals.subarray(3 * t, 3 * t + 3);
    for (let o = 0; o < other.normals.length / 3; o++) if (covers(other, o, at as unknown as Vec3, normal)) return true;
  }
  return false;
}

function covers({ corners, normals, reach }: Footprint, t: number, at: Vec3, facing: Float64Array): boolean {
  const n = normals.subarray(3 * t, 3 * t + 3);
  if (n[0] * facing[0] + n[1] * facing[1] + n[2] * facing[2] < SAME_WAY) return false;
  const from = (k: number) => [0, 1, 2].map((axis) => at[axis] - corners[9 * t + 3 * k + axis]);
  const [px, py, pz] = from(0);
  if (Math.abs(px * n[0] + py * n[1] + pz * n[2]) > reach) return false;
  // On the same side of all three edges, seen along the normal.
  for (let k = 0; k < 3; k++) {
    const [x, y, z] = from(k);
    const [ex, ey, ez] = [0, 1, 2].map(
      (axis) => corners[9 * t + 3 * ((k + 1) % 3) + axis] - corners[9 * t + 3 * k + axis],
    );
    if (n[0] * (ey * z - ez * y) + n[1] * (ez * x - ex * z) + n[2] * (ex * y - ey * x) < 0) return false;
  }
  return true;
}

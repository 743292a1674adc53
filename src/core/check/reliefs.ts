/**
 * Reliefs that run into each other: what is pinned and bent over a surface lies over another such thing there. Their boxes say
 * nothing of it any more, so their footprints are laid over the surface and compared.
 */
import { entryOf, facetsOf, Piece, pieceOf, type PropBounds, type Shapes } from "../mesh";
import { rotate, type Quat, type Vec3 } from "../math";
import { kindOf } from "../place";
import { isStanding } from "./rows";
import { placesOf } from "./under";
import { say, naming, props, type Check } from "./finding";

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

export const reliefs: Check = {
  name: "reliefs",
  label: "Overlapping reliefs",
  find({ dressing, placements: p, box }) {
    const { shapes } = p;
    if (!shapes || !dressing.fit.bend || !kindOf(dressing.where).pins || shapes.pieces.length === 0) return [];
    const all: Footprint[] = [];
    for (let i = 0; i < p.count && all.length < MOST; i++) {
      const entry = entryOf(shapes, i);
      const bounds = box(p.props[p.prop[i]]);
      if (entry < 0 || !bounds || !isStanding(p, i) || pieceOf(shapes, shapes.form[entry]).length === 0) continue;
      all.push(footprintOf(shapes, entry, i, bounds));
    }
    const members = new Set<number>();
    for (const [a, b] of pairsOf(all)) {
      if (!liesOn(a, b) && !liesOn(b, a)) continue;
      members.add(a.i).add(b.i);
    }
    if (members.size === 0) return [];
    const named = [...members].sort((a, b) => a - b);
    return [
      {
        check: "reliefs",
        dressing: dressing.id,
        ...naming(p, named),
        message: say`${props(named.length)} that are bent over the surface lie over each other there.`,
      },
    ];
  },
};

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

/** *Creases under a prop that is bent over a surface laid flat*: edges of the surface where it breaks. */
import { cornerOf, PIECE, type WorldMesh } from "../../mesh";
import type { Reach } from "./neighbourhood";

/** What lies as near to the rim of a reach as this, as a share of it, lies along the rim. */
const RIM = 0.03;
/** Corners are the same within this share of the reach. */
const SAME = 1e-5;

/**
 * How sharply the facets of a surface meet at an edge that leads through a prop's reach, at most, radians.
 *
 * @param triangles those of the surface that the piece has, in its order
 */
export function creaseUnder(
  ground: WorldMesh,
  triangles: readonly number[],
  piece: Float64Array,
  reach: Reach,
): number {
  const { beyond } = ground.rest;
  let sharpest = 1;
  triangles.forEach((t, own) => {
    for (let k = 0; k < 3; k++) {
      const other = beyond[3 * t + k];
      if (other < 0 || other === t) continue;
      const cosine = cosineAt(ground, t, k, other);
      if (cosine >= sharpest) continue;
      const [a, b] = [cornerOf(PIECE * own, k), cornerOf(PIECE * own, (k + 1) % 3)];
      // On the sheet they may lie apart, where it is cut along that edge.
      if (leadsThrough(piece, a, b, reach) && liesThere(triangles, piece, other, a, reach)) sharpest = cosine;
    }
  });
  return Math.acos(Math.max(-1, sharpest));
}

/** The cosine of the angle by which a triangle is turned against the one beyond its edge `k`, whichever side each shows. */
function cosineAt(
  { facets: { normal }, position, index, rest: { beyond } }: WorldMesh,
  t: number,
  k: number,
  other: number,
): number {
  let e = 0;
  while (e < 2 && beyond[3 * other + e] !== t) e++;
  const [a, b, c, d] = [cornerAt(index, t, k), cornerAt(index, t, k + 1), cornerAt(index, other, e), cornerAt(index, other, e + 1)]; // prettier-ignore
  let [alike, cosine] = [0, 0];
  for (let axis = 0; axis < 3; axis++) {
    alike += (position[b + axis] - position[a + axis]) * (position[d + axis] - position[c + axis]);
    cosine += normal[3 * t + axis] * normal[3 * other + axis];
  }
  return alike < 0 ? cosine : -cosine;
}

/** Where the numbers of a triangle's corner begin among the positions. */
const cornerAt = (index: WorldMesh["index"], t: number, k: number): number => 3 * index[3 * t + (k % 3)];

/** Whether a triangle has a corner where that at `a` lies on the sheet. */
function liesThere(
  triangles: readonly number[],
  piece: Float64Array,
  t: number,
  a: number,
  [l0, a0, l1, a1]: Reach,
): boolean {
  // prettier-ignore
  const near = SAME * Math.max(l1 - l0, a1 - a0);
  return triangles.some(
    (one, own) =>
      one === t &&
      [0, 1, 2].some((k) => {
        const c = cornerOf(PIECE * own, k);
        return Math.abs(piece[c] - piece[a]) <= near && Math.abs(piece[c + 1] - piece[a + 1]) <= near;
      }),
  );
}

/** Whether an edge leads through the inside of a rectangle (Liang and Barsky's clipping). */
function leadsThrough(piece: Float64Array, a: number, b: number, reach: Reach): boolean {
  let [from, to] = [0, 1];
  for (let k = 0; k < 2; k++) {
    const margin = RIM * (reach[2 + k] - reach[k]);
    const [low, high] = [reach[k] + margin, reach[2 + k] - margin];
    const [start, way] = [piece[a + k], piece[b + k] - piece[a + k]];
    if (way === 0 && (start <= low || start >= high)) return false;
    if (way === 0) continue;
    const [one, other] = [(low - start) / way, (high - start) / way];
    [from, to] = [Math.max(from, Math.min(one, other)), Math.min(to, Math.max(one, other))];
  }
  return from < to;
}

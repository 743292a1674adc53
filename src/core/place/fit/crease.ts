/** *Creases under a prop that is bent over a surface laid flat*: edges of the surface where it breaks. */
import { dot, subtract, vectorAt } from "../../math";
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
  // prettier-ignore
  let e = 0;
  while (e < 2 && beyond[3 * other + e] !== t) e++;
  const edge = (triangle: number, from: number) =>
    subtract(
      vectorAt(position, index[3 * triangle + ((from + 1) % 3)]),
      vectorAt(position, index[3 * triangle + from]),
    );
  const sense = dot(edge(t, k), edge(other, e)) < 0 ? 1 : -1;
  return sense * dot(vectorAt(normal, t), vectorAt(normal, other));
}

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
function leadsThrough(piece: Float64Array, a: number, b: number, [l0, a0, l1, a1]: Reach): boolean {
  let [from, to] = [0, 1];
  for (const [k, [low, high]] of [
    [l0, l1],
    [a0, a1],
  ].entries()) {
    // prettier-ignore
    const inside = [low + RIM * (high - low), high - RIM * (high - low)];
    const [start, way] = [piece[a + k], piece[b + k] - piece[a + k]];
    if (way === 0 && (start <= inside[0] || start >= inside[1])) return false;
    if (way === 0) continue;
    const shares = inside.map((value) => (value - start) / way).sort((x, y) => x - y);
    [from, to] = [Math.max(from, shares[0]), Math.min(to, shares[1])];
  }
  return from < to;
}

/** *Creases under a prop that is bent over a surface*: edges of the surface where it breaks. */
import { cross, dot, lengthOf, subtract, vectorAt, type Vec3 } from "../../math";
import { PIECE } from "../../mesh";
import type { Reach } from "./neighbourhood";

/** Ends of edges are the same within this share of the reach. */
const FINE = 1e-5;
/** What lies as near to the rim of a reach as this, as a share of it, lies along the rim. */
const RIM = 0.03;

/** How sharply the facets of a piece meet at an edge that leads through a prop's reach, at most, radians. */
export function creaseUnder(piece: Float64Array, [l0, a0, l1, a1]: Reach): number {
  const grain = FINE * Math.max(l1 - l0, a1 - a0) || 1;
  const name = (o: number) => `${Math.round(piece[o] / grain)} ${Math.round(piece[o + 1] / grain)}`;
  const edges = new Map<string, number>();
  let sharpest = 0;
  for (let t = 0; t < piece.length; t += PIECE) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [corner(t, k), corner(t, (k + 1) % 3)];
      const other = edges.get(`${name(b)} ${name(a)}`);
      if (other === undefined) edges.set(`${name(a)} ${name(b)}`, t);
      else if (leadsThrough(piece, a, b, [l0, l1], [a0, a1]))
        sharpest = Math.max(sharpest, angleBetween(piece, t, other));
    }
  }
  return sharpest;
}

/** Corner k of the triangle at `t`: left, ahead, position (3), normal (3). */
const corner = (t: number, k: number): number => t + (k * PIECE) / 3;

/** The angle by which one triangle is turned against another, radians. */
function angleBetween(piece: Float64Array, t: number, other: number): number {
  const [u, v] = [t, other].map((o) => facing(piece, o));
  return Math.atan2(lengthOf(cross(u, v)), dot(u, v));
}

function facing(piece: Float64Array, t: number): Vec3 {
  const [a, b, c] = [0, 1, 2].map((k) => vectorAt(piece.subarray(corner(t, k) + 2), 0));
  return cross(subtract(b, a), subtract(c, a));
}

/** Whether an edge leads through the inside of a rectangle (Liang and Barsky's clipping). */
function leadsThrough(piece: Float64Array, a: number, b: number, ...sides: (readonly [number, number])[]): boolean {
  let [from, to] = [0, 1];
  for (const [k, [low, high]] of sides.entries()) {
    const inside = [low + RIM * (high - low), high - RIM * (high - low)];
    const [start, way] = [piece[a + k], piece[b + k] - piece[a + k]];
    if (way === 0 && (start <= inside[0] || start >= inside[1])) return false;
    if (way === 0) continue;
    const shares = inside.map((value) => (value - start) / way).sort((x, y) => x - y);
    [from, to] = [Math.max(from, shares[0]), Math.min(to, shares[1])];
  }
  return from < to;
}

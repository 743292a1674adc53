/** *How much a flat part is stretched*: the singular values of the way from each triangle to its place. */
import type { Disk } from "./disk";

export interface Stretch {
  /** How many times as long as it was a way becomes at most and at least: m each; 1 for triangles without area. */
  most: Float64Array;
  least: Float64Array;
  /** How many triangles have turned over. */
  flipped: number;
}

/** @param places of the vertices, x and y: 2n */
export function stretchOf({ corner, flat }: Pick<Disk, "corner" | "flat">, places: Float64Array): Stretch {
  const m = corner.length / 3;
  const out: Stretch = { most: new Float64Array(m).fill(1), least: new Float64Array(m).fill(1), flipped: 0 };
  for (let t = 0, o = 0; t < m; t++, o += 3) {
    const [side, along, high] = [flat[o], flat[o + 1], flat[o + 2]];
    if (!(high > 0)) continue;
    const [a, b, c] = [2 * corner[o], 2 * corner[o + 1], 2 * corner[o + 2]];
    const ux = (places[b] - places[a]) / side;
    const uy = (places[b + 1] - places[a + 1]) / side;
    const vx = (places[c] - places[a] - along * ux) / high;
    const vy = (places[c + 1] - places[a + 1] - along * uy) / high;
    const turn = Math.hypot(ux + vy, uy - vx) / 2;
    const flip = Math.hypot(ux - vy, uy + vx) / 2;
    out.most[t] = turn + flip;
    out.least[t] = Math.abs(turn - flip);
    if (ux * vy - uy * vx <= 0) out.flipped++;
  }
  return out;
}

/** By how many times lengths are off, of all but a share of the area, and at most; 1 where they are true. */
export function worstOf(
  { most, least }: Pick<Stretch, "most" | "least">,
  area: ArrayLike<number>,
  share: number,
): number {
  const off = Array.from(most, (value, t) => [Math.max(value, 1 / Math.max(least[t], 1e-9)), area[t]] as const);
  off.sort((a, b) => b[0] - a[0]);
  let left = share * off.reduce((sum, [, own]) => sum + own, 0);
  for (const [value, own] of off) {
    left -= own;
    if (left < 0) return value;
  }
  return off.at(-1)?.[0] ?? 1;
}

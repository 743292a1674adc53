/** *What lies under a prop that is bent over a surface*: places of its footprint, and tears between what lies side by side there. */
import { cornerOf, Piece, PIECE, type PropBounds } from "../mesh";
import { TORN } from "../place";

/** So many places a side of a footprint are looked at. */
const LOOKS = 7;

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

/** How far a place is from what of the surface is laid flat; 0 on it. */
export function distanceTo(piece: Float32Array, x: number, y: number): number {
  let least = Infinity;
  for (let t = 0; t < piece.length && least > 0; t += PIECE) {
    const P = [0, 1, 2].map((k) => [piece[cornerOf(t, k)] - x, piece[cornerOf(t, k) + 1] - y]);
    const turns = P.map(([ax, ay], k) => ax * P[(k + 1) % 3][1] - ay * P[(k + 1) % 3][0]);
    if (turns.every((turn) => turn >= 0) || turns.every((turn) => turn <= 0)) return 0;
    P.forEach(([ax, ay], k) => {
      const [dx, dy] = [P[(k + 1) % 3][0] - ax, P[(k + 1) % 3][1] - ay];
      const share = Math.max(0, Math.min(1, -(ax * dx + ay * dy) / (dx * dx + dy * dy || 1)));
      least = Math.min(least, Math.hypot(ax + share * dx, ay + share * dy));
    });
  }
  return least;
}

/**
 * By how much places side by side on the sheet lie farther apart on the surface than the rest of it is stretched, metres.
 *
 * @param away how far each of them is from the piece, metres: what hangs over a rim is no nearer to one side of it than to the other
 */
export function tearUnder(
  piece: Float32Array,
  places: readonly (readonly [number, number])[],
  away: readonly number[],
): number {
  const points = Float64Array.from(places.flatMap(([left, ahead]) => [left, 0, ahead]));
  const there = new Piece(piece).carry(points);
  let widest = 0;
  const alongRows = (at: (row: number, k: number) => number) => {
    const steps: { ratio: number; flat: number }[] = [];
    for (let row = 0; row < LOOKS; row++) {
      let last = -1;
      for (let k = 0; k < LOOKS; k++) {
        const i = at(row, k);
        if (away[i] > 0) continue;
        if (last >= 0) {
          const [flat, now] = [points, there].map((all) => Math.hypot(...[0, 1, 2].map((axis) => all[3 * i + axis] - all[3 * last + axis]))); // prettier-ignore
          steps.push({ ratio: now / flat, flat });
        }
        last = i;
      }
    }
    // A sheet may be stretched, more so one way than the other: what counts is what most of it does that way.
    const usual = steps.map(({ ratio }) => ratio).sort((a, b) => a - b)[steps.length >> 1];
    for (const { ratio, flat } of steps) if (ratio > TORN * usual) widest = Math.max(widest, (ratio - usual) * flat);
  };
  alongRows((row, k) => LOOKS * row + k);
  alongRows((row, k) => LOOKS * k + row);
  return widest;
}

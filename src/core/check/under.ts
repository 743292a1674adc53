/** *What lies under a prop that is bent over a surface*: how far its footprint is from the surface, and tears between what lies side by side there. */
import { squaredToSegment } from "../math";
import { cornerOf, PIECE, type Piece } from "../mesh";
import { LOOKS, TORN } from "../place";

/** How far places (left and ahead) are from what of the surface is laid flat, metres; 0 on it. */
export function distancesTo(
  piece: Float32Array,
  bent: Piece,
  places: readonly (readonly [number, number])[],
): number[] {
  const covered = bent.covers(pointsAt(places));
  return places.map(([left, ahead], k) => (covered[k] ? 0 : distanceTo(piece, left, ahead)));
}

const pointsAt = (places: readonly (readonly [number, number])[]): Float64Array =>
  Float64Array.from(places.flatMap(([left, ahead]) => [left, 0, ahead]));

function distanceTo(piece: Float32Array, x: number, y: number): number {
  let least = Infinity;
  for (let t = 0; t < piece.length && least > 0; t += PIECE) {
    const [a, b, c] = [cornerOf(t, 0), cornerOf(t, 1), cornerOf(t, 2)];
    const [ax, ay, bx, by] = [piece[a] - x, piece[a + 1] - y, piece[b] - x, piece[b + 1] - y];
    const [cx, cy] = [piece[c] - x, piece[c + 1] - y];
    const [atC, atA, atB] = [ax * by - ay * bx, bx * cy - by * cx, cx * ay - cy * ax];
    if ((atA >= 0 && atB >= 0 && atC >= 0) || (atA <= 0 && atB <= 0 && atC <= 0)) return 0;
    least = Math.min(
      least,
      squaredToSegment(-ax, -ay, 0, bx - ax, by - ay, 0),
      squaredToSegment(-bx, -by, 0, cx - bx, cy - by, 0),
      squaredToSegment(-cx, -cy, 0, ax - cx, ay - cy, 0),
    );
  }
  return Math.sqrt(least);
}

/**
 * By how much places side by side on the sheet lie farther apart on the surface than the rest of it is stretched, metres.
 *
 * @param away how far each of them is from the piece, metres: what hangs over a rim is no nearer to one side of it than to the other
 */
export function tearUnder(
  bent: Piece,
  places: readonly (readonly [number, number])[],
  away: readonly number[],
): number {
  const points = pointsAt(places);
  const there = bent.carry(points);
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

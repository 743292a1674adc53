/** Whether places lie within a distance of a line: the line as short straight pieces, sorted into cells. */
import type { GuideLine } from "../../line";
import type { Frames } from "../frames";

/** A line is cut into pieces of at most this share of the distance asked for, and at most so many. */
const PIECE = 0.25;
const MAX_PIECES = 200_000;

/** Tells for the index of a foot whether it lies nearer to the line than `distance` metres. */
export function nearLine(line: GuideLine, distance: number, { origin, feet }: Frames): (i: number) => boolean {
  const { curve } = line;
  if (!(curve.length > 0) || distance === 0) return () => false;
  const pieces = Math.min(MAX_PIECES, Math.max(1, Math.ceil(curve.length / Math.max(PIECE * distance, 1e-3))));
  const n = pieces + 1;
  const at = Float64Array.from({ length: n }, (_, i) => (curve.length * i) / pieces);
  const points = new Float64Array(3 * n);
  // A closed line's last place is its first one again, which is where its last piece ends.
  curve.sample(at, n, points, new Float64Array(3 * n));

  const cell = Math.max(distance, curve.length / pieces);
  const cells = new Map<string, number[]>();
  const name = (x: number, y: number, z: number) =>
    `${Math.floor(x / cell)} ${Math.floor(y / cell)} ${Math.floor(z / cell)}`;
  for (let p = 0; p < pieces; p++) {
    const o = 3 * p;
    const key = name(points[o], points[o + 1], points[o + 2]);
    const list = cells.get(key);
    if (list) list.push(p);
    else cells.set(key, [p]);
  }
  return (i) => {
    const x = origin[0] + feet[3 * i];
    const y = origin[1] + feet[3 * i + 1];
    const z = origin[2] + feet[3 * i + 2];
    // A piece is no longer than a cell, so one that comes near begins at most two cells away.
    for (let dx = -2; dx <= 2; dx++) {
      for (let dy = -2; dy <= 2; dy++) {
        for (let dz = -2; dz <= 2; dz++) {
          const list = cells.get(name(x + dx * cell, y + dy * cell, z + dz * cell));
          if (list?.some((p) => distanceToPiece(points, p, x, y, z) < distance)) return true;
        }
      }
    }
    return false;
  };
}

function distanceToPiece(points: Float64Array, p: number, x: number, y: number, z: number): number {
  const o = 3 * p;
  const [ax, ay, az] = [x - points[o], y - points[o + 1], z - points[o + 2]];
  const [bx, by, bz] = [points[o + 3] - points[o], points[o + 4] - points[o + 1], points[o + 5] - points[o + 2]];
  const squared = bx * bx + by * by + bz * bz;
  const share = squared > 0 ? Math.max(0, Math.min(1, (ax * bx + ay * by + az * bz) / squared)) : 0;
  return Math.hypot(ax - share * bx, ay - share * by, az - share * bz);
}

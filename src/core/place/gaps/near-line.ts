/** Whether places lie within a distance of a line: the line as short straight pieces, sorted into cells. */
import { squaredToSegment } from "../../math";
import { PointGrid } from "../../mesh";
import type { GuideLine } from "../../line";
import type { Frames } from "../frames";

/** A line is cut into pieces of at most this share of the distance asked for, and at most so many. */
const PIECE = 0.25;
const MAX_PIECES = 200_000;
/** What rounding may take from a reach, as a share. */
const SLACK = 1e-9;

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

  // What is nearer to a piece than asked for is no farther than that and the piece's length from where it begins.
  const reach = distance + curve.length / pieces;
  const starts = new PointGrid(pieces);
  for (let p = 0; p < pieces; p++) starts.push(points[3 * p], points[3 * p + 1], points[3 * p + 2]);
  starts.resize(reach);
  return (i) => {
    const x = origin[0] + feet[3 * i];
    const y = origin[1] + feet[3 * i + 1];
    const z = origin[2] + feet[3 * i + 2];
    const near = starts.gather(x, y, z, reach * (1 + SLACK));
    for (let k = 0; k < near; k++) if (squaredToPiece(points, starts.near[k], x, y, z) < distance ** 2) return true;
    return false;
  };
}

function squaredToPiece(points: Float64Array, p: number, x: number, y: number, z: number): number {
  const [ax, ay, az, bx, by, bz] = points.subarray(3 * p, 3 * p + 6);
  return squaredToSegment(x - ax, y - ay, z - az, bx - ax, by - ay, bz - az);
}

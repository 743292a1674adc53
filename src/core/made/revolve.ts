/** A line that goes round an axis. */
import { fromAxisAngle, normalize, rotate, subtract, type Vec3 } from "../math";
import { pointsWithKnots } from "./along";
import { latticeMesh } from "./lattice";
import type { GuideLine } from "../line";
import type { TriangleMesh } from "../mesh";
import type { Revolve } from "./schema";

/** The line is cut into so many pieces. */
export const REVOLVED_PIECES = 96;
const AXES = { up: [0, 1, 0], east: [1, 0, 0], south: [0, 0, 1] } as const satisfies Record<string, Vec3>;

/** Null where there is no line, or no axis. */
export function revolve(made: Revolve, guides: ReadonlyMap<string, GuideLine>): TriangleMesh | null {
  const line = guides.get(made.line ?? "");
  const axis = axisOf(made, guides);
  if (!line || line.curve.length === 0 || !axis) return null;
  const points = pointsWithKnots(line.curve, REVOLVED_PIECES);
  const closed = made.turn >= 2 * Math.PI - 1e-9;
  const turns = Array.from({ length: made.pieces + 1 }, (_, i) =>
    fromAxisAngle(axis.direction, closed && i === made.pieces ? 0 : (made.turn * i) / made.pieces),
  );
  const { through } = axis;
  return latticeMesh({
    rows: REVOLVED_PIECES + 1,
    columns: made.pieces + 1,
    flip: made.flip !== facesInward(points, axis),
    point(row, column, out) {
      const from: Vec3 = [0, 1, 2].map((k) => points[3 * row + k] - through[k]) as unknown as Vec3;
      const [x, y, z] = rotate(turns[column], from);
      out[0] = through[0] + x;
      out[1] = through[1] + y;
      out[2] = through[2] + z;
    },
  });
}

interface Axis {
  direction: Vec3;
  through: Vec3;
}

function axisOf({ axis, axisLine, through }: Revolve, guides: ReadonlyMap<string, GuideLine>): Axis | null {
  if (axis !== "line") return { direction: AXES[axis], through };
  const curve = guides.get(axisLine ?? "")?.curve;
  if (!curve || curve.length === 0) return null;
  const ends = new Float64Array(6);
  curve.sample(Float64Array.of(0, curve.closed ? curve.length / 2 : curve.length), 2, ends, null);
  const [from, to] = [0, 3].map((k): Vec3 => [ends[k], ends[k + 1], ends[k + 2]]);
  const way = subtract(to, from);
  return Math.hypot(...way) > 0 ? { direction: normalize(way), through: from } : null;
}

/** Whether a line that goes round shows its inner side: where it rises along the axis it would show the outer one. */
function facesInward(points: Float64Array, { direction }: Axis): boolean {
  const last = points.length - 3;
  const rise = [0, 1, 2].reduce((sum, k) => sum + direction[k] * (points[last + k] - points[k]), 0);
  return rise < 0;
}

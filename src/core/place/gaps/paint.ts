/** What the artist painted on surfaces: strokes of a brush, each of which takes a share towards none or towards all. */
import { squaredToChain } from "../../line";
import { fromOwn, type Field } from "../../host";
import type { Paint } from "./schema";

interface Stroke {
  /** World coordinates, metres: 3n. */
  points: Float64Array;
  /** The box that the brush reached: least and most. */
  box: Float64Array;
  radius: number;
  /** What a share goes towards, 0 or 1, and by how much of the way where the brush is full. */
  to: number;
  strength: number;
  /** From this share of the radius outwards the brush fades. */
  core: number;
}

/** The share that a place of a field was painted with; null where nothing is painted and all is free. */
export function paintedOn(
  { base, strokes }: Paint,
  field: Field,
): ((x: number, y: number, z: number) => number) | null {
  const own = strokes.filter(({ on }) => on === field.id).map((stroke) => strokeOf(stroke, field));
  if (own.length === 0 && base === "all") return null;
  const start = base === "all" ? 1 : 0;
  return (x, y, z) => {
    let share = start;
    for (const stroke of own) {
      const { box } = stroke;
      if (x < box[0] || y < box[1] || z < box[2] || x > box[3] || y > box[4] || z > box[5]) continue;
      const full = fullness(distanceTo(stroke.points, x, y, z) / stroke.radius, stroke.core);
      share += (stroke.to - share) * stroke.strength * full;
    }
    return share;
  };
}

function strokeOf({ points, radius, strength, soft, puts }: Paint["strokes"][number], field: Field): Stroke {
  const placed = Float64Array.from(points.flatMap((point) => [...fromOwn(field, point)]));
  const box = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let p = 0; p < placed.length; p++) {
    const axis = p % 3;
    box[axis] = Math.min(box[axis], placed[p] - radius);
    box[3 + axis] = Math.max(box[3 + axis], placed[p] + radius);
  }
  return { points: placed, box, radius, strength, to: puts ? 1 : 0, core: 1 - soft };
}

/** How full the brush is so far from its middle, as a share of its radius: 1 in its core, then softly down to 0 at its rim. */
function fullness(far: number, core: number): number {
  if (far >= 1) return 0;
  if (far <= core) return 1;
  const share = (1 - far) / (1 - core);
  return share * share * (3 - 2 * share);
}

/** To the way of a brush, or to the one point where it only touched. */
const distanceTo = (points: Float64Array, x: number, y: number, z: number): number =>
  points.length === 3
    ? Math.hypot(x - points[0], y - points[1], z - points[2])
    : Math.sqrt(squaredToChain(points, x, y, z));

/** Props that fill something and reach through its walls. */
import type { Vec3 } from "../math";
import type { PropBounds } from "../mesh";
import { kindOf, worldMatrix } from "../place";
import { metres, naming, props, say, type Check } from "./finding";
import { isStanding, largest, largestScale } from "./rows";

/** What reaches less far through than this share of its size is taken as touching. */
const TOUCHING = 0.02;

export const throughWalls: Check = {
  name: "through-walls",
  label: "Through the walls",
  find({ dressing, placements: p, box, hull, volume: volumeOf }) {
    if (!kindOf(dressing.where).fills) return [];
    const shapes = p.props.map((prop) => {
      const bounds = box(prop);
      return bounds && { bounds, ...extremesOf(bounds, hull(prop)) };
    });
    const members: number[] = [];
    let worst = 0;
    for (let i = 0; i < p.count; i++) {
      const shape = isStanding(p, i) ? shapes[p.prop[i]] : undefined;
      const volume = shape && volumeOf(p.fields[p.line[i]]);
      if (!volume) continue;
      const M = worldMatrix(p, i);
      const own = (x: number, y: number, z: number) =>
        volume.inOwn([
          M[0] * x + M[4] * y + M[8] * z + M[12],
          M[1] * x + M[5] * y + M[9] * z + M[13],
          M[2] * x + M[6] * y + M[10] * z + M[14],
        ]);
      const origin = own(0, 0, 0);
      const size = largest(p, i, shape.bounds);
      // What stands so far outside that it is told as that, and what is nowhere near a wall.
      const near = volume.contains(...origin) ? shape.reach * largestScale(p, i) : size;
      if (volume.toWall(...origin, near) > near) continue;
      let far = 0;
      for (let k = 0; k < shape.points.length; k += 3) {
        const point = own(shape.points[k], shape.points[k + 1], shape.points[k + 2]);
        if (!volume.contains(...point)) far = Math.max(far, volume.toWall(...point));
      }
      if (far <= TOUCHING * size) continue;
      members.push(i);
      worst = Math.max(worst, far);
    }
    if (members.length === 0) return [];
    return [
      {
        check: "through-walls",
        dressing: dressing.id,
        ...naming(p, members),
        worst,
        message: say`${props(members.length)} ${members.length === 1 ? "reaches" : "reach"} through the walls, by up to ${metres(worst)}.`,
        mend: "keep-from-walls",
        orElse: "leave-blank",
      },
    ];
  },
};

/** The farthest points of a prop in these directions stand for all of it. */
const WAYS: readonly Vec3[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((z): Vec3[] => (x === 0 && y === 0 && z === 0 ? [] : [[x, y, z]]))),
);

/**
 * Of its hull where that is known, else the middles of its box's sides.
 * @returns 3k numbers, and how far the farthest of them lies from the prop's origin
 */
function extremesOf({ min, max }: PropBounds, hull: Float32Array | undefined): { points: Float64Array; reach: number } {
  const points = hull?.length ? farthestOf(hull) : middlesOf(min, max);
  let reach = 0;
  for (let k = 0; k < points.length; k += 3)
    reach = Math.max(reach, Math.hypot(points[k], points[k + 1], points[k + 2]));
  return { points, reach };
}

function middlesOf(min: Vec3, max: Vec3): Float64Array {
  const middle = min.map((low, k) => (low + max[k]) / 2);
  return Float64Array.from(
    [0, 1, 2].flatMap((axis) => [min, max].flatMap((end) => middle.map((value, k) => (k === axis ? end[k] : value)))),
  );
}

function farthestOf(hull: Float32Array): Float64Array {
  const farthest = WAYS.map(([x, y, z]) => {
    let best = 0;
    let most = -Infinity;
    for (let v = 0; v < hull.length; v += 3) {
      const along = x * hull[v] + y * hull[v + 1] + z * hull[v + 2];
      if (along > most) [most, best] = [along, v];
    }
    return best;
  });
  return Float64Array.from([...new Set(farthest)].flatMap((v) => [hull[v], hull[v + 1], hull[v + 2]]));
}

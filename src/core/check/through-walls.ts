/** Props that fill something and reach through its walls. */
import { quatAt, rotate, type Vec3 } from "../math";
import { sizeOf, type PropBounds } from "../mesh";
import { kindOf } from "../place";
import { metres, naming, props, say, type Check } from "./finding";
import { isStanding } from "./rows";

/** What reaches less far through than this share of its size is taken as touching. */
const TOUCHING = 0.02;

export const throughWalls: Check = {
  name: "through-walls",
  label: "Through the walls",
  find({ dressing, placements: p, box, hull, volume: volumeOf }) {
    if (!kindOf(dressing.where).fills) return [];
    const shapes = p.props.map((prop) => {
      const bounds = box(prop);
      return bounds && { size: Math.max(...sizeOf(bounds)), points: pointsOf(bounds, hull(prop)) };
    });
    const members: number[] = [];
    let worst = 0;
    for (let i = 0; i < p.count; i++) {
      const shape = isStanding(p, i) ? shapes[p.prop[i]] : undefined;
      const volume = shape && volumeOf(p.fields[p.line[i]]);
      if (!volume) continue;
      const at = (point: Vec3): Vec3 => {
        const turned = rotate(quatAt(p.rotation, i), point.map((x, k) => x * p.scale[3 * i + k]) as unknown as Vec3);
        return volume.inOwn(turned.map((x, k) => x + p.origin[k] + p.position[3 * i + k]) as unknown as Vec3);
      };
      const origin = at([0, 0, 0]);
      const size = shape.size * Math.max(p.scale[3 * i], p.scale[3 * i + 1], p.scale[3 * i + 2]);
      // What has been moved right out of it is told as that.
      if (!volume.contains(...origin) || volume.toWall(...origin, 2 * size) >= 2 * size) continue;
      let far = 0;
      for (const point of shape.points) {
        const own = at(point);
        if (!volume.contains(...own)) far = Math.max(far, volume.toWall(...own));
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

/** Of its hull where that is known, else the middles of its box's sides. */
function pointsOf({ min, max }: PropBounds, hull: Float32Array | undefined): Vec3[] {
  if (!hull || hull.length === 0) {
    const middle = min.map((low, k) => (low + max[k]) / 2);
    return [0, 1, 2].flatMap((axis) =>
      [min, max].map((end) => middle.map((value, k) => (k === axis ? end[k] : value)) as unknown as Vec3),
    );
  }
  const farthest = WAYS.map(([x, y, z]) => {
    let best = 0;
    let most = -Infinity;
    for (let v = 0; v < hull.length; v += 3) {
      const along = x * hull[v] + y * hull[v + 1] + z * hull[v + 2];
      if (along > most) [most, best] = [along, v];
    }
    return best;
  });
  return [...new Set(farthest)].map((v): Vec3 => [hull[v], hull[v + 1], hull[v + 2]]);
}

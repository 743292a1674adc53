/** Outside its area or volume: what was moved by hand or by an offset to where no outline, or no wall, has it. */
import { Plan } from "../host";
import { kindOf, FLAG } from "../place";
import { say, metres, naming, props, type Check, type Checked } from "./finding";
import { isMovedAside, isStanding, largest } from "./rows";

export const outside: Check = {
  name: "outside",
  label: "Outside",
  find(checked) {
    const { dressing, placements: p } = checked;
    const within = withinOf(checked);
    if (!within) return [];
    const members: number[] = [];
    let worst = 0;
    for (let i = 0; i < p.count; i++) {
      if (!isStanding(p, i)) continue;
      const [x, y, z] = [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]);
      const far = within(x, y, z, i);
      if (far === 0) continue;
      members.push(i);
      worst = Math.max(worst, far);
    }
    if (members.length === 0) return [];
    return [
      {
        check: "outside",
        dressing: dressing.id,
        ...naming(p, members),
        worst,
        message: say`${props(members.length)} ${members.length === 1 ? "stands" : "stand"} outside the ${kindOf(dressing.where).fills ? "volume" : "area"}, by up to ${metres(worst)}.`,
        mend: "leave-blank",
      },
    ];
  },
};

/** How far a point of the world lies outside what it has to lie within, metres, 0 inside; null where there is no such thing. */
function withinOf({
  dressing,
  placements: p,
  line,
  volume: volumeOf,
  box,
}: Checked): ((x: number, y: number, z: number, i: number) => number) | null {
  const { where } = dressing;
  if (kindOf(where).fills) {
    // Where positions are found they lie inside: only what has been moved since can be beyond the walls.
    const { fit } = dressing;
    const moved = isMovedAside(dressing) || fit.up !== 0 || fit.drop !== "off" || dressing.variation.positionOn;
    return (x, y, z, i) => {
      if (!moved && (p.flags[i] & FLAG.moved) === 0) return 0;
      const volume = volumeOf(p.fields[p.line[i]]);
      const bounds = box(p.props[p.prop[i]]);
      if (!volume || !bounds) return 0;
      const own = volume.inOwn([x, y, z]);
      // What hangs or stands by another part of it than its origin may have that a little beyond the walls.
      const far = volume.contains(...own) ? 0 : volume.toWall(...own);
      return far <= largest(p, i, bounds) ? 0 : far;
    };
  }
  if (!kindOf(where).onSurfaces || kindOf(where).laysOut || (where.areas.length === 0 && where.holes.length === 0))
    return null;
  const guides = (ids: readonly string[]) => ids.flatMap((id) => line(id) ?? []);
  const plan = Plan.of(guides(where.areas), guides(where.holes));
  return plan && ((x, _, z) => (plan.contains(x, z) ? 0 : plan.toEdge(x, z, Infinity)));
}

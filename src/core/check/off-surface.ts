/** Off its surface: an offset or chance has moved what is spread over a surface to where that is no more. */
import { kindOf } from "../place";
import { say, metres, naming, props, type Check } from "./finding";
import { isMovedAside, isStanding } from "./rows";
import type { Met } from "../mesh";

/** Let pass, metres. */
const LEAST = 0.02;

export const offSurface: Check = {
  name: "off-surface",
  label: "Off its surface",
  find({ dressing, placements: p, fields }) {
    const { where, fit, variation } = dressing;
    const { positionOn, up, wanderOn, wanderUp } = variation;
    // What only rises or sinks has been asked to.
    if (!kindOf(where).onSurfaces || fit.drop !== "off" || !isMovedAside(dressing)) return [];
    const [low, high] = positionOn ? up : [0, 0];
    const most = LEAST + (wanderOn ? wanderUp : 0) + Math.max(Math.abs(fit.up + low), Math.abs(fit.up + high));
    const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
    const members: number[] = [];
    let worst = 0;
    for (let i = 0; i < p.count; i++) {
      const ground = isStanding(p, i) ? fields.get(p.fields[p.line[i]]) : undefined;
      if (!ground) continue;
      const [x, y, z] = [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]);
      ground.tree.nearest(x, y, z, met);
      const far = met.triangle < 0 ? Infinity : Math.hypot(met.x - x, met.y - y, met.z - z);
      if (far <= most) continue;
      members.push(i);
      worst = Math.max(worst, far);
    }
    if (members.length === 0) return [];
    return [
      {
        check: "off-surface",
        dressing: dressing.id,
        ...naming(p, members),
        worst,
        message: say`${props(members.length)} ${members.length === 1 ? "has" : "have"} been moved off the surface, by up to ${metres(worst)}.`,
        mend: "drop-on-it",
      },
    ];
  },
};

/** Steeper than allowed: what was put by hand where the surface is steeper than the gaps have it. */
import { say, naming, props, type Check } from "./finding";
import { isStanding } from "./rows";
import { kindOf, FLAG } from "../place";
import { formatValue } from "../schema";
import type { Met } from "../mesh";

/** Let pass, radians: what stands on an edge may be told to stand on either side of it. */
const SLACK = 0.01;

export const steep: Check = {
  name: "steep",
  label: "Too steep",
  find({ dressing, placements: p, fields }) {
    const { slopeOn, slope, slopeSoft } = dressing.gaps;
    if (!kindOf(dressing.where).onSurfaces || !slopeOn) return [];
    const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
    const normal = new Float64Array(3);
    const members: number[] = [];
    let worst = 0;
    for (let i = 0; i < p.count; i++) {
      const ground = p.flags[i] & FLAG.pegged && isStanding(p, i) ? fields.get(p.fields[p.line[i]]) : undefined;
      if (!ground) continue;
      const [x, y, z] = [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]);
      ground.tree.nearest(x, y, z, met);
      if (met.triangle < 0) continue;
      ground.flatNormal(met.triangle, normal);
      const angle = Math.acos(Math.max(-1, Math.min(1, normal[1])));
      if (angle <= slope[1] + slopeSoft + SLACK) continue;
      members.push(i);
      worst = Math.max(worst, angle);
    }
    if (members.length === 0) return [];
    return [
      {
        check: "steep",
        dressing: dressing.id,
        ...naming(p, members),
        message: say`${props(members.length)} pegged by hand ${members.length === 1 ? "stands" : "stand"} where the ground is as steep as ${formatValue(worst, "rad")}; the limit is ${formatValue(slope[1], "rad")}.`,
        mend: "unpeg",
      },
    ];
  },
};

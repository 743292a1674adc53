/** Outside its area: what was moved by hand or by an offset to where no outline has it. */
import { Plan } from "../place";
import { naming, props, type Check } from "./finding";
import { isStanding } from "./rows";

export const outside: Check = {
  name: "outside",
  label: "Outside its area",
  find({ dressing, placements: p, line }) {
    const { where } = dressing;
    if (where.kind !== "over" || (where.areas.length === 0 && where.holes.length === 0)) return [];
    const guides = (ids: readonly string[]) => ids.flatMap((id) => line(id) ?? []);
    const plan = Plan.of(guides(where.areas), guides(where.holes));
    if (!plan) return [];
    const members: number[] = [];
    for (let i = 0; i < p.count; i++) {
      if (!isStanding(p, i)) continue;
      if (!plan.contains(p.origin[0] + p.position[3 * i], p.origin[2] + p.position[3 * i + 2])) members.push(i);
    }
    if (members.length === 0) return [];
    return [
      {
        check: "outside",
        dressing: dressing.id,
        ...naming(p, members),
        message: `${props(members.length)} ${members.length === 1 ? "stands" : "stand"} outside the area.`,
        mend: "leave-blank",
      },
    ];
  },
};

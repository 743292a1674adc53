/** Floating: of what was dropped, a corner of its footprint hangs over the ground. */
import { say, metres, naming, props, type Check } from "./finding";

export const floating: Check = {
  name: "floating",
  label: "Floating",
  find({ dressing, placements, footing }) {
    const { floating: members, floatsBy } = footing;
    if (members.length === 0) return [];
    return [
      {
        check: "floating",
        dressing: dressing.id,
        ...naming(placements, members),
        worst: floatsBy,
        message: say`${props(members.length)} ${members.length === 1 ? "floats" : "float"} over the ground with a part of the footprint, by up to ${metres(floatsBy)}.`,
        ...(dressing.fit.lean < 1 && { mend: "lean" as const }),
      },
    ];
  },
};

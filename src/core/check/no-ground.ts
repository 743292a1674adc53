/** No ground: what was to be dropped has nothing under it. */
import { FLAG } from "../place";
import { say, naming, props, type Check } from "./finding";
import type { Checked } from "./finding";

/** What became of one of them, and of several. */
const WITHOUT: Readonly<Record<Checked["dressing"]["fit"]["without"], readonly [one: string, more: string]>> = {
  keep: ["it stays where it was", "they stay where they were"],
  floor: ["it stands on the floor instead", "they stand on the floor instead"],
  leave: ["it is left out", "they are left out"],
  nearest: ["it went to the nearest ground", "they went to the nearest ground"],
};

export const noGround: Check = {
  name: "no-ground",
  label: "No ground",
  find({ dressing, placements: p }) {
    const members: number[] = [];
    for (let i = 0; i < p.count; i++) if (p.flags[i] & FLAG.groundless) members.push(i);
    if (members.length === 0) return [];
    const { without } = dressing.fit;
    return [
      {
        check: "no-ground",
        dressing: dressing.id,
        ...naming(p, members),
        message: say`There is no ground under ${props(members.length)}: ${WITHOUT[without][members.length === 1 ? 0 : 1]}.`,
        ...(without !== "nearest" && { mend: "onto-nearest" as const }),
        ...(without !== "leave" && { orElse: "leave-blank" as const }),
      },
    ];
  },
};

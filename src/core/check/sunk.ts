/** Sunk: of what was dropped, a corner of its footprint digs into the ground deeper than was asked for. */
import { say, metres, naming, props, type Check } from "./finding";

export const sunk: Check = {
  name: "sunk",
  label: "Sunk",
  find({ dressing, placements, footing }) {
    const { sunk: members, digsBy } = footing;
    if (members.length === 0) return [];
    const { dropBy, dropRest } = dressing.fit;
    const highest = dropBy === "footprint" && dropRest === "highest";
    return [
      {
        check: "sunk",
        dressing: dressing.id,
        ...naming(placements, members),
        worst: digsBy,
        message: say`${props(members.length)} ${members.length === 1 ? "digs" : "dig"} into the ground with a part of the footprint, by up to ${metres(digsBy)}.`,
        ...(!highest && { mend: "rest-highest" as const }),
      },
    ];
  },
};

/** Sunk: of what was dropped, a corner of its footprint digs into the ground deeper than was asked for. */
import { footingOf } from "./footing";
import { metres, naming, props, type Check } from "./finding";

export const sunk: Check = {
  name: "sunk",
  label: "Sunk",
  find(checked) {
    const { dressing, placements } = checked;
    const { sunk: members, digsBy } = footingOf(checked);
    if (members.length === 0) return [];
    const { dropBy, dropRest } = dressing.fit;
    const highest = dropBy === "footprint" && dropRest === "highest";
    return [
      {
        check: "sunk",
        dressing: dressing.id,
        ...naming(placements, members),
        worst: digsBy,
        message: `${props(members.length)} ${members.length === 1 ? "digs" : "dig"} into the ground with a part of the footprint, by up to ${metres(digsBy)}.`,
        ...(!highest && { mend: "rest-highest" as const }),
      },
    ];
  },
};

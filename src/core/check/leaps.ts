/** Leaps: a line that is laid to the nearest place of a surface and leaves it, as the mesh leads nowhere between. */
import { say, thing, NO_KEYS, type Check, type Finding } from "./finding";

export const leaps: Check = {
  name: "leaps",
  label: "Leaves its surface",
  find({ dressing, placements, line }) {
    return placements.lines.flatMap((id): Finding[] => {
      const times = line(id)?.leaps ?? 0;
      if (times === 0) return [];
      const where = times === 1 ? "At one place" : `At ${times} places`;
      const message = say`${where} ${thing(id)} leaps from one part of its surface to another: the mesh leads nowhere between. Add a knot there, or lay it down instead of nearest.`;
      return [{ check: "leaps", dressing: dressing.id, line: id, keys: NO_KEYS, count: 0, message }];
    });
  },
};

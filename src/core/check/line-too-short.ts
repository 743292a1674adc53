/** Line too short: a line of the dressing on which no slot fits. */
import { say, thing, metres, NO_KEYS, type Check, type Finding } from "./finding";

export const lineTooShort: Check = {
  name: "line-too-short",
  label: "Line too short",
  find({ dressing, placements }) {
    const slots = new Uint32Array(placements.lines.length);
    for (let i = 0; i < placements.count; i++) slots[placements.line[i]]++;
    const { fromStart, fromEnd } = dressing.spacing;
    return placements.lines.flatMap((line, index): Finding[] => {
      if (slots[index] > 0) return [];
      const length = metres(placements.lineLengths[index]);
      const free = fromStart + fromEnd > 0 ? ` and ${metres(fromStart + fromEnd)} of it stay free` : "";
      return [
        {
          check: "line-too-short",
          dressing: dressing.id,
          line,
          keys: NO_KEYS,
          count: 0,
          message: say`No slot fits on ${thing(line)}: it is ${length} long${free}.`,
        },
      ];
    });
  },
};

/** All give way: keeping clear leaves nothing of a dressing, as where a prop is far too large for its spacing. */
import { FLAG } from "../place";
import { isStanding } from "./rows";
import { say, props, NO_KEYS, type Check } from "./finding";

export const allGiveWay: Check = {
  name: "all-give-way",
  label: "All give way",
  find({ dressing, placements: p }) {
    let crowded = 0;
    for (let i = 0; i < p.count; i++) {
      if (isStanding(p, i)) return [];
      if (p.flags[i] & FLAG.crowded) crowded++;
    }
    if (crowded === 0) return [];
    const message = say`Nothing stands: ${props(crowded)} would run into others and ${crowded === 1 ? "is" : "are"} left out.`;
    return [{ check: "all-give-way", dressing: dressing.id, keys: NO_KEYS, count: crowded, message }];
  },
};

/** Torn: what stands beside a tear of the sheet that its layout lies on. */
import { FLAG } from "../place";
import { say, metres, naming, props, type Check } from "./finding";

export const torn: Check = {
  name: "torn",
  label: "Beside a tear",
  find({ dressing, placements: p }) {
    const members: number[] = [];
    let worst = 0;
    p.torn?.forEach((by, i) => {
      if (by === 0 || p.flags[i] & FLAG.blank) return;
      members.push(i);
      worst = Math.max(worst, by);
    });
    if (members.length === 0) return [];
    const message = say`${props(members.length)} ${members.length === 1 ? "stands" : "stand"} beside a tear of the sheet: what is next to each other there is up to ${metres(worst)} farther apart on the surface.`;
    return [{ check: "torn", dressing: dressing.id, ...naming(p, members), worst, message }];
  },
};

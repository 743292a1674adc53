/** Past an end: props that stick out beyond an open line's start or end. */
import { say, thing, metres, naming, props, type Check, type Finding } from "./finding";

/** What sticks out by no more than this, metres, or this share of the prop, is let pass. */
const LEAST = 0.005;
const SHARE = 0.05;

export const pastEnd: Check = {
  name: "past-end",
  label: "Past an end",
  find({ dressing, placements: p, rows }) {
    if (dressing.fit.clip) return [];
    return p.lines.flatMap((line, index): Finding[] => {
      if (p.lineClosed[index] || !(p.lineLengths[index] > 0)) return [];
      const out: number[] = [];
      let worst = 0;
      for (const { order } of rows[index]) {
        for (const i of order) {
          const behind = p.reach[2 * i];
          const before = p.reach[2 * i + 1];
          const by = Math.max(behind - p.at[i], p.at[i] + before - p.lineLengths[index]);
          // A prop whose middle stands on the end of a line has been put there.
          const half = (behind + before) / 2;
          if (by <= half * 1.001 + LEAST || by <= SHARE * 2 * half) continue;
          out.push(i);
          worst = Math.max(worst, by);
        }
      }
      if (out.length === 0) return [];
      return [
        {
          check: "past-end",
          dressing: dressing.id,
          line,
          ...naming(p, out),
          worst,
          message: say`${props(out.length)} ${out.length === 1 ? "sticks" : "stick"} out past the end of ${thing(line)}, by up to ${metres(worst)}.`,
          mend: "keep-inside",
        },
      ];
    });
  },
};

/** Too close: neighbours on a line whose footprints overlap along it. */
import type { Row } from "./rows";
import { say, thing, metres, naming, type Check, type Finding } from "./finding";
import type { Placements } from "../place";

/** Overlaps up to a millimetre, or up to this share of the shorter of two footprints, are let pass. */
const LEAST = 0.001;
const SHARE = 0.02;
/** More separate places than this on one line are told as one. */
const MAX_RUNS = 50;

/** A run of neighbours each of which overlaps the next. */
interface Run {
  members: number[];
  worst: number;
}

export const tooClose: Check = {
  name: "too-close",
  label: "Too close",
  find({ dressing, placements, rows }) {
    // A gap below zero asks for just that.
    const asked = dressing.spacing.by === "end" ? Math.max(0, -dressing.spacing.gap) : 0;
    return placements.lines.flatMap((line, index) => {
      const runs = rows[index].flatMap((row) => runsIn(placements, row, asked));
      const told = runs.length > MAX_RUNS ? [together(runs)] : runs;
      return told.map(({ members, worst }): Finding => {
        const [from, to] = [members[0], members[members.length - 1]].map((i) => placements.at[i].toFixed(2));
        const where = runs.length > MAX_RUNS ? "" : ` from ${from} m to ${to} m`;
        return {
          check: "too-close",
          dressing: dressing.id,
          line,
          ...naming(placements, members),
          worst,
          message: say`${members.length} props overlap along ${thing(line)}${where}, by up to ${metres(worst)}.`,
          mend: "keep-clear",
        };
      });
    });
  },
};

function runsIn(placements: Placements, { line, order }: Row, asked: number): Run[] {
  const { at, reach, lineLengths, lineClosed } = placements;
  const runs: Run[] = [];
  let run: Run | null = null;
  const overlap = (a: number, b: number, round: number): number => {
    const gap = at[b] + round - reach[2 * b] - (at[a] + reach[2 * a + 1]);
    const shorter = Math.min(reach[2 * a] + reach[2 * a + 1], reach[2 * b] + reach[2 * b + 1]);
    return -gap > asked + Math.max(LEAST, SHARE * shorter) ? -gap : 0;
  };
  for (let k = 1; k < order.length; k++) {
    const by = overlap(order[k - 1], order[k], 0);
    if (by === 0) {
      run = null;
      continue;
    }
    if (!run) runs.push((run = { members: [order[k - 1]], worst: 0 }));
    run.members.push(order[k]);
    run.worst = Math.max(run.worst, by);
  }
  if (lineClosed[line] && order.length > 1) {
    const [first, last] = [order[0], order[order.length - 1]];
    const by = overlap(last, first, lineLengths[line]);
    if (by > 0) runs.push({ members: [last, first], worst: by });
  }
  return runs;
}

const together = (runs: Run[]): Run => ({
  members: [...new Set(runs.flatMap((run) => run.members))],
  worst: runs.reduce((worst, run) => Math.max(worst, run.worst), 0),
});

/** Uneven: the distance to the next slot is far from that of the others of its row. */
import { FLAG } from "../place";
import type { Row } from "./rows";
import { say, thing, metres, naming, type Check, type Finding } from "./finding";
import type { Checked } from "./finding";

/** A distance that differs by more than this share of the usual one is far from the rest. */
const FAR = 0.5;
/** With fewer slots there is no saying what is usual. */
const FEWEST = 5;

/** Ways of spacing that mean their slots to be evenly apart. */
const EVEN: ReadonlySet<string> = new Set(["distance", "count", "divide"]);

export const uneven: Check = {
  name: "uneven",
  label: "Uneven",
  find({ dressing, placements, slots }) {
    const { spacing, variation } = dressing;
    if (!EVEN.has(spacing.by) || spacing.anew) return [];
    const loose = variation.positionOn ? variation.along[1] - variation.along[0] : 0;
    return placements.lines.flatMap((line, index): Finding[] => {
      const found = slots[index].map((row) => farIn(placements, row, loose));
      const members = [...new Set(found.flatMap((one) => one.members))];
      if (members.length === 0) return [];
      const { worst, usual } = found.reduce((most, one) =>
        Math.abs(one.worst - one.usual) > Math.abs(most.worst - most.usual) ? one : most,
      );
      const byHand = members.some((i) => placements.flags[i] & FLAG.pegged);
      return [
        {
          check: "uneven",
          dressing: dressing.id,
          line,
          ...naming(placements, members),
          worst,
          message: say`On ${thing(line)} two stand ${metres(worst)} apart among others of about ${metres(usual)}${byHand ? ", where something is pegged by hand" : ""}.`,
          ...(byHand && { mend: "unpeg" as const }),
        },
      ];
    });
  },
};

/** The slots before and after gaps that are far from the row's median, and the one that is farthest. */
function farIn({ at, lineLengths, lineClosed }: Checked["placements"], { line, order }: Row, loose: number) {
  const seam = lineClosed[line] && order.length > 2;
  const gaps = new Float64Array(Math.max(0, order.length - 1) + (seam ? 1 : 0));
  for (let k = 1; k < order.length; k++) gaps[k - 1] = at[order[k]] - at[order[k - 1]];
  if (seam) gaps[order.length - 1] = at[order[0]] + lineLengths[line] - at[order[order.length - 1]];
  if (gaps.length < FEWEST || areAlike(gaps, loose)) return { members: [], worst: 0, usual: 0 };
  const usual = gaps.slice().sort()[gaps.length >> 1];
  // The gap over the seam of a closed line holds what is left over; it is asked for.
  const judged = lineClosed[line] ? gaps.subarray(0, -1) : gaps;
  let worst = usual;
  const members: number[] = [];
  judged.forEach((gap, k) => {
    if (Math.abs(gap - usual) <= FAR * usual + loose) return;
    members.push(order[k], order[k + 1]);
    if (Math.abs(gap - usual) > Math.abs(worst - usual)) worst = gap;
  });
  return { members, worst, usual };
}

/** Whether none can be far from the rest, whichever of them is usual. */
function areAlike(gaps: Float64Array, loose: number): boolean {
  let [least, most] = [Infinity, -Infinity];
  for (let k = 0; k < gaps.length; k++) {
    if (gaps[k] < least) least = gaps[k];
    if (gaps[k] > most) most = gaps[k];
  }
  return most - least <= FAR * least + loose;
}

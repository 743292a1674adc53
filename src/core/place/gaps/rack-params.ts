/** What Gaps say of a rack. */
import { lengthParam, shareParam, switchParam, wholeParam } from "../../schema";
import { MOST_DEEP } from "../keys";

export const rackGapParams = {
  lessBack: wholeParam({
    label: "Less at the back",
    help: "Up to so many fewer stand behind each other, missing from the rear; each column draws how many.",
    default: 0,
    min: 0,
    max: MOST_DEEP,
    slider: [0, 6],
  }),
  lessTop: wholeParam({
    label: "Less on top",
    help: "Up to so many fewer stand on top of each other; each stack draws how many.",
    default: 0,
    min: 0,
    max: MOST_DEEP,
    slider: [0, 6],
  }),
  taken: shareParam({
    label: "Taken",
    help: "Which share of all is gone already, as from a stall at noon: from the front, and from on top.",
    default: 0,
    slider: [0, 1],
  }),
  clump: lengthParam({
    label: "In clumps of",
    help: "Over how much of the line as many are gone about alike.",
    default: 0.5,
    min: 0,
    slider: [0, 3],
  }),
  onGaps: switchParam({
    label: "May stand on gaps",
    help: "What stands on one that is blank stays where it is. Otherwise it is blank as well.",
  }),
};

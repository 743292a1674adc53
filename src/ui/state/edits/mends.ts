/** What can be done about a finding with one click. */
import type { Finding, Mend } from "@/core/check";
import { editDressing, scene } from "./common";
import { removePlacements, unpeg } from "./pegs";

/** Each mend in words, as a button says it. */
export const MEND_LABELS: Readonly<Record<Mend, string>> = {
  unpeg: "Take the pegs off",
  "drop-pegs": "Let these pegs go",
  "drop-old-pegs": "Let these pegs go",
  "leave-blank": "Leave them blank",
  "keep-clear": "Keep props clear",
  "keep-inside": "Keep inside the ends",
  "up-from-line": "Take up from the line",
  "up-from-normal": "Lean with the surface",
  stiff: "Keep props stiff",
  lean: "Lean with the ground",
  "rest-highest": "Rest on the highest",
  "drop-on-it": "Drop them onto it",
  "onto-nearest": "Move onto the ground",
  "leave-circle": "Mind no other dressing",
};

export function mendFinding({ dressing, keys, pegs = [] }: Finding, mend: Mend): void {
  switch (mend) {
    case "unpeg":
      return unpeg(dressing, keys);
    case "drop-pegs":
      return editDressing(dressing, MEND_LABELS[mend], (draft) => {
        for (const hex of pegs) delete draft.pegs[hex];
      });
    case "drop-old-pegs":
      return editDressing(dressing, MEND_LABELS[mend], (draft) => void (draft.oldPegs = []));
    case "leave-blank":
      return removePlacements(dressing, keys);
    case "keep-clear":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit }) => void (fit.clear = "box"));
    case "keep-inside":
      return editDressing(dressing, MEND_LABELS[mend], ({ spacing }) => void (spacing.inside = true));
    case "up-from-line":
      return editDressing(dressing, MEND_LABELS[mend], ({ stance }) => void (stance.up = "line"));
    case "up-from-normal":
      return editDressing(dressing, MEND_LABELS[mend], ({ stance }) => {
        stance.up = "normal";
        stance.upBy = 1;
      });
    case "stiff":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit }) => void (fit.bend = false));
    case "lean":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit }) => void (fit.lean = 1));
    case "rest-highest":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit }) => {
        fit.dropBy = "footprint";
        fit.dropRest = "highest";
      });
    case "drop-on-it":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit, where }) => {
        fit.drop = "nearest";
        fit.onto = [...where.surfaces];
      });
    case "leave-circle":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit, gaps }) => {
        const others = new Set(scene().dressings.map(({ id }) => id));
        gaps.distances = gaps.distances.filter(({ to }) => !others.has(to));
        fit.ontoProps = [];
        fit.clearOf = [];
      });
    case "onto-nearest":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit }) => void (fit.without = "nearest"));
  }
}

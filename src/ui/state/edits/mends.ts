/** What can be done about a finding with one click. */
import type { Finding, Mend } from "@/core/check";
import type { Dressing } from "@/core/place";
import { stoodUp } from "@/core/scene";
import { editDressing, scene } from "./common";
import { suitingFor } from "./dressings";
import { removePlacements, unpeg } from "./pegs";
import { gatherAll } from "./sown";
import { holdHere } from "./pins";
import { smoothFor } from "./smooth";
import { editProp } from "./props";

/** Each mend in words, as a button says it. */
export const MEND_LABELS: Readonly<Record<Mend, string>> = {
  unpeg: "Take the pegs off",
  "drop-pegs": "Let these pegs go",
  "drop-sown": "Let them go",
  "drop-old-pegs": "Let these pegs go",
  "hold-here": "Pin them here",
  "leave-blank": "Leave them blank",
  "keep-clear": "Keep props clear",
  "keep-inside": "Keep inside the ends",
  "up-from-line": "Take up from the line",
  "up-from-normal": "Lean with the surface",
  stiff: "Keep props stiff",
  smooth: "Smooth it for this",
  lean: "Lean with the ground",
  "rest-highest": "Rest on the highest",
  "drop-on-it": "Drop them onto it",
  "onto-nearest": "Move onto the ground",
  "keep-from-walls": "Keep from the walls",
  hundredth: "Make it 100 times smaller",
  thousandth: "Make it 1,000 times smaller",
  hundredfold: "Make it 100 times larger",
  thousandfold: "Make it 1,000 times larger",
  "stand-up": "Stand it up",
  "as-meant": "It is meant so",
  "leave-circle": "Mind no other dressing",
};

const SIZES = { hundredth: 0.01, thousandth: 0.001, hundredfold: 100, thousandfold: 1000 } as const;

export function mendFinding({ dressing, keys, prop = "", pegs = [], strokes = [] }: Finding, mend: Mend): void {
  switch (mend) {
    case "unpeg":
      return unpeg(dressing, keys);
    case "drop-pegs":
      return editDressing(dressing, MEND_LABELS[mend], (draft) => {
        for (const hex of pegs) delete draft.pegs[hex];
      });
    case "drop-sown":
      return gatherAll(dressing, MEND_LABELS[mend], strokes);
    case "drop-old-pegs":
      return editDressing(dressing, MEND_LABELS[mend], (draft) => void (draft.oldPegs = []));
    case "hold-here":
      return holdHere(dressing, keys);
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
    case "smooth":
      return smoothFor(dressing);
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
    case "keep-from-walls":
      return editDressing(dressing, MEND_LABELS[mend], (draft) => {
        // Up to half as much again where that is kept already: some are larger than they were.
        draft.gaps.walls = Math.max(suitingFor(draft as Dressing).walls, 1.5 * draft.gaps.walls);
      });
    case "hundredth":
    case "thousandth":
    case "hundredfold":
    case "thousandfold":
      return editProp(prop, MEND_LABELS[mend], ({ prepared }) => {
        prepared.size = Number((prepared.size * SIZES[mend]).toPrecision(6));
      });
    case "stand-up":
      return editProp(prop, MEND_LABELS[mend], (draft) => void Object.assign(draft.prepared, stoodUp(draft)));
    case "as-meant":
      return editProp(prop, MEND_LABELS[mend], ({ prepared }) => void (prepared.asMeant = true));
    case "onto-nearest":
      return editDressing(dressing, MEND_LABELS[mend], ({ fit }) => void (fit.without = "nearest"));
  }
}

/** Folded: in a bend tighter than a row lies beside it, or a bent prop is broad, what lies on its inside runs over itself. */
import type { PropBounds } from "../mesh";
import type { Row } from "./rows";
import { say, thing, naming, props, type Check, type Finding } from "./finding";
import { rowOffsets } from "../place";
import type { GuideLine } from "../line";
import type { Checked } from "./finding";

/** The line is looked at so far to both sides of a placement, as a share of its length. */
const NEAR = 1e-4;

export const folded: Check = {
  name: "folded",
  label: "Folded",
  find(checked) {
    const { dressing, placements: p, line: guideOf, box, rows } = checked;
    const { fit } = dressing;
    if (fit.rows === 1 && fit.across === 0 && !fit.bend) return [];
    const breadths = p.props.map((prop) => (fit.bend ? breadthOf(box(prop)) : 0));
    const offsets = rowOffsets(fit);
    return p.lines.flatMap((line, index): Finding[] => {
      const guide = guideOf(line);
      if (!guide || !(guide.curve.length > 0)) return [];
      const bends = bendsAt(guide, checked, rows[index]);
      const out: number[] = [];
      bends.indices.forEach((i, k) => {
        const row = fit.across + offsets[p.row[i]];
        // To the left a bend to the left is tighter; what is broad reaches to both sides.
        const side = bends.left[k] >= 0 ? row : -row;
        const reach = side + (p.shapes && p.shapes.entry[i] >= 0 ? breadths[p.prop[i]] : 0);
        if (reach * Math.abs(bends.left[k]) > 1) out.push(i);
      });
      if (out.length === 0) return [];
      const bent = fit.bend && out.some((i) => p.shapes && p.shapes.entry[i] >= 0);
      return [
        {
          check: "folded",
          dressing: dressing.id,
          line,
          ...naming(p, out),
          message: say`On ${thing(line)} ${props(out.length)} ${out.length === 1 ? "stands" : "stand"} on the inside of a bend that is too tight for ${bent ? "their breadth" : "their row"}.`,
          ...(bent && { mend: "stiff" as const }),
        },
      ];
    });
  },
};

/** Half of how broad and high a prop is, whichever is more. */
const breadthOf = (box: PropBounds | undefined): number =>
  box ? Math.max(...[box.min[0], box.max[0]].map(Math.abs), 0) : 0;

/** How sharply the line bends to the left at each placement that stands on it, one over metres; below zero to the right. */
function bendsAt(
  { curve }: GuideLine,
  { placements: p }: Checked,
  rows: readonly Row[],
): { indices: number[]; left: Float64Array } {
  const indices = rows.flatMap(({ order }) => [...order]);
  const near = NEAR * curve.length;
  const n = indices.length;
  const at = new Float64Array(2 * n);
  indices.forEach((i, k) => at.set([p.at[i] - near, p.at[i] + near], 2 * k));
  const tangent = new Float64Array(6 * n);
  curve.sample(at, 2 * n, new Float64Array(6 * n), tangent);
  const left = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    const t = 6 * k;
    // Across is level, to the left of the way: up × forward.
    const [x, z] = [tangent[t + 2], -tangent[t]];
    const level = Math.hypot(x, z) || 1;
    left[k] = ((tangent[t + 3] - tangent[t]) * x + (tangent[t + 5] - tangent[t + 2]) * z) / level / (2 * near);
  }
  return { indices, left };
}

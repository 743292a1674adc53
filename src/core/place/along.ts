/** Anchors along lines: the slots of all lines and rows, with what the artist pegged. */
import { step, type Ask } from "../graph";
import { inRows } from "./fit/rows";
import { pegged, type Pegged } from "./pegs";
import { spacing } from "./spacing/spacing";
import type { GuideLine } from "../line";
import type { Dressing } from "./schema";
import type { Hold } from "./stance/stance";
import type { PropChoice } from "./what/what";

const spacingStep = step(
  "spacing",
  (
    lines: readonly GuideLine[],
    choice: PropChoice,
    params: Dressing["spacing"],
    cornerAngle: number,
    reaches: Float64Array | null,
    clip: boolean,
    bent: boolean,
  ) => spacing(lines, params, { choice, reaches: reaches ?? NO_REACHES, cornerAngle, clip, bent }),
);
const rowsStep = step("rows", inRows);
const pegsStep = step("pegs", pegged);

/** For ways of spacing that do not look at how far props reach. */
const NO_REACHES = new Float64Array(0);

/**
 * @param rules what the rules choose from
 * @param choice the same and what pegs ask for besides
 */
export function anchorsAlong(
  ask: Pick<Ask, "step">,
  { what, spacing: params, fit, pegs }: Dressing,
  lines: readonly GuideLine[],
  rules: PropChoice,
  choice: PropChoice,
  hold: Hold,
): Pegged {
  const endToEnd = params.by === "end";
  // How far props reach only matters to where slots lie where they are laid by it.
  const usesReach = endToEnd || params.inside || (params.anew && rules.corner !== null);
  const reaches = usesReach ? hold.reaches.subarray(0, 2 * rules.props.length) : null;
  const clip = fit.clip && endToEnd;
  const bent = fit.bend && endToEnd;
  const ruled = ask.step(spacingStep, lines, rules, params, what.cornerAngle, reaches, clip, bent);
  const { rows, stagger } = fit;
  const all = ask.step(rowsStep, ruled, { rows, stagger }, lines, rules, endToEnd);
  return ask.step(pegsStep, all, pegs, lines, choice);
}

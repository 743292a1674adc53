/** Anchors along lines: the slots of all lines and rows, with what the artist pegged. */
import { step } from "../graph";
import { pick } from "../schema";
import { carriedAlong } from "./carry";
import { framesAt } from "./frames";
import { guidesOf } from "./sources";
import type { Moves } from "./frames";
import type { Host } from "./hosts";
import type { Slots } from "./slots";
import { inRows } from "./fit/rows";
import { inColumns } from "./rack/columns";
import { framesOfColumns } from "./rack/frames";
import { rackOf } from "./rack/rack";
import { pegged } from "./pegs";
import { cutsAtEnd, isEndToEnd } from "./spacing/schema";
import { spacing } from "./spacing/spacing";
import type { GuideLine } from "../line";
import type { Dressing } from "./schema";
import type { Hosts, Sources } from "./sources";
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
const columnsStep = step("columns", inColumns);
const pegsStep = step("pegs", pegged);
const framesStep = step(
  "frames",
  (lines: readonly GuideLine[], slots: Slots, hold: Parameters<typeof framesAt>[2], moves: Moves) =>
    framesAt(lines, slots, hold, moves),
);

const columnFramesStep = step("frames of columns", framesOfColumns);
const carriedStep = step("carried along", carriedAlong);

/** The lines of a dressing; of one that is worked out for several variants those of each, one after the other. */
function linesIn({ where, salts }: Dressing, hosts: Hosts): GuideLine[] {
  const lines = guidesOf(where.lines, hosts);
  return salts ? salts.flatMap((salt) => lines.map((line) => line.salted(salt))) : lines;
}

/** The lines as they are at rest, or where they are to be spaced anew at each moment, as they are then. */
const linesFor = (dressing: Dressing, from: Sources): GuideLine[] =>
  linesIn(dressing, dressing.spacing.stretching === "anew" ? from : from.rest);

/** For ways of spacing that do not look at how far props reach. */
const NO_REACHES = new Float64Array(0);

export const along: Host = {
  anchors(ask, dressing, from, { rules, choice, hold }) {
    const { what, spacing: params, fit, pegs } = dressing;
    const lines = linesFor(dressing, from);
    const endToEnd = isEndToEnd(params);
    // How far props reach only matters to where slots lie where they are laid by it.
    const usesReach = endToEnd || params.inside || (params.anew && rules.corner !== null);
    const reaches = usesReach ? hold.reaches.subarray(0, 2 * rules.props.length) : null;
    const clip = (fit.clip && endToEnd) || cutsAtEnd(params);
    const bent = fit.bend && endToEnd;
    const ruled = ask.step(spacingStep, lines, rules, params, what.cornerAngle, reaches, clip, bent);
    const { rows, stagger } = fit;
    const all = ask.step(rowsStep, ruled, { rows, stagger }, lines, rules, endToEnd);
    const rack = rackOf(dressing, from);
    const held = pick(hold, ["boxes", "contact", "size", "turn"]);
    const columns = rack ? ask.step(columnsStep, all, rack, lines, rules, held, endToEnd) : all;
    return { lines, fields: [], masks: [], brought: null, ...ask.step(pegsStep, columns, pegs, lines, choice) };
  },
  carried(ask, anchored, dressing, from) {
    if (dressing.spacing.stretching === "anew") return anchored;
    const lines = linesIn(dressing, from);
    const same = (line: GuideLine, k: number) => line === anchored.lines[k] || (dressing.salts && line.curve === anchored.lines[k].curve); // prettier-ignore
    if (lines.every(same)) return anchored;
    return { ...anchored, lines, slots: ask.step(carriedStep, anchored.slots, anchored.lines, lines) };
  },
  frames(ask, { lines, slots }, hold, moves) {
    const apart = slots.pegged || moves.shift.some((draws) => draws !== null);
    const frames = slots.rack && !apart ? columnFramesStep : framesStep;
    return ask.step(frames, lines, slots, pick(hold, ["up", "aim", "bank", "forwardFirst"]), moves);
  },
};

/** At the line's knots, each slot numbered by its knot. */
import { placedRow, type SpacingRule } from "./row";

export const atKnots: SpacingRule = ({ line, usable }, { slide }) => placedRow(usable, line.knotAt, slide);

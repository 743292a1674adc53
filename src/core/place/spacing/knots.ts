/** At the line's knots, each slot numbered by its knot. */
import { placedRow, type Way } from "./row";

export const atKnots: Way = ({ line, usable }, { slide }) => placedRow(usable, line.knotAt, slide);

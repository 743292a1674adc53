/**
 * By count: so many from end to end, or all round. A single one on an open line stands in the middle. A slide moves the row as
 * a whole, past the insets as well; at an end of the line it is pressed together, so that there are always so many.
 */
import { slidRow, type SpacingRule } from "./row";

export const byCount: SpacingRule = ({ line, usable }, { count, slide }) => {
  if (usable.round) return slidRow(usable, usable.length / count, count, 0, slide);
  const { from, length } = usable;
  const [start, end] = [from + slide, from + length + slide].map((at) => Math.min(line.length, Math.max(0, at)));
  const row = { from: start, length: end - start, round: false };
  if (count === 1) return slidRow(row, row.length || 1, count, row.length / 2, 0);
  return slidRow(row, row.length / (count - 1) || 1e-9, count, 0, 0);
};

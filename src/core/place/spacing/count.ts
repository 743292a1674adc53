/** By count: so many from end to end, or all round. A single one on an open line stands in the middle. */
import { slidRow, type SpacingRule } from "./row";

export const byCount: SpacingRule = ({ usable }, { count, slide }) => {
  if (usable.round) return slidRow(usable, usable.length / count, count, 0, slide);
  if (count === 1) return slidRow(usable, usable.length || 1, count, usable.length / 2, slide);
  return slidRow(usable, usable.length / (count - 1) || 1e-9, count, 0, slide);
};

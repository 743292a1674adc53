/** By division: the line is cut into equal parts, and every so many of the cuts, from one of them on, has a slot. */
import { evenRow, slidRow, type SpacingRule } from "./row";

export const byDivision: SpacingRule = ({ usable }, { parts, every, begin, slide }) => {
  const part = usable.length / parts;
  const cuts = usable.round ? parts : parts + 1;
  const count = Math.max(0, Math.ceil((cuts - begin) / every));
  if (part === 0) return evenRow(usable.from, 1, 0, Math.min(count, 1) - 1);
  return slidRow(usable, part * every, count, part * begin, slide);
};

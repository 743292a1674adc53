/** At places given as a list of distances from the start of the usable part. */
import { placedRow, type SpacingRule } from "./row";

export const byList: SpacingRule = ({ usable }, { list, slide }) =>
  placedRow(
    usable,
    list.map((at) => usable.from + at).sort((a, b) => a - b),
    slide,
  );

/** One each: a prop that spans its whole line, stretched, repeated and fitted, or cut where the line ends, as {@link cutsAtEnd} says. */
import { NO_PROP } from "../slots";
import { endToEnd } from "./end-to-end";
import { NO_ROW, type Row, type RowInput, type SpacingRule } from "./row";

export const oneEach: SpacingRule = (ground, params) => {
  const whole = { ...params, gap: 0, slide: 0 };
  if (params.each === "cut") return endToEnd(ground, { ...whole, remainder: "end" });
  if (params.each === "repeated") {
    const row = endToEnd(ground, { ...whole, remainder: "stretched" });
    // Where not even one goes in, one is made shorter.
    if (row.count > 0) return row;
  }
  return spanning(ground);
};

/** One prop from end to end; none where the line ends where it begins, and props stay straight. */
function spanning({ line, usable, supply, bent }: RowInput): Row {
  const props = new Uint16Array(1);
  supply.fill(props, 1, 0, usable.from);
  const span = Float64Array.of(usable.from, usable.from + usable.length);
  const far = new Float64Array([usable.length]);
  if (!bent) line.chordLengths(span, 1, far);
  if (props[0] === NO_PROP || !(far[0] > 1e-9)) return NO_ROW;
  const share = bent ? supply.behind[props[0]] / supply.lengths[props[0]] : 0.5;
  return {
    ...NO_ROW,
    count: 1,
    places: Float64Array.of(span[0] + share * usable.length),
    spans: bent ? null : span,
    props,
    stretch: far[0] / supply.lengths[props[0]],
    wanted: 1,
  };
}

/** Which props the slots of one line take, asked for by number while their places are still being found. */
import { drawsOn, FIRST_ROW } from "../keys";
import { NO_PROP } from "../slots";
import type { GuideLine } from "../../line";
import type { PropChoice } from "../what/what";
import type { Reaches, Supply } from "./row";

/** A prop that is flat along the line is given this much of it, metres. */
const LEAST = 1e-4;

/**
 * @param reaches of the props along the line, behind and before where they meet it, metres
 * @param turn the number that slot 0 of the line has in the sequence
 */
export function supplyFor(line: GuideLine, choice: PropChoice, reaches: Reaches, turn: number): Supply {
  const byPlace = choice.tagged.size > 0 && line.tagged;
  const behind = Float64Array.from({ length: reaches.length / 2 }, (_, i) => reaches[2 * i]);
  const held = behind.map((back, i) => Math.max(LEAST, back + reaches[2 * i + 1]));
  let draws = new Uint32Array(0);
  const drawOf = drawsOn(line, 0);
  return {
    fill(out, n, number, at) {
      if (draws.length < n) draws = new Uint32Array(n);
      const most = Math.max(0, Math.min(n, FIRST_ROW.max - number + 1));
      for (let i = 0; i < most; i++) draws[i] = drawOf(number + i);
      choice.fill(out, draws, 0, most, number + turn);
      const tagged = byPlace ? choice.tagged.get(line.tagAt(at) ?? "") : undefined;
      if (tagged !== undefined) out[0] = tagged;
      choice.resolveMixes(out, draws, 0, most);
      out.fill(NO_PROP, most, n);
    },
    byPlace,
    first: settled(choice.first, choice, line),
    last: settled(choice.last, choice, line),
    lengths: held,
    behind,
    blank: held.reduce((most, length) => Math.max(most, length), LEAST),
  };
}

/** The prop for the first or last slot; of a mix, the one that slot 0 would draw. */
function settled(special: number | null, choice: PropChoice, line: GuideLine): number | null {
  if (special === null) return null;
  const one = Uint16Array.of(special);
  choice.resolveMixes(one, Uint32Array.of(drawsOn(line, 0)(0)), 0, 1);
  return one[0];
}

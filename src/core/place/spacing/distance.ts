/** By distance: measured along the line, or straight from one slot to the next. */
import { placedRow, slidRow, SLACK, type Way } from "./row";
import type { Curve } from "../../line";

export const byDistance: Way = (line, usable, params) => {
  if (params.measure === "straight")
    return placedRow(usable, straightSteps(line, usable, params.distance), params.slide);
  const steps = Math.floor(usable.length / params.distance + SLACK);
  const count = Math.max(1, usable.round ? steps : steps + 1);
  const shared = params.remainder === "shared" && steps > 0;
  const step = shared ? usable.length / steps : params.distance;
  const left = Math.max(0, usable.length - (usable.round ? count : count - 1) * step);
  const centred = params.remainder === "centred" || (params.remainder === "shared" && steps === 0);
  return slidRow(usable, step, count, centred ? left / 2 : 0, params.slide);
};

/** A straight step is found to within this share of itself. */
const EXACT = 1e-10;
/** The line is searched for the end of a step in pieces of this share of it. */
const PIECE = 0.25;
const MAX_STEPS = 500_000;
/** A search through more pieces than this ends where it is. */
const MAX_PIECES = 20_000_000;

/**
 * Places from the start of the usable part on, each the first one that lies `distance` straight from the last. A line never
 * gets farther than its own length, so the search begins that far on.
 */
function straightSteps(
  line: Curve,
  usable: { from: number; length: number; round: boolean },
  distance: number,
): number[] {
  const end = usable.from + usable.length;
  const at = new Float64Array(1);
  const position = new Float64Array(3);
  const tangent = new Float64Array(3);
  const start = new Float64Array(3);
  const goTo = (s: number) => {
    at[0] = s;
    line.sample(at, 1, position, tangent);
  };
  /** How much farther than a step the place `s` lies from the last one. */
  const beyond = (s: number) => {
    goTo(s);
    return Math.hypot(position[0] - start[0], position[1] - start[1], position[2] - start[2]) - distance;
  };

  let pieces = 0;
  const places = [usable.from];
  for (let last = usable.from; places.length < MAX_STEPS && pieces < MAX_PIECES;) {
    goTo(last);
    start.set(position);
    let low = last + distance;
    let high = low;
    while (high <= end && beyond(high) < -EXACT * distance) {
      low = high;
      high += PIECE * distance;
      pieces++;
    }
    if (low > end * (1 + EXACT)) break;
    if (high > end && beyond(end) < -SLACK * distance) break;
    high = Math.min(high, end);
    // The bracket is halved, which needs no slope and cannot leave it.
    for (let i = 0; i < 60 && high - low > EXACT * distance; i++) {
      const middle = (low + high) / 2;
      if (beyond(middle) < 0) low = middle;
      else high = middle;
    }
    if (!(high > last)) break;
    places.push(high);
    last = high;
  }
  // Round a closed line, a last step that ends where the first began is the first one again.
  if (usable.round && places.length > 1 && end - places[places.length - 1] < SLACK * distance) places.pop();
  return places;
}

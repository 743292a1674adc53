/** By distance: measured along the line, or straight from one slot to the next. */
import { ChordFinder } from "../../line";
import { placedRow, slidRow, SLACK, type RowInput, type SpacingRule } from "./row";

export const byDistance: SpacingRule = (ground, params) => {
  const { usable } = ground;
  if (params.measure === "straight") return placedRow(usable, straightSteps(ground, params.distance), params.slide);
  const steps = Math.floor(usable.length / params.distance + SLACK);
  const count = Math.max(1, usable.round ? steps : steps + 1);
  const filled = params.remainder === "shared" || params.remainder === "stretched";
  const step = filled && steps > 0 ? usable.length / steps : params.distance;
  const left = Math.max(0, usable.length - (usable.round ? count : count - 1) * step);
  const centred = params.remainder === "centred" || (filled && steps === 0);
  const row = slidRow(usable, step, count, centred ? left / 2 : 0, params.slide);
  return params.remainder === "stretched" ? { ...row, stretch: step / params.distance } : row;
};

const MAX_STEPS = 500_000;

/** Places from the start of the usable part on, each the first one that lies `distance` straight from the last. */
function straightSteps({ line, usable }: RowInput, distance: number): number[] {
  const end = usable.from + usable.length;
  const chords = new ChordFinder(line);
  const places = [usable.from];
  for (let last = usable.from; places.length < MAX_STEPS;) {
    const next = chords.next(last, distance, end - last);
    if (!(next > last && next <= end + SLACK * distance)) break;
    places.push(Math.min(next, end));
    last = next;
  }
  // Round a closed line, a last step that ends where the first began is the first one again.
  if (usable.round && places.length > 1 && end - places[places.length - 1] < SLACK * distance) places.pop();
  return places;
}

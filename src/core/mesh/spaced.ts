/**
 * *Of places that arrive one after another, those that keep their distance.* At any density each place needs as much room as
 * there is while it is due, so the first of them lie far apart and later ones ever closer. Who comes first decides, and that
 * does not hang on how many are wanted: more of them are the same ones, and some between them.
 */
import { PointGrid } from "./point-grid";
import type { Arrivals } from "./arrivals";

/** So many arrive on a square (or in a cube) of the distance that is kept while they are due. */
const TRIES = 6;
/** The density rises in 2 to the power of so many steps to each doubling; within one, places come in their own order. */
const STEP_BITS = 3;

/** The density up to which places arrive while a distance, metres, is what they need: to the square metre, or the cubic one. */
export const arrivedAt = (distance: number, dimensions = 2): number => TRIES / distance ** dimensions;

/**
 * Which of the places keep their distance from all that come before them.
 *
 * @param upTo the density up to which places have arrived
 * @param least the distance that places need no more than, metres: those that come when less would be due keep this one
 * @param dimensions 2 on meshes, 3 in space
 * @returns their indices, first come first, and the grid that they are in, in the same order
 */
export function spaced(
  { count, position, density }: Arrivals,
  upTo: number,
  least = 0,
  dimensions = 2,
): { chosen: Uint32Array; grid: PointGrid } {
  const { order, place, ends, first } = inSteps(density, position, count, upTo);
  const grid = new PointGrid(Math.min(count, 1024 + (count >> 3)));
  const chosen = new Uint32Array(count);
  let size = 0;
  for (let step = 0; step < ends.length; step++) {
    const from = step === 0 ? 0 : ends[step - 1];
    if (from === ends[step]) continue;
    const distance = Math.max(least, (TRIES / densityAt(first + step)) ** (1 / dimensions));
    const wanted = 2 * 2 ** (Math.ceil(2 * Math.log2(distance)) / 2);
    if (wanted !== size) grid.resize((size = wanted), 2 * grid.count + ends[step] - from);
    for (let o = from; o < ends[step]; o++) {
      const x = place[3 * o];
      const y = place[3 * o + 1];
      const z = place[3 * o + 2];
      if (!grid.isFree(x, y, z, distance)) continue;
      chosen[grid.count] = order[o];
      grid.add(x, y, z);
    }
  }
  return { chosen: chosen.subarray(0, grid.count), grid };
}

/** The density that a step begins with. */
function densityAt(step: number): number {
  const out = new Float64Array(1);
  new Uint32Array(out.buffer)[1] = step << (20 - STEP_BITS);
  return out[0];
}

/** The end of the step that a density lies in. Of a step that has ended, who keeps their distance does not change any more. */
export function stepEnd(density: number): number {
  const words = new Uint32Array(Float64Array.of(density).buffer);
  return densityAt((words[1] >>> (20 - STEP_BITS)) + 1);
}

/**
 * Places by the steps of the distance that is due when they arrive.
 *
 * @returns which come one after the other, and where they lie, so that they are read as they come; where each step ends; of which
 * power the first is
 */
function inSteps(
  density: Float64Array,
  position: Float64Array,
  count: number,
  upTo: number,
): { order: Uint32Array; place: Float64Array; ends: Uint32Array; first: number } {
  // The upper half of a number in double precision: its power of two, and steps in that.
  const words = new Uint32Array(density.buffer as ArrayBuffer, density.byteOffset, 2 * count);
  let least = 0xffffffff;
  for (let i = 0; i < count; i++) if (words[2 * i + 1] < least) least = words[2 * i + 1];
  const shift = 20 - STEP_BITS;
  const first = least >>> shift;
  const steps = 1 + (new Uint32Array(Float64Array.of(upTo).buffer)[1] >>> shift) - first;
  const stepOf = new Uint16Array(count);
  const ends = new Uint32Array(steps);
  for (let i = 0; i < count; i++) {
    const step = (words[2 * i + 1] >>> shift) - first;
    stepOf[i] = step;
    ends[step]++;
  }
  const next = new Uint32Array(steps);
  for (let step = 1; step < steps; step++) {
    next[step] = ends[step - 1];
    ends[step] += ends[step - 1];
  }
  const order = new Uint32Array(count);
  const place = new Float64Array(3 * count);
  for (let i = 0; i < count; i++) {
    const o = next[stepOf[i]]++;
    order[o] = i;
    place[3 * o] = position[3 * i];
    place[3 * o + 1] = position[3 * i + 1];
    place[3 * o + 2] = position[3 * i + 2];
  }
  return { order, place, ends, first };
}

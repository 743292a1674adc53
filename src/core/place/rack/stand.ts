/**
 * *Things on and behind each other*: each stands on the one below it, by how high that is as it stands, and behind what is before it, by
 * how deep that is. What hangs hangs below the one above it.
 */
import { conjugate, multiply, quatAt, rotate, vectorAt, type Vec3 } from "../../math";
import { FLAG, NO_PROP, type InRack, type Slots } from "../slots";
import { extentAlong } from "./extents";
import type { Frames } from "../frames";
import type { Placed } from "../compose";
import type { Hold } from "../stance/stance";
import type { Where } from "../where/schema";

export interface Standing extends Pick<Where, "meetsRack" | "backLies" | "levelRise"> {
  roomBehind: number;
  roomAbove: number;
  /** Whether things hang by their tops. */
  hangs: boolean;
}

/** Where each stands in its rack besides its place along the line, metres: n each. */
export interface Stacked extends InRack {
  /** From the line up to where it meets what is below it. */
  up: Float32Array;
  /** From the line back. */
  back: Float32Array;
}

export function standInColumns(
  standing: Placed,
  slots: Slots,
  { rotation: along }: Pick<Frames, "rotation">,
  hold: Pick<Hold, "boxes" | "contact">,
  mirrored: Uint8Array | null,
  params: Standing,
): { placed: Placed; stacked: Stacked } {
  const { count, prop } = slots;
  const rack = slots.rack!;
  const placed: Placed = { ...standing, position: standing.position.slice() };
  const stacked: Stacked = { ...rack, up: new Float32Array(count), back: new Float32Array(count) };
  const side = params.backLies === "left" ? 1 : -1;
  const ends = (i: number, axis: 0 | 1): [number, number] => {
    if (prop[i] === NO_PROP) return [0, 0];
    const frame = quatAt(along, i);
    const turn = multiply(conjugate(frame), quatAt(standing.rotation, i));
    const [x, y, z] = vectorAt(standing.scale, i);
    const scale: Vec3 = [mirrored && mirrored[i] ? -x : x, y, z];
    return extentAlong(hold, prop[i], turn, scale, axis);
  };
  for (let first = 0; first < count;) {
    let last = first + 1;
    while (last < count && (rack.deep[last] > 0 || rack.high[last] > 0)) last++;
    const depth = standColumn(stacked, first, last, ends, side, params);
    const shift = params.meetsRack === "front" ? 0 : params.meetsRack === "middle" ? depth / 2 : depth;
    for (let i = first; i < last; i++) {
      stacked.back[i] -= shift;
      stacked.up[i] += rack.level[i] * params.levelRise;
      const by = rotate(quatAt(along, i), [side * stacked.back[i], stacked.up[i], 0]);
      for (let k = 0; k < 3; k++) placed.position[3 * i + k] += by[k];
    }
    first = last;
  }
  return { placed, stacked };
}

/** Writes how far up and back those of a column stand, its front being at the line; says how deep it is. */
function standColumn(
  { deep, up, back }: Stacked,
  first: number,
  last: number,
  ends: (i: number, axis: 0 | 1) => [number, number],
  side: number,
  { roomBehind, roomAbove, hangs }: Standing,
): number {
  let front = 0;
  for (let from = first; from < last;) {
    let to = from + 1;
    while (to < last && deep[to] === deep[from]) to++;
    let rear = front;
    let on = 0;
    for (let i = from; i < to; i++) {
      const [left, right] = ends(i, 0);
      // How far its front is before where it meets the line, and its rear behind that.
      const [before, behind] = side > 0 ? [-left, right] : [right, -left];
      back[i] = front + before;
      rear = Math.max(rear, front + before + behind);
      const [low, high] = ends(i, 1);
      if (i === from) {
        up[i] = 0;
        on = hangs ? low : high;
      } else if (hangs) {
        up[i] = on - roomAbove - high;
        on = up[i] + low;
      } else {
        up[i] = on + roomAbove - low;
        on = up[i] + high;
      }
    }
    front = rear + roomBehind;
    from = to;
  }
  return Math.max(0, front - roomBehind);
}

/** After the lowest of each stack has been dropped, all on it go along with it. */
export function goAlong(placed: Placed, before: Placed, { rack, count }: Slots, flags: Uint16Array): void {
  for (let i = 0, low = 0; i < count; i++) {
    if (rack!.high[i] === 0) {
      low = i;
      continue;
    }
    const turn = multiply(quatAt(placed.rotation, low), conjugate(quatAt(before.rotation, low)));
    const [was, foot] = [vectorAt(before.position, i), vectorAt(before.position, low)];
    const by = rotate(turn, [was[0] - foot[0], was[1] - foot[1], was[2] - foot[2]]);
    for (let k = 0; k < 3; k++) placed.position[3 * i + k] = placed.position[3 * low + k] + by[k];
    placed.rotation.set(multiply(turn, quatAt(before.rotation, i)), 4 * i);
    flags[i] = (flags[i] & ~FLAG.groundless) | (flags[low] & FLAG.groundless);
  }
}

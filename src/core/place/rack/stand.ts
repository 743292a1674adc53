/**
 * *Things on and behind each other*: each stands on the one below it, by how high that is as it stands, and behind what is before it, by
 * how deep that is. What hangs hangs below the one above it.
 */
import { conjugate, multiply, quatAt, rotate, vectorAt } from "../../math";
import { MOST_DEEP } from "../keys";
import { FLAG, NO_PROP, type Slots, type Stacked } from "../slots";
import type { Frames } from "../frames";
import type { Placed } from "../compose";
import type { Hold } from "../stance/stance";
import type { Where } from "../where/schema";

/** What {@link writeExtents} writes: lower and upper ends to the left, lower and upper ends upwards, metres. */
export type Extents = Float64Array;
export const extents = (): Extents => new Float64Array(4);
export const RIGHT = 0;
export const LEFT = 1;
export const LOW = 2;
export const TOP = 3;

/** Unit vectors to the left and up: 6 numbers. */
export const LEFT_AND_UP = Float64Array.of(1, 0, 0, 0, 1, 0);

/**
 * Writes how far a prop reaches from where it meets its line, to the left and up.
 *
 * @param axes where left and up are, see {@link LEFT_AND_UP}
 * @param R turns of placements, unit quaternions, of which number `i` is the prop's
 * @param sx, sy, sz factors of its size; the first below zero where it is mirrored
 */
export function writeExtents(
  out: Extents,
  { boxes, contact }: Pick<Hold, "boxes" | "contact">,
  prop: number,
  axes: Float64Array,
  R: ArrayLike<number>,
  i: number,
  sx: number,
  sy: number,
  sz: number,
): void {
  const b = 6 * prop;
  const c = 3 * prop;
  const mx = boxes[b] - contact[c];
  const my = boxes[b + 1] - contact[c + 1];
  const mz = boxes[b + 2] - contact[c + 2];
  const hx = boxes[b + 3];
  const hy = boxes[b + 4];
  const hz = boxes[b + 5];
  const x = R[4 * i];
  const y = R[4 * i + 1];
  const z = R[4 * i + 2];
  const w = R[4 * i + 3];
  // The prop's own sides in the world, as long as it is made.
  const x0 = sx * (1 - 2 * (y * y + z * z));
  const x1 = sx * 2 * (x * y + z * w);
  const x2 = sx * 2 * (x * z - y * w);
  const y0 = sy * 2 * (x * y - z * w);
  const y1 = sy * (1 - 2 * (x * x + z * z));
  const y2 = sy * 2 * (y * z + x * w);
  const z0 = sz * 2 * (x * z + y * w);
  const z1 = sz * 2 * (y * z - x * w);
  const z2 = sz * (1 - 2 * (x * x + y * y));
  for (let way = 0, a = 0; way < 4; way += 2, a += 3) {
    const a0 = axes[a];
    const a1 = axes[a + 1];
    const a2 = axes[a + 2];
    // How much of each goes that way.
    const px = a0 * x0 + a1 * x1 + a2 * x2;
    const py = a0 * y0 + a1 * y1 + a2 * y2;
    const pz = a0 * z0 + a1 * z1 + a2 * z2;
    const middle = px * mx + py * my + pz * mz;
    const half = Math.abs(px) * hx + Math.abs(py) * hy + Math.abs(pz) * hz;
    out[way] = middle - half;
    out[way + 1] = middle + half;
  }
}

export interface Standing extends Pick<Where, "meetsRack" | "backLies"> {
  /** How high each level lies above the line, metres. */
  heights: readonly number[];
  roomBehind: number;
  roomAbove: number;
  /** Whether things hang by their tops. */
  hangs: boolean;
}

export function standInColumns(
  standing: Placed,
  slots: Slots,
  { rotation: frames }: Pick<Frames, "rotation">,
  hold: Pick<Hold, "boxes" | "contact">,
  mirrored: Uint8Array | null,
  { meetsRack, backLies, heights, ...room }: Standing,
): { placed: Placed; stacked: Stacked } {
  const { count, rack } = slots;
  const { deep, high, level } = rack!;
  const placed: Placed = { ...standing, position: standing.position.slice() };
  const metres = () => new Float32Array(count);
  const stacked: Stacked = { deep, high, level, bottom: metres(), top: metres(), front: metres(), rear: metres() };
  const side = backLies === "left" ? 1 : -1;
  const crowd: Crowd = { slots, placed: standing, hold, mirrored };
  const { bottom, top, front, rear } = stacked;
  const { position: P } = placed;
  for (let first = 0; first < count;) {
    let last = first + 1;
    while (last < count && (deep[last] > 0 || high[last] > 0)) last++;
    // All of a column stand in the frame of its first.
    writeLeftAndUp(axes, frames, first);
    const depth = standColumn(stacked, first, last, crowd, side, room);
    const shift = meetsRack === "front" ? 0 : meetsRack === "middle" ? depth / 2 : depth;
    const above = heights[level[first]];
    for (let i = first; i < last; i++) {
      front[i] -= shift;
      rear[i] -= shift;
      bottom[i] += above;
      top[i] += above;
      const left = side * (back[i - first] - shift);
      const rise = up[i - first] + above;
      P[3 * i] += left * axes[0] + rise * axes[3];
      P[3 * i + 1] += left * axes[1] + rise * axes[4];
      P[3 * i + 2] += left * axes[2] + rise * axes[5];
    }
    first = last;
  }
  return { placed, stacked };
}

/** Everything that says how far a placement reaches. */
interface Crowd {
  slots: Slots;
  placed: Pick<Placed, "rotation" | "scale">;
  hold: Pick<Hold, "boxes" | "contact">;
  mirrored: Uint8Array | null;
}

/** How far those of one column are moved back and up, metres. */
const back = new Float64Array(MOST_DEEP * MOST_DEEP);
const up = new Float64Array(MOST_DEEP * MOST_DEEP);
const reach = extents();
const axes = new Float64Array(6);

function writeLeftAndUp(out: Float64Array, F: Float32Array, i: number): void {
  const x = F[4 * i];
  const y = F[4 * i + 1];
  const z = F[4 * i + 2];
  const w = F[4 * i + 3];
  out[0] = 1 - 2 * (y * y + z * z);
  out[1] = 2 * (x * y + w * z);
  out[2] = 2 * (x * z - w * y);
  out[3] = 2 * (x * y - w * z);
  out[4] = 1 - 2 * (x * x + z * z);
  out[5] = 2 * (y * z + w * x);
}

/** Writes how far up and back those of a column are, its front being at the line; says how deep it is. */
function standColumn(
  { deep, bottom, top, front: fronts, rear: rears }: Stacked,
  first: number,
  last: number,
  { slots: { prop }, placed: { rotation, scale: S }, hold, mirrored }: Crowd,
  side: number,
  { roomBehind, roomAbove, hangs }: Pick<Standing, "roomBehind" | "roomAbove" | "hangs">,
): number {
  let front = 0;
  for (let from = first; from < last;) {
    let to = from + 1;
    while (to < last && deep[to] === deep[from]) to++;
    let rear = front;
    let on = 0;
    for (let i = from; i < to; i++) {
      if (prop[i] === NO_PROP) reach.fill(0);
      else {
        const sx = mirrored && mirrored[i] ? -S[3 * i] : S[3 * i];
        writeExtents(reach, hold, prop[i], axes, rotation, i, sx, S[3 * i + 1], S[3 * i + 2]);
      }
      // How far its front is before where it meets the line, and its rear behind that.
      const before = side > 0 ? -reach[RIGHT] : reach[LEFT];
      const behind = side > 0 ? reach[LEFT] : -reach[RIGHT];
      const rise = i === from ? 0 : hangs ? on - roomAbove - reach[TOP] : on + roomAbove - reach[LOW];
      back[i - first] = front + before;
      up[i - first] = rise;
      fronts[i] = front;
      rears[i] = front + before + behind;
      bottom[i] = rise + reach[LOW];
      top[i] = rise + reach[TOP];
      rear = Math.max(rear, rears[i]);
      on = rise + (hangs ? reach[LOW] : reach[TOP]);
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

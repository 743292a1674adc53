/**
 * Which slots may have a neighbour within reach, so that only they need a closer look. Slots follow each other along lines,
 * so a few at a time are put into one box that lies along them. Where two boxes are apart, so is all that is in them.
 */
import { NO_PROP, type Slots } from "../slots";
import { CYLINDER, Cylinders, HALF, levelReach, RADIUS } from "../cylinders";
import type { Frames } from "../frames";
import type { Hold } from "../stance/stance";
import type { Fit } from "./schema";

/** So many slots of a row share a box. */
const SHARED = 20;
/** A slot that lies so many times as far from the one before it as that from its own begins a new box. */
const JUMP = 4;
/** Numbers a box: three unit axes, then the least and most along each. */
const BOX = 15;
const LEAST = 9;
const MOST = 12;
/** What rounding to single precision may change, as a share. */
const SINGLE = 2 ** -22;

/**
 * The slots whose props may reach another's, however they are turned about their feet. All others need no closer look, and
 * no change of a turn alters that.
 *
 * @param scale factors for each placement: 3n
 */
export function nearOthers(
  slots: Slots,
  { feet }: Frames,
  hold: Hold,
  scale: Float32Array,
  { clear, clearance }: Pick<Fit, "clear" | "clearance">,
): Uint32Array {
  const { count } = slots;
  // Footprints are compared as they are seen from above, where heights do not count.
  const spots: Spots = {
    at: feet,
    rise: clear === "footprint" || clear === "radius" ? 0 : 1,
    radius: reachesOf(slots, hold, scale, clearance),
  };
  const near = new Uint8Array(count);
  const { starts, boxes, cylinders } = boxesAlong(slots, spots, near);
  const n = starts.length - 1;
  for (let i = 0; i < n; i++) {
    const met = cylinders.gather(i);
    for (let k = 0; k < met; k++) {
      const j = cylinders.found[k];
      if (!apart(boxes, i, j)) markMeeting(spots, near, starts[i], starts[i + 1], starts[j], starts[j + 1]);
    }
    cylinders.put(i);
  }
  let members = 0;
  for (let i = 0; i < count; i++) members += near[i];
  const indices = new Uint32Array(members);
  for (let i = 0, k = 0; k < members; i++) if (near[i] === 1) indices[k++] = i;
  return indices;
}

/** Where slots are and how far about there their props reach. */
interface Spots {
  /** Metres: 3n. */
  at: Float32Array;
  /** What heights count: 1, or 0 where everything is seen from above. */
  rise: 0 | 1;
  radius: Float32Array;
}

/** How far each slot's prop reaches from its foot in any direction, with half the room that is to stay free: n, metres. */
function reachesOf(
  { count, prop }: Slots,
  { boxes, contact, size }: Hold,
  scale: Float32Array,
  clearance: number,
): Float32Array {
  const radius = new Float32Array(count);
  const farthest = size.map((_, k) => {
    const [c, b] = [3 * k, 6 * k];
    return Math.hypot(...[0, 1, 2].map((axis) => Math.abs(boxes[b + axis] - contact[c + axis]) + boxes[b + 3 + axis]));
  });
  for (let i = 0, p = 0; i < count; i++, p += 3) {
    if (prop[i] === NO_PROP) continue;
    let most = scale[p];
    if (scale[p + 1] > most) most = scale[p + 1];
    if (scale[p + 2] > most) most = scale[p + 2];
    const reach = farthest[prop[i]] * most + 0.5 * clearance;
    radius[i] = reach > 0 ? reach : 0;
  }
  return radius;
}

/** Boxes along the slots: where each one's slots begin, its numbers, and the cylinder around it. */
interface Boxed {
  starts: Uint32Array;
  boxes: Float32Array;
  cylinders: Cylinders;
}

/** Puts all slots into boxes; marks in `near` those that meet another one of their own box. */
function boxesAlong(slots: Slots, spots: Spots, near: Uint8Array): Boxed {
  const starts = startsOf(slots);
  const n = starts.length - 1;
  const boxes = new Float32Array(BOX * n);
  const cylinders = new Cylinders(n);
  let broadest = 0;
  for (let i = 0; i < n; i++) {
    const [from, to] = [starts[i], starts[i + 1]];
    writeAxes(boxes, BOX * i, spots, from, to);
    const inLine = writeExtents(boxes, BOX * i, spots, from, to);
    if (!inLine) markMeeting(spots, near, from, to, from, to);
    writeCylinder(cylinders.data, i, boxes);
    broadest = Math.max(broadest, cylinders.data[CYLINDER * i + RADIUS]);
  }
  cylinders.reach(broadest);
  return { starts, boxes, cylinders };
}

/** Where boxes begin: with each row, after so many slots, and where the next slot lies back or much farther on than the last. */
function startsOf({ count, line, row, at }: Slots): Uint32Array {
  const starts = new Uint32Array(count + 1);
  let n = 0;
  let end = 0;
  let step = Infinity;
  for (let i = 0; i < count; i++) {
    const next = i > 0 ? at[i] - at[i - 1] : 0;
    if (i === end || row[i] !== row[i - 1] || line[i] !== line[i - 1] || next < 0 || next > JUMP * step) {
      starts[n++] = i;
      end = i + SHARED;
      step = Infinity;
    } else step = next;
  }
  starts[n] = count;
  return starts.slice(0, n + 1);
}

/** The axes of a box: from its first slot to its last, and two square to that. */
function writeAxes(boxes: Float32Array, b: number, { at, rise }: Spots, from: number, to: number): void {
  const [p, q] = [3 * from, 3 * (to - 1)];
  let x = at[q] - at[p];
  let y = rise * (at[q + 1] - at[p + 1]);
  let z = at[q + 2] - at[p + 2];
  const length = Math.sqrt(x * x + y * y + z * z);
  if (length > 0) {
    x /= length;
    y /= length;
    z /= length;
  } else x = 1;
  const level = Math.sqrt(x * x + z * z);
  // Across is level, or along X where the way goes straight up or down.
  const across = level > 1e-6 ? z / level : 1;
  const back = level > 1e-6 ? -x / level : 0;
  boxes[b] = x;
  boxes[b + 1] = y;
  boxes[b + 2] = z;
  boxes[b + 3] = across;
  boxes[b + 4] = 0;
  boxes[b + 5] = back;
  boxes[b + 6] = y * back;
  boxes[b + 7] = z * across - x * back;
  boxes[b + 8] = -y * across;
}

/** How far the spheres from `from` to before `to` reach along the axes; true if along the first they lie one behind the other. */
function writeExtents(boxes: Float32Array, b: number, { at, rise, radius }: Spots, from: number, to: number): boolean {
  const ax = boxes[b];
  const ay = boxes[b + 1];
  const az = boxes[b + 2];
  const bx = boxes[b + 3];
  const bz = boxes[b + 5];
  const cx = boxes[b + 6];
  const cy = boxes[b + 7];
  const cz = boxes[b + 8];
  let leastA = Infinity;
  let leastB = Infinity;
  let leastC = Infinity;
  let mostA = -Infinity;
  let mostB = -Infinity;
  let mostC = -Infinity;
  let inLine = true;
  for (let i = from, p = 3 * from; i < to; i++, p += 3) {
    const x = at[p];
    const y = rise * at[p + 1];
    const z = at[p + 2];
    const r = radius[i];
    const along = x * ax + y * ay + z * az;
    const across = x * bx + z * bz;
    const up = x * cx + y * cy + z * cz;
    if (along - r < mostA) inLine = false;
    if (along - r < leastA) leastA = along - r;
    if (along + r > mostA) mostA = along + r;
    if (across - r < leastB) leastB = across - r;
    if (across + r > mostB) mostB = across + r;
    if (up - r < leastC) leastC = up - r;
    if (up + r > mostC) mostC = up + r;
  }
  // A little more than it is, for what single precision loses.
  const p = 3 * from;
  const lost = SINGLE * (Math.abs(at[p]) + Math.abs(at[p + 1]) + Math.abs(at[p + 2]) + mostA - leastA);
  boxes[b + LEAST] = leastA - lost;
  boxes[b + LEAST + 1] = leastB - lost;
  boxes[b + LEAST + 2] = leastC - lost;
  boxes[b + MOST] = mostA + lost;
  boxes[b + MOST + 1] = mostB + lost;
  boxes[b + MOST + 2] = mostC + lost;
  return inLine;
}

/** The cylinder around a box. */
function writeCylinder(data: Float32Array, i: number, boxes: Float32Array): void {
  const b = BOX * i;
  const o = CYLINDER * i;
  const half = (axis: number) => (boxes[b + MOST + axis] - boxes[b + LEAST + axis]) / 2;
  const along = (axis: number, k: number) => half(axis) * boxes[b + 3 * axis + k];
  for (let k = 0; k < 3; k++) data[o + k] = 0;
  for (let axis = 0; axis < 3; axis++) {
    const middle = (boxes[b + MOST + axis] + boxes[b + LEAST + axis]) / 2;
    for (let k = 0; k < 3; k++) data[o + k] += middle * boxes[b + 3 * axis + k];
  }
  const radius = levelReach(along(0, 0), along(0, 2), along(1, 0), along(1, 2), along(2, 0), along(2, 2));
  const high = Math.abs(along(0, 1)) + Math.abs(along(1, 1)) + Math.abs(along(2, 1));
  const lost = SINGLE * (Math.abs(data[o]) + Math.abs(data[o + 1]) + Math.abs(data[o + 2]));
  data[o + RADIUS] = radius * (1 + SINGLE) + lost;
  data[o + HALF] = high * (1 + SINGLE) + lost;
}

/** Whether two boxes are apart along an axis of either. */
const apart = (boxes: Float32Array, i: number, j: number): boolean =>
  apartAlongAxes(boxes, BOX * i, BOX * j) || apartAlongAxes(boxes, BOX * j, BOX * i);

/** Whether the box at `b` and the one at `c` are apart along an axis of the first. */
function apartAlongAxes(boxes: Float32Array, b: number, c: number): boolean {
  for (let axis = 0; axis < 3; axis++) {
    const a = b + 3 * axis;
    let middle = 0;
    let half = 0;
    for (let k = 0; k < 3; k++) {
      const d = c + 3 * k;
      const turn = boxes[a] * boxes[d] + boxes[a + 1] * boxes[d + 1] + boxes[a + 2] * boxes[d + 2];
      middle += turn * (boxes[c + MOST + k] + boxes[c + LEAST + k]);
      half += Math.abs(turn) * (boxes[c + MOST + k] - boxes[c + LEAST + k]);
    }
    if ((middle - half) / 2 > boxes[b + MOST + axis] || (middle + half) / 2 < boxes[b + LEAST + axis]) return true;
  }
  return false;
}

/** Marks the slots of one stretch that meet one of another, or of the same. */
function markMeeting(
  { at, rise, radius }: Spots,
  near: Uint8Array,
  from: number,
  to: number,
  otherFrom: number,
  otherTo: number,
): void {
  for (let i = from; i < to; i++) {
    const x = at[3 * i];
    const y = at[3 * i + 1];
    const z = at[3 * i + 2];
    for (let j = otherFrom === from ? i + 1 : otherFrom; j < otherTo; j++) {
      const dx = at[3 * j] - x;
      const dy = rise * (at[3 * j + 1] - y);
      const dz = at[3 * j + 2] - z;
      const far = radius[i] + radius[j];
      if (dx * dx + dy * dy + dz * dz <= far * far * (1 + SINGLE)) near[i] = near[j] = 1;
    }
  }
}

/**
 * Carries slots into the world. Until here everything is said in the line's own frame, so the same numbers mean the same on
 * a line that runs any other way: the frame at the slot, then the offset in it, then the turns, then the size, all about the
 * point where the prop meets the line.
 */
import { writeFrames, type GuideLine } from "../line";
import { sizeOf, type PropBounds } from "./bounds";
import { NO_PROP, type Slots } from "./slots";
import type { Offset } from "./fit/fit";
import type { Hold } from "./stance/stance";
import type { Drawn } from "./variation/variation";
import type { Placements } from "./placements";

/** Frames at the slots: world positions 3n and rotations 4n. */
export interface Frames {
  position: Float64Array;
  rotation: Float64Array;
}

/** The frames at every slot's place, moved along the line by the offset and by what it drew. */
export function framesAt(
  lines: readonly GuideLine[],
  slots: Slots,
  up: Hold["up"],
  along: number,
  shift: Float64Array | null,
): Frames {
  const n = slots.count;
  const position = new Float64Array(3 * n);
  const rotation = new Float64Array(4 * n);
  let at = slots.at;
  if (shift || along !== 0) {
    at = at.slice();
    for (let i = 0; i < n; i++) at[i] += along + (shift ? shift[3 * i] : 0);
  }
  for (let from = 0; from < n;) {
    const line = lines[slots.line[from]];
    let to = from + 1;
    while (to < n && slots.line[to] === slots.line[from]) to++;
    writeFrames(
      line.curve,
      line.stations,
      up,
      at.subarray(from, to),
      to - from,
      position.subarray(3 * from, 3 * to),
      rotation.subarray(4 * from, 4 * to),
    );
    from = to;
  }
  return { position, rotation };
}

/** Everything but the frames, per placement; see {@link Placements} for the shapes. */
type Placed = Pick<Placements, "origin" | "position" | "rotation" | "scale" | "reach" | "at">;

export function compose(
  slots: Slots,
  frames: Frames,
  hold: Hold,
  offset: Offset,
  drawn: Drawn,
  bounds: readonly PropBounds[],
): Placed {
  const n = slots.count;
  const origin: [number, number, number] =
    n > 0
      ? [Math.round(frames.position[0]), Math.round(frames.position[1]), Math.round(frames.position[2])]
      : [0, 0, 0];
  const position = new Float32Array(3 * n);
  const rotation = new Float32Array(4 * n);
  const scale = new Float32Array(3 * n);
  const reach = new Float32Array(2 * n);
  const at = new Float32Array(n);
  const boxes = boxesOf(bounds);
  const { contact, turn: held } = hold;
  const { shift, turn, size } = drawn;
  const framePosition = frames.position;
  const frameRotation = frames.rotation;

  for (let i = 0; i < n; i++) {
    const p = 3 * i;
    const q = 4 * i;
    const fx = frameRotation[q];
    const fy = frameRotation[q + 1];
    const fz = frameRotation[q + 2];
    const fw = frameRotation[q + 3];

    // The prop's turn in the frame: what the stance holds it at, then what it drew.
    let hx = held[0];
    let hy = held[1];
    let hz = held[2];
    let hw = held[3];
    if (turn) {
      const a = turn[p] * 0.5;
      const b = turn[p + 1] * 0.5;
      const c = turn[p + 2] * 0.5;
      const sa = a === 0 ? 0 : Math.sin(a);
      const ca = a === 0 ? 1 : Math.cos(a);
      const sb = b === 0 ? 0 : Math.sin(b);
      const cb = b === 0 ? 1 : Math.cos(b);
      const sc = c === 0 ? 0 : Math.sin(c);
      const cc = c === 0 ? 1 : Math.cos(c);
      // up · across · along, the product of three half-angle quaternions about Y, X and Z
      const dx = cc * sb * ca + sc * cb * sa;
      const dy = sc * cb * ca - cc * sb * sa;
      const dz = cc * cb * sa - sc * sb * ca;
      const dw = cc * cb * ca + sc * sb * sa;
      hx = dw * held[0] + dx * held[3] + dy * held[2] - dz * held[1];
      hy = dw * held[1] - dx * held[2] + dy * held[3] + dz * held[0];
      hz = dw * held[2] + dx * held[1] - dy * held[0] + dz * held[3];
      hw = dw * held[3] - dx * held[0] - dy * held[1] - dz * held[2];
    }

    // The turn as a matrix: only the columns that are needed.
    const s = size ? size[i] : 1;
    const prop = slots.prop[i];
    const drop = prop === NO_PROP ? 0 : contact[prop] * s;
    const r01 = 2 * (hx * hy - hz * hw);
    const r11 = 1 - 2 * (hx * hx + hz * hz);
    const r20 = 2 * (hx * hz - hy * hw);
    const r21 = 2 * (hy * hz + hx * hw);
    const r22 = 1 - 2 * (hx * hx + hy * hy);

    // Where the prop's own origin lies, in the frame, and from there in the world.
    const lx = offset[1] + (shift ? shift[p + 1] : 0) - r01 * drop;
    const ly = offset[2] + (shift ? shift[p + 2] : 0) - r11 * drop;
    const lz = -r21 * drop;
    const tx = 2 * (fy * lz - fz * ly);
    const ty = 2 * (fz * lx - fx * lz);
    const tz = 2 * (fx * ly - fy * lx);
    position[p] = framePosition[p] + lx + fw * tx + fy * tz - fz * ty - origin[0];
    position[p + 1] = framePosition[p + 1] + ly + fw * ty + fz * tx - fx * tz - origin[1];
    position[p + 2] = framePosition[p + 2] + lz + fw * tz + fx * ty - fy * tx - origin[2];

    rotation[q] = fw * hx + fx * hw + fy * hz - fz * hy;
    rotation[q + 1] = fw * hy - fx * hz + fy * hw + fz * hx;
    rotation[q + 2] = fw * hz + fx * hy - fy * hx + fz * hw;
    rotation[q + 3] = fw * hw - fx * hx - fy * hy - fz * hz;
    scale[p] = s;
    scale[p + 1] = s;
    scale[p + 2] = s;
    at[i] = slots.at[i] + offset[0] + (shift ? shift[p] : 0);

    if (prop !== NO_PROP) {
      const b = 6 * prop;
      const middle = (r20 * boxes[b] + r21 * boxes[b + 1] + r22 * boxes[b + 2]) * s + lz;
      const half = (Math.abs(r20) * boxes[b + 3] + Math.abs(r21) * boxes[b + 4] + Math.abs(r22) * boxes[b + 5]) * s;
      reach[2 * i] = half - middle;
      reach[2 * i + 1] = half + middle;
    }
  }
  return { origin, position, rotation, scale, reach, at };
}

/** Six numbers a prop: the middle of its box and half its extents. */
function boxesOf(bounds: readonly PropBounds[]): Float64Array {
  return Float64Array.from(
    bounds.flatMap((box) => {
      const size = sizeOf(box);
      return [0, 1, 2].map((k) => (box.min[k] + box.max[k]) / 2).concat(size.map((extent) => extent / 2));
    }),
  );
}

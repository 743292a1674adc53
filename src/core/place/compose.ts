/**
 * Puts props at their slots. Until here everything is said in the line's own frame, so the same numbers mean the same on a
 * line that runs any other way: the frame at the slot, then the turns, then the size, all about the point where the prop
 * meets the line.
 */
import { FLAG, NO_PROP, type Slots } from "./slots";
import type { Frames } from "./frames";
import type { Hold } from "./stance/stance";
import type { Draws } from "./variation/variation";
import type { Placements } from "./placements";

/**
 * Half turns whose squares come to less than this have their sines and cosines by series, to 3e-9, which is far finer than
 * single precision, in a fraction of the time.
 */
const SMALL = 0.04;
const [S1, S2] = [1 / 6, 1 / 20];
const [C1, C2, C3] = [1 / 2, 1 / 12, 1 / 30];

/** The factors (3n) by which each slot's prop is larger: its own, what it drew, and how it is stretched. */
export function scalesOf(
  slots: Slots,
  { axis, size: own }: Pick<Hold, "axis" | "size">,
  { size, sizes }: Pick<Draws, "size" | "sizes">,
): Float32Array {
  const { prop: propOf, stretch, stretched, count, spread } = slots;
  const fade = spread?.size;
  const scale = new Float32Array(3 * count);
  for (let i = 0; i < count; i++) {
    const p = 3 * i;
    const prop = propOf[i];
    if (prop === NO_PROP) {
      scale[p] = scale[p + 1] = scale[p + 2] = 1;
      continue;
    }
    const k = (size ? own[prop] * size[i] : own[prop]) * (fade ? fade[i] : 1);
    scale[p] = sizes ? k * sizes[p] : k;
    scale[p + 1] = sizes ? k * sizes[p + 1] : k;
    scale[p + 2] = sizes ? k * sizes[p + 2] : k;
    if (stretch) scale[p + axis[prop]] *= stretch[i];
    if (stretched) for (let c = p; c < p + 3; c++) scale[c] *= stretched[c];
  }
  return scale;
}

/** What is said of each placement besides its slot; see {@link Placements} for the shapes. */
export type Placed = Pick<Placements, "origin" | "position" | "rotation" | "scale" | "reach" | "at">;

/** Everything that a placement is made of besides its slot. */
export interface Parts {
  frames: Frames;
  hold: Hold;
  /** Factors for each placement's width, height and depth: 3n. */
  scale: Float32Array;
  /** The offset along the line, metres. */
  along: number;
  draws: Pick<Draws, "turn" | "shift" | "mirrored">;
}

export function compose(slots: Slots, parts: Parts): Placed {
  const n = slots.count;
  const placed: Placed = {
    origin: [...parts.frames.origin],
    position: new Float32Array(3 * n),
    rotation: new Float32Array(4 * n),
    scale: parts.scale,
    reach: new Float32Array(2 * n),
    at: new Float32Array(n),
  };
  composeInto(placed, 0, n, slots, parts);
  return placed;
}

/**
 * Writes the placements of the slots from `start` to before `end`.
 *
 * @param first the slot that the first of the frames belongs to
 */
export function composeInto(placed: Placed, start: number, end: number, slots: Slots, parts: Parts, first = 0): void {
  writeRotations(placed, start, end, slots, parts, first);
  writePositions(placed, start, end, slots, parts, first);
}

/** up · across · along, the product of three half-angle quaternions about Y, X and Z. */
function writeTurn(out: Float64Array, along: number, across: number, up: number): void {
  const [sa, ca] = [Math.sin(along), Math.cos(along)];
  const [sb, cb] = [Math.sin(across), Math.cos(across)];
  const [sc, cc] = [Math.sin(up), Math.cos(up)];
  out[0] = cc * sb * ca + sc * cb * sa;
  out[1] = sc * cb * ca - cc * sb * sa;
  out[2] = cc * cb * sa - sc * sb * ca;
  out[3] = cc * cb * ca + sc * sb * sa;
}

const wide = new Float64Array(4);

/** The frame, then the prop's turn in it: what the stance holds it at and what it drew; and how far it reaches along the line. */
function writeRotations(
  { rotation, scale, reach }: Placed,
  start: number,
  end: number,
  slots: Slots,
  { frames, hold, draws }: Parts,
  first: number,
): void {
  const { flips, turn: held, contact, boxes } = hold;
  const [turnAlong, turnAcross, turnUp] = draws.turn;
  const { mirrored } = draws;
  const turns = turnAlong !== null || turnAcross !== null || turnUp !== null;
  const onlyUp = turnAlong === null && turnAcross === null ? turnUp : null;
  const { prop: propOf } = slots;
  const props = hold.size.length;
  const { facing, rotation: along } = frames;
  const aims = facing !== along;
  const ordinals = flips ? ordinalsOf(slots, start, end) : NO_ORDINALS;
  for (let i = start; i < end; i++) {
    const q = 4 * i;
    const f = 4 * (i - first);
    const gx = facing[f];
    const gy = facing[f + 1];
    const gz = facing[f + 2];
    const gw = facing[f + 3];
    const prop = propOf[i];
    if (prop === NO_PROP) {
      rotation[q] = gx;
      rotation[q + 1] = gy;
      rotation[q + 2] = gz;
      rotation[q + 3] = gw;
      continue;
    }
    const h = 4 * (flips && ordinals[i - start] & 1 ? props + prop : prop);
    let hx = held[h];
    let hy = held[h + 1];
    let hz = held[h + 2];
    let hw = held[h + 3];
    if (onlyUp) {
      // Most things are turned about up alone, and then only the half angle's sine and cosine count.
      const c = onlyUp[i] * 0.5;
      const cc = c * c;
      const small = cc < SMALL;
      const dy = small ? c * (1 - S1 * cc * (1 - S2 * cc)) : Math.sin(c);
      const dw = small ? 1 - C1 * cc * (1 - C2 * cc * (1 - C3 * cc)) : Math.cos(c);
      const x = hx;
      const y = hy;
      hx = dw * x + dy * hz;
      hy = dw * y + dy * hw;
      hz = dw * hz - dy * x;
      hw = dw * hw - dy * y;
    } else if (turns) {
      let dx: number;
      let dy: number;
      let dz: number;
      let dw: number;
      const a = turnAlong ? turnAlong[i] * 0.5 : 0;
      const b = turnAcross ? turnAcross[i] * 0.5 : 0;
      const c = turnUp ? turnUp[i] * 0.5 : 0;
      const aa = a * a;
      const bb = b * b;
      const cs = c * c;
      if (aa + bb + cs < SMALL) {
        const sa = a * (1 - S1 * aa * (1 - S2 * aa));
        const ca = 1 - C1 * aa * (1 - C2 * aa * (1 - C3 * aa));
        const sb = b * (1 - S1 * bb * (1 - S2 * bb));
        const cb = 1 - C1 * bb * (1 - C2 * bb * (1 - C3 * bb));
        const sc = c * (1 - S1 * cs * (1 - S2 * cs));
        const cc = 1 - C1 * cs * (1 - C2 * cs * (1 - C3 * cs));
        dx = cc * sb * ca + sc * cb * sa;
        dy = sc * cb * ca - cc * sb * sa;
        dz = cc * cb * sa - sc * sb * ca;
        dw = cc * cb * ca + sc * sb * sa;
      } else {
        writeTurn(wide, a, b, c);
        dx = wide[0];
        dy = wide[1];
        dz = wide[2];
        dw = wide[3];
      }
      const x = hx;
      const y = hy;
      const z = hz;
      hx = dw * x + dx * hw + dy * z - dz * y;
      hy = dw * y - dx * z + dy * hw + dz * x;
      hz = dw * z + dx * y - dy * x + dz * hw;
      hw = dw * hw - dx * x - dy * y - dz * z;
    }
    const rx = gw * hx + gx * hw + gy * hz - gz * hy;
    const ry = gw * hy - gx * hz + gy * hw + gz * hx;
    const rz = gw * hz + gx * hy - gy * hx + gz * hw;
    const rw = gw * hw - gx * hx - gy * hy - gz * hz;
    rotation[q] = rx;
    rotation[q + 1] = ry;
    rotation[q + 2] = rz;
    rotation[q + 3] = rw;

    if (aims) {
      // What it is turned by against the line's own frame.
      const fx = -along[f];
      const fy = -along[f + 1];
      const fz = -along[f + 2];
      const fw = along[f + 3];
      hx = fw * rx + fx * rw + fy * rz - fz * ry;
      hy = fw * ry - fx * rz + fy * rw + fz * rx;
      hz = fw * rz + fx * ry - fy * rx + fz * rw;
      hw = fw * rw - fx * rx - fy * ry - fz * rz;
    }
    // How much of each of its axes lies along the line.
    const a0 = 2 * (hx * hz - hw * hy);
    const a1 = 2 * (hy * hz + hw * hx);
    const a2 = 1 - 2 * (hx * hx + hy * hy);
    const sx = a0 * scale[3 * i];
    const sy = a1 * scale[3 * i + 1];
    const sz = a2 * scale[3 * i + 2];
    const b = 6 * prop;
    const c = 3 * prop;
    const half = Math.abs(sx) * boxes[b + 3] + Math.abs(sy) * boxes[b + 4] + Math.abs(sz) * boxes[b + 5];
    const left = mirrored && mirrored[i] ? -sx : sx;
    const middle =
      left * (boxes[b] - contact[c]) + sy * (boxes[b + 1] - contact[c + 1]) + sz * (boxes[b + 2] - contact[c + 2]);
    reach[2 * i] = half - middle;
    reach[2 * i + 1] = half + middle;
  }
}

const NO_ORDINALS = new Int32Array(0);

/** What every second slot is told by, from `start` to before `end`: along lines each row counts on from the one before. */
function ordinalsOf({ spread, words, row }: Slots, start: number, end: number): Int32Array {
  if (spread) return spread.ordinal.subarray(start, end);
  return Int32Array.from({ length: end - start }, (_, k) => words[2 * (start + k)] + Math.min(1, row[start + k]));
}

/** From the prop's own axes in the world to its origin, so that the contact comes to lie on the line. */
function writePositions(
  { origin, position, rotation, scale, reach, at }: Placed,
  start: number,
  end: number,
  slots: Slots,
  { frames, hold, along, draws }: Parts,
  first: number,
): void {
  const { contact, byEnds } = hold;
  // Props that meet the line with their own origin need no moving.
  const atOrigin = contact.every((value) => value === 0);
  const { mirrored } = draws;
  const shiftAlong = draws.shift[0];
  const { span, prop: propOf, at: slotAt } = slots;
  const { feet, rotation: frame } = frames;
  // Frames that were worked out by themselves may count from elsewhere.
  const originX = origin[0] - frames.origin[0];
  const originY = origin[1] - frames.origin[1];
  const originZ = origin[2] - frames.origin[2];
  for (let i = start; i < end; i++) {
    const p = 3 * i;
    const q = 4 * i;
    const f = i - first;
    let px = feet[3 * f] - originX;
    let py = feet[3 * f + 1] - originY;
    let pz = feet[3 * f + 2] - originZ;
    at[i] = slotAt[i] + along + (shiftAlong ? shiftAlong[i] : 0);
    const prop = propOf[i];
    if (!atOrigin && prop !== NO_PROP) {
      const c = 3 * prop;
      const cx = contact[c] * (mirrored && mirrored[i] ? -scale[p] : scale[p]);
      const cy = contact[c + 1] * scale[p + 1];
      const cz = contact[c + 2] * scale[p + 2];
      const x = rotation[q];
      const y = rotation[q + 1];
      const z = rotation[q + 2];
      const w = rotation[q + 3];
      const tx = 2 * (y * cz - z * cy);
      const ty = 2 * (z * cx - x * cz);
      const tz = 2 * (x * cy - y * cx);
      px -= cx + w * tx + y * tz - z * ty;
      py -= cy + w * ty + z * tx - x * tz;
      pz -= cz + w * tz + x * ty - y * tx;
    }
    if (span && span[2 * i] === span[2 * i] && prop !== NO_PROP) {
      // Both its ends are to lie on the line: what counts is the middle between them.
      const half = 0.5 * (reach[2 * i + 1] + reach[2 * i]);
      const middle = byEnds && byEnds[prop] ? 0 : 0.5 * (reach[2 * i + 1] - reach[2 * i]);
      const x = frame[4 * f];
      const y = frame[4 * f + 1];
      const z = frame[4 * f + 2];
      const w = frame[4 * f + 3];
      px -= middle * 2 * (x * z + w * y);
      py -= middle * 2 * (y * z - w * x);
      pz -= middle * (1 - 2 * (x * x + y * y));
      reach[2 * i] = half;
      reach[2 * i + 1] = half;
    }
    position[p] = px;
    position[p + 1] = py;
    position[p + 2] = pz;
  }
  if (span) writeBlankReaches(reach, start, end, span, propOf);
}

/** A blank among props laid end to end has the room that was kept for it. */
function writeBlankReaches(
  reach: Float32Array,
  start: number,
  end: number,
  span: Float64Array,
  propOf: Uint16Array,
): void {
  for (let i = start; i < end; i++) {
    if (propOf[i] !== NO_PROP || span[2 * i] !== span[2 * i]) continue;
    reach[2 * i] = reach[2 * i + 1] = 0.5 * (span[2 * i + 1] - span[2 * i]);
  }
}

/** The slots' flags with those that are mirrored marked. */
export function mirrorFlags(flags: Uint16Array, mirrored: Uint8Array | null): Uint16Array {
  if (!mirrored) return flags;
  const out = flags.slice();
  for (let i = 0; i < out.length; i++) if (mirrored[i]) out[i] |= FLAG.mirrored;
  return out;
}

/** Where slots that are spread over fields lie, and which way is forward and up there: still without any prop. */
import { CHANNEL, drawFrom, rotate, streamOf, writeFromBasis, type Vec3 } from "../math";
import { gradientsOf } from "./spacing/uv-rows";
import { carriedFrames } from "./carried-frames";
import { standOf, type Field } from "../host";
import { squaredToChain, type GuideLine } from "../line";
import type { WorldMesh } from "../mesh";
import type { Frames, Moves } from "./frames";
import type { Slots, Spread } from "./slots";
import type { Hold } from "./stance/stance";

/** Corners bent by more than this count as edges, where the triangles' own normals are taken instead of smooth ones. */
const CREASE = Math.cos(Math.PI / 4);
/** Forward and up count as parallel below this sine of the angle between them. */
const PARALLEL = 1e-6;
/** A surface as level as this goes downhill nowhere. */
const LEVEL = 1e-4;
/** Lines that forward points to are cut into so many pieces. */
const PIECES = 512;

/**
 * The feet and frames of all slots that are spread.
 *
 * @param lines those of which the nearest may be faced
 * @param seed for what faces its own way
 */
export function framesOver(
  fields: readonly Field[],
  slots: Slots,
  hold: Facing,
  moves: Moves,
  lines: readonly GuideLine[],
  seed: number,
): Frames {
  const n = slots.count;
  const spread = slots.spread!;
  const rotation = new Float32Array(4 * n);
  const frames: Frames = { origin: [0, 0, 0], feet: new Float32Array(3 * n), rotation, facing: rotation };
  const { position } = spread;
  if (n > 0) frames.origin = [Math.round(position[0]), Math.round(position[1]), Math.round(position[2])];
  // What is carried as it lies on its surface is most of what moves, and is worked out all at once.
  const quick = plainly(hold, moves) && spread.carried;
  if (quick) carriedFrames(quick, frames.origin, { all: moves.offset[2], each: spread.lift ?? null }, frames.feet, rotation); // prettier-ignore
  const done = quick && quick.bound.count === n;
  if (done) return frames;
  const ahead = forwardOf(hold, slots, fields, lines, seed);
  const up = new Float64Array(3);
  const forward = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    const field = fields[slots.line[i]];
    if (quick && quick.meshes[slots.line[i]]) continue;
    writeUp(up, hold, spread, i, field?.free ? undefined : field?.ground);
    ahead(i, forward, up);
    writeFrame(frames, i, spread, moves, up, forward);
  }
  return frames;
}

/** Whether things stand by the smooth normal, turned as their surface's own front is, and are not moved about on it. */
const plainly = ({ up, aim, spread }: Facing, { offset, shift }: Moves): boolean =>
  up === "normal" &&
  spread.upBy === 1 &&
  !spread.flat &&
  spread.forward === "along" &&
  !aim &&
  offset[0] === 0 &&
  offset[1] === 0 &&
  shift.every((one) => one === null);

/** What of a stance says which way props face. */
type Facing = Pick<Hold, "up" | "aim" | "spread">;

/** Up: the world's, away from a point, or leaning towards the normal. */
function writeUp(
  out: Float64Array,
  { up, spread }: Facing,
  { position, normal, triangle }: Spread,
  i: number,
  ground: WorldMesh | undefined,
): void {
  const p = 3 * i;
  if (typeof up !== "string") {
    for (let axis = 0; axis < 3; axis++) out[axis] = position[p + axis] - up[axis];
    return unit(out);
  }
  out[0] = 0;
  out[1] = 1;
  out[2] = 0;
  if (!spread.normal || spread.upBy === 0) return;
  let [x, y, z] = [normal[p], normal[p + 1], normal[p + 2]];
  if (ground && !spread.flat) {
    ground.smoothNormal(triangle[i], position[p], position[p + 1], position[p + 2], out);
    if (out[0] * x + out[1] * y + out[2] * z >= CREASE) [x, y, z] = out;
    out[0] = out[2] = 0;
    out[1] = 1;
  }
  if (spread.upBy === 1) {
    out[0] = x;
    out[1] = y;
    out[2] = z;
    return;
  }
  // On the great circle from the world's up to the normal; towards the first corner where the normal points straight down.
  const angle = spread.upBy * Math.acos(Math.max(-1, Math.min(1, y)));
  const level = Math.hypot(x, z);
  out[0] = level > 0 ? (Math.sin(angle) * x) / level : Math.sin(angle);
  out[1] = Math.cos(angle);
  out[2] = level > 0 ? (Math.sin(angle) * z) / level : 0;
}

type Ahead = (i: number, out: Float64Array, up: Float64Array) => void;

/** Writes which way forward is wished for, before it is put square to up. */
function forwardOf(
  hold: Facing,
  slots: Slots,
  fields: readonly Field[],
  lines: readonly GuideLine[],
  seed: number,
): Ahead {
  const { spread, aim } = hold;
  const { position, normal } = slots.spread!;
  const fronts = fields.map((field) => rotate(standOf(field).rotation, [0, 0, 1]));
  const { ahead } = slots.spread!;
  const own: Ahead = (i, out) =>
    out.set(ahead ? ahead.subarray(3 * i, 3 * i + 3) : (fronts[slots.line[i]] ?? [0, 0, 1]));
  if (aim && "direction" in aim) return (_, out) => out.set(aim.direction);
  if (aim) {
    const way = aim.away ? -1 : 1;
    return (i, out) => {
      for (let axis = 0; axis < 3; axis++) out[axis] = way * (aim.point[axis] - position[3 * i + axis]);
    };
  }
  if (spread.forward === "uv" || spread.forward === "v") {
    const across = spread.forward === "v";
    const { triangle } = slots.spread!;
    return (i, out, up) => {
      const ground = fields[slots.line[i]]?.ground;
      const t = 3 * triangle[i];
      const along =
        ground?.uv &&
        gradientsOf(ground.position, ground.uv, ground.index[t], ground.index[t + 1], ground.index[t + 2]);
      if (along) out.set(across ? along.perV : along.perU);
      else own(i, out, up);
    };
  }
  if (spread.forward === "outward") {
    return (i, out) => {
      for (let axis = 0; axis < 3; axis++) out[axis] = normal[3 * i + axis];
    };
  }
  if (spread.forward === "downhill") {
    return (i, out, up) => {
      const [x, y, z] = [normal[3 * i], normal[3 * i + 1], normal[3 * i + 2]];
      if (Math.hypot(x, z) < LEVEL) return own(i, out, up);
      out[0] = x * y;
      out[1] = y * y - 1;
      out[2] = z * y;
    };
  }
  if (spread.forward === "random") {
    const stream = streamOf(seed, CHANNEL.stanceRandom);
    return (i, out) => {
      const angle = 2 * Math.PI * drawFrom(stream, slots.draw[i] | 0, 0);
      out[0] = Math.sin(angle);
      out[1] = 0;
      out[2] = Math.cos(angle);
    };
  }
  if (spread.forward === "line") {
    const near = nearestOn(lines.filter(({ curve }) => curve.length > 0));
    return near ? (i, out, up) => near(position, i, out) || own(i, out, up) : own;
  }
  return own;
}

/** Writes the way to the nearest place of some lines; false where that is right there. */
function nearestOn(lines: readonly GuideLine[]): ((at: Float64Array, i: number, out: Float64Array) => boolean) | null {
  if (lines.length === 0) return null;
  const places = lines.map(({ curve }) => {
    const at = Float64Array.from({ length: PIECES + 1 }, (_, k) => (curve.length * k) / PIECES);
    const points = new Float64Array(3 * (PIECES + 1));
    curve.sample(at, PIECES + 1, points, new Float64Array(3 * (PIECES + 1)));
    return points;
  });
  const way = new Float64Array(3);
  return (at, i, out) => {
    let best = Infinity;
    for (const points of places) {
      const far = squaredToChain(points, at[3 * i], at[3 * i + 1], at[3 * i + 2], way);
      if (far >= best) continue;
      best = far;
      out.set(way);
    }
    return best > 1e-12;
  };
}

/** The frame with up kept exact and forward square to it, and the foot moved in it. */
function writeFrame(
  { feet, origin, rotation }: Frames,
  i: number,
  { position, lift }: Spread,
  { offset, shift }: Moves,
  up: Float64Array,
  forward: Float64Array,
): void {
  const [ux, uy, uz] = up;
  // across = up × forward
  let sx = uy * forward[2] - uz * forward[1];
  let sy = uz * forward[0] - ux * forward[2];
  let sz = ux * forward[1] - uy * forward[0];
  let sine = Math.sqrt(sx * sx + sy * sy + sz * sz);
  if (!(sine > PARALLEL * Math.hypot(forward[0], forward[1], forward[2]))) {
    // Nothing to turn to: as it would stand with its front to the south, or upright to the north.
    const [fx, fy, fz]: Vec3 = Math.abs(uz) < 0.9 ? [0, 0, 1] : [0, -1, 0];
    sx = uy * fz - uz * fy;
    sy = uz * fx - ux * fz;
    sz = ux * fy - uy * fx;
    sine = Math.sqrt(sx * sx + sy * sy + sz * sz);
  }
  sx /= sine;
  sy /= sine;
  sz /= sine;
  const fx = sy * uz - sz * uy;
  const fy = sz * ux - sx * uz;
  const fz = sx * uy - sy * ux;
  writeFromBasis(rotation, i, sx, sy, sz, ux, uy, uz, fx, fy, fz);
  const p = 3 * i;
  const along = offset[0] + (shift[0] ? shift[0][i] : 0);
  const across = offset[1] + (shift[1] ? shift[1][i] : 0);
  const rise = offset[2] + (shift[2] ? shift[2][i] : 0) + (lift ? lift[i] : 0);
  feet[p] = position[p] - origin[0] + along * fx + across * sx + rise * ux;
  feet[p + 1] = position[p + 1] - origin[1] + along * fy + across * sy + rise * uy;
  feet[p + 2] = position[p + 2] - origin[2] + along * fz + across * sz + rise * uz;
}

function unit(v: Float64Array): void {
  const length = Math.hypot(v[0], v[1], v[2]);
  if (!(length > 0)) {
    v[1] = 1;
    return;
  }
  for (let axis = 0; axis < 3; axis++) v[axis] /= length;
}

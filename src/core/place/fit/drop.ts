/**
 * Drops placements onto ground: each finds the ground from where it meets its line, leans with it, and is moved until what
 * is measured of it (its pivot, its lowest point or its whole footprint) rests there.
 */
import { FLAG, NO_PROP, type Slots } from "../slots";
import { hitsFor, type WorldMesh, type Met } from "../../mesh";
import {
  PROBES_PER_FOOTPRINT,
  isMirrored,
  local,
  SIDE_U,
  SIDE_V,
  turn,
  turnBetween,
  turned,
  writeBack,
  writeFarthest,
  writeFootprints,
} from "./footprint";
import type { Frames } from "../frames";
import type { Hold } from "../stance/stance";
import type { Placed } from "../compose";
import type { Dropping } from "./schema";

/** Placements worked on at a time. */
const CHUNK = 256;
/** What is dropped onto, and the shapes of what is dropped. */
export interface Beneath {
  grounds: readonly WorldMesh[];
  /** Corners of the hull of each of the dressing's props, in its own metres (3k numbers); null where only its box is known. */
  hulls: readonly (Float32Array | null)[];
}

/** Where points meet the ground along their directions: how far on, the triangle (-1 where they do not) and the ground. */
interface Reached {
  travel: Float64Array;
  triangle: Int32Array;
  ground: Uint16Array;
}

const reachedFor = (n: number): Reached => ({
  travel: new Float64Array(n),
  triangle: new Int32Array(n),
  ground: new Uint16Array(n),
});

/** What the chunks are worked out in. */
const room = {
  foot: new Float64Array(3 * CHUNK),
  way: new Float64Array(3 * CHUNK),
  /** From each placement into the ground, for the corner that touches it first: its way, or against the normal it leans to. */
  into: new Float64Array(3 * CHUNK),
  first: reachedFor(CHUNK),
  points: new Float64Array(3 * PROBES_PER_FOOTPRINT * CHUNK),
  ways: new Float64Array(3 * PROBES_PER_FOOTPRINT * CHUNK),
  probes: reachedFor(PROBES_PER_FOOTPRINT * CHUNK),
  hits: hitsFor(PROBES_PER_FOOTPRINT * CHUNK),
};
const normal = new Float64Array(3);
const up = new Float64Array(3);
const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

/**
 * Moves the placements of the slots from `start` to before `end` onto the ground. Those that have none under them get the
 * flag for it and what the parameters say.
 *
 * @param first the slot that the first of the frames belongs to
 */
export function dropInto(
  placed: Placed,
  start: number,
  end: number,
  slots: Slots,
  { frames, hold }: { frames: Pick<Frames, "rotation">; hold: Pick<Hold, "contact" | "boxes"> },
  fit: Dropping,
  beneath: Beneath,
  flags: Uint16Array,
  first = 0,
): void {
  if (fit.drop === "off") return;
  for (let from = start; from < end; from += CHUNK) {
    const n = Math.min(CHUNK, end - from);
    const chunk = { placed, from, n, slots, frames, hold, fit, beneath, flags, first };
    writeFeet(chunk);
    writeWays(chunk);
    room.into.set(room.way);
    if (fit.lean > 0) lean(chunk);
    const probes = probeGround(chunk);
    for (let k = 0; k < n; k++) landOnGround(chunk, k, probes);
  }
}

/** A few placements that are dropped together. */
interface Chunk {
  placed: Placed;
  /** The first of them, and how many they are. */
  from: number;
  n: number;
  slots: Slots;
  frames: Pick<Frames, "rotation">;
  hold: Pick<Hold, "contact" | "boxes">;
  fit: Dropping;
  beneath: Beneath;
  flags: Uint16Array;
  first: number;
}

/** Where each placement meets its line, in the world. */
function writeFeet({ placed, from, n, slots, hold, flags }: Chunk): void {
  const { origin, position } = placed;
  const { foot } = room;
  for (let k = 0; k < n; k++) {
    const i = from + k;
    const prop = slots.prop[i];
    turned.fill(0);
    if (prop !== NO_PROP) {
      const c = 3 * prop;
      turn(placed, i, isMirrored(flags, i), hold.contact[c], hold.contact[c + 1], hold.contact[c + 2]);
    }
    for (let axis = 0; axis < 3; axis++) foot[3 * k + axis] = origin[axis] + position[3 * i + axis] + turned[axis];
  }
}

/** The unit direction in which each looks for the ground. */
function writeWays(chunk: Chunk): void {
  const { n, fit, beneath } = chunk;
  const { foot, way } = room;
  for (let k = 0; k < n; k++) {
    const w = 3 * k;
    way[w] = way[w + 2] = 0;
    way[w + 1] = -1;
    if (fit.drop === "down") continue;
    if (fit.drop === "own") {
      writeUp(chunk, k, way, w, -1);
      continue;
    }
    const nearest = nearestOf(beneath.grounds, foot[w], foot[w + 1], foot[w + 2]);
    if (!nearest) continue;
    const [dx, dy, dz] = [met.x - foot[w], met.y - foot[w + 1], met.z - foot[w + 2]];
    const away = Math.hypot(dx, dy, dz);
    if (fit.drop === "nearest" && away > 1e-9) {
      way[w] = dx / away;
      way[w + 1] = dy / away;
      way[w + 2] = dz / away;
      continue;
    }
    if (fit.drop === "normal") nearest.smoothNormal(met.triangle, met.x, met.y, met.z, normal);
    else nearest.flatNormal(met.triangle, normal);
    if (normal[0] === 0 && normal[1] === 0 && normal[2] === 0) continue;
    for (let axis = 0; axis < 3; axis++) way[w + axis] = -normal[axis];
  }
}

/** Writes the up of a placement's line frame, times a factor. */
function writeUp({ frames, from, first }: Chunk, k: number, out: Float64Array, o: number, factor: number): void {
  const q = 4 * (from + k - first);
  const r = frames.rotation;
  const [x, y, z, w] = [r[q], r[q + 1], r[q + 2], r[q + 3]];
  out[o] = factor * 2 * (x * y - w * z);
  out[o + 1] = factor * (1 - 2 * (x * x + z * z));
  out[o + 2] = factor * 2 * (y * z + w * x);
}

/** The ground that is nearest to a point, with its point in {@link met}; null where there is none. */
function nearestOf(grounds: readonly WorldMesh[], x: number, y: number, z: number): WorldMesh | null {
  let [least, best]: [number, WorldMesh | null] = [Infinity, null];
  let [bx, by, bz, triangle] = [0, 0, 0, -1];
  for (const ground of grounds) {
    ground.tree.nearest(x, y, z, met);
    if (met.triangle < 0) continue;
    const away = (met.x - x) ** 2 + (met.y - y) ** 2 + (met.z - z) ** 2;
    if (away >= least) continue;
    [least, best] = [away, ground];
    [bx, by, bz, triangle] = [met.x, met.y, met.z, met.triangle];
  }
  [met.x, met.y, met.z, met.triangle] = [bx, by, bz, triangle];
  return best;
}

/** Where `n` points meet the ground along their ways; against the way counts as below zero. */
function reach(
  fit: Dropping,
  grounds: readonly WorldMesh[],
  points: Float64Array,
  ways: Float64Array,
  n: number,
  out: Reached,
): void {
  if (fit.drop === "down") {
    const { hits } = room;
    hits.triangle.fill(-1, 0, n);
    grounds.forEach((ground, index) => ground.heights.cast(points, n, fit.dropSeen, hits, index));
    for (let k = 0; k < n; k++) {
      out.travel[k] = points[3 * k + 1] - hits.height[k];
      out.triangle[k] = hits.triangle[k];
      out.ground[k] = hits.ground[k];
    }
    return;
  }
  out.triangle.fill(-1, 0, n);
  for (let k = 0, p = 0; k < n; k++, p += 3) {
    let least = Infinity;
    const [x, y, z, dx, dy, dz] = [points[p], points[p + 1], points[p + 2], ways[p], ways[p + 1], ways[p + 2]];
    grounds.forEach((ground, index) => {
      for (const sign of [1, -1]) {
        ground.tree.first(x, y, z, sign * dx, sign * dy, sign * dz, met);
        if (met.triangle < 0) continue;
        const travel = (met.x - x) * dx + (met.y - y) * dy + (met.z - z) * dz;
        if (Math.abs(travel) >= least) continue;
        least = Math.abs(travel);
        out.travel[k] = travel;
        out.triangle[k] = met.triangle;
        out.ground[k] = index;
      }
    });
  }
}

/** Turns each placement about its foot, from its line's up towards the ground's normal. */
function lean(chunk: Chunk): void {
  const { placed, from, n, fit, beneath, slots, hold, flags } = chunk;
  const { foot, way, first } = room;
  reach(fit, beneath.grounds, foot, way, n, first);
  const byFootprint = fit.leanBy === "footprint";
  if (byFootprint) writeProbes(chunk);
  if (byFootprint) reach(fit, beneath.grounds, room.points, room.ways, PROBES_PER_FOOTPRINT * n, room.probes);
  for (let k = 0; k < n; k++) {
    const i = from + k;
    const w = 3 * k;
    const prop = slots.prop[i];
    if (prop === NO_PROP || (first.triangle[k] < 0 && !byFootprint)) continue;
    if (!byFootprint || !writeFeltNormal(k)) {
      if (first.triangle[k] < 0) continue;
      const ground = beneath.grounds[first.ground[k]];
      const t = first.travel[k];
      const [x, y, z] = [foot[w] + t * way[w], foot[w + 1] + t * way[w + 1], foot[w + 2] + t * way[w + 2]];
      if (fit.leanBy === "flat") ground.flatNormal(first.triangle[k], normal);
      else ground.smoothNormal(first.triangle[k], x, y, z, normal);
    }
    // A normal leads away from the ground to the side that the placement comes from.
    const side = normal[0] * way[w] + normal[1] * way[w + 1] + normal[2] * way[w + 2] > 0 ? -1 : 1;
    const [nx, ny, nz] = [side * normal[0], side * normal[1], side * normal[2]];
    // What leans only part of the way touches a slope first with the corner that lies deepest below its plane.
    [room.into[w], room.into[w + 1], room.into[w + 2]] = [-nx, -ny, -nz];
    writeUp(chunk, k, up, 0, 1);
    turnBetween(placed.rotation, 4 * i, up[0], up[1], up[2], nx, ny, nz, fit.lean);
    const c = 3 * prop;
    turn(placed, i, isMirrored(flags, i), hold.contact[c], hold.contact[c + 1], hold.contact[c + 2]);
    for (let axis = 0; axis < 3; axis++) {
      placed.position[3 * i + axis] = foot[w + axis] - turned[axis] - placed.origin[axis];
    }
  }
}

/** Writes into {@link normal} that of the ground under the four corners of a footprint; false where a corner has none. */
function writeFeltNormal(k: number): boolean {
  const { points, ways, probes } = room;
  for (let corner = 0; corner < 4; corner++) if (probes.triangle[PROBES_PER_FOOTPRINT * k + corner] < 0) return false;
  // Across from the first corner to the third, and from the second to the fourth.
  const at = (corner: number, axis: number): number => {
    const p = PROBES_PER_FOOTPRINT * k + corner;
    return points[3 * p + axis] + probes.travel[p] * ways[3 * p + axis];
  };
  const ux = at(2, 0) - at(0, 0);
  const uy = at(2, 1) - at(0, 1);
  const uz = at(2, 2) - at(0, 2);
  const vx = at(3, 0) - at(1, 0);
  const vy = at(3, 1) - at(1, 1);
  const vz = at(3, 2) - at(1, 2);
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  const length = Math.hypot(x, y, z);
  if (!(length > 1e-12)) return false;
  normal[0] = x / length;
  normal[1] = y / length;
  normal[2] = z / length;
  return true;
}

/** Feels for the ground from what is measured of each placement; says how many points that are each. */
function probeGround(chunk: Chunk): number {
  const { n, fit, beneath } = chunk;
  const probes = fit.dropBy === "footprint" ? PROBES_PER_FOOTPRINT : 1;
  if (probes === PROBES_PER_FOOTPRINT) writeProbes(chunk);
  else writeSingles(chunk);
  reach(fit, beneath.grounds, room.points, room.ways, probes * n, room.probes);
  return probes;
}

/** The footprints of a chunk, with the way of each repeated for its points. */
function writeProbes({ placed, from, n, slots, hold, flags }: Chunk): void {
  const { way, points, ways } = room;
  writeFootprints({ ...placed, prop: slots.prop, flags }, hold.boxes, from, n, way, points);
  for (let k = 0; k < n; k++)
    for (let p = 3 * PROBES_PER_FOOTPRINT * k; p < 3 * PROBES_PER_FOOTPRINT * (k + 1); p += 3)
      for (let a = 0; a < 3; a++) ways[p + a] = way[3 * k + a];
}

/** The pivot of each placement, or the corner of its hull that lies farthest towards the ground. */
function writeSingles({ placed, from, n, slots, fit, hold, beneath, flags }: Chunk): void {
  const { way, into, points, ways } = room;
  const { origin, position, rotation, scale } = placed;
  for (let k = 0; k < n; k++) {
    const i = from + k;
    const w = 3 * k;
    const prop = slots.prop[i];
    turned.fill(0);
    if (fit.dropBy === "lowest" && prop !== NO_PROP) {
      const mirrored = isMirrored(flags, i);
      writeBack(rotation, 4 * i, into[w], into[w + 1], into[w + 2]);
      const dx = turned[0] * (mirrored ? -scale[3 * i] : scale[3 * i]);
      const dy = turned[1] * scale[3 * i + 1];
      const dz = turned[2] * scale[3 * i + 2];
      const hull = beneath.hulls[prop];
      if (hull) {
        writeFarthest(hull, dx, dy, dz);
        turn(placed, i, mirrored, local[0], local[1], local[2]);
      } else {
        const b = 6 * prop;
        const side = (d: number, axis: number) => hold.boxes[b + axis] + Math.sign(d) * hold.boxes[b + 3 + axis];
        turn(placed, i, mirrored, side(dx, 0), side(dy, 1), side(dz, 2));
      }
    }
    for (let axis = 0; axis < 3; axis++) {
      points[w + axis] = origin[axis] + position[3 * i + axis] + turned[axis];
      ways[w + axis] = way[w + axis];
    }
  }
}

/** Moves a placement to rest on what its points probes, or does what is wanted where they probes nothing. */
function landOnGround(chunk: Chunk, k: number, probes: number): void {
  const { placed, from, slots, fit, flags } = chunk;
  const i = from + k;
  if (slots.prop[i] === NO_PROP || flags[i] & FLAG.blank) return;
  const { way } = room;
  const travel = restOf(fit, k, probes);
  if (travel !== travel) return groundless(chunk, k, probes);
  const by = travel + fit.sink - fit.lift;
  for (let axis = 0; axis < 3; axis++) placed.position[3 * i + axis] += by * way[3 * k + axis];
  flags[i] &= ~FLAG.groundless;
}

/** How far a placement travels until it rests; NaN where nothing was probes. */
function restOf({ dropRest }: Dropping, k: number, probes: number): number {
  const { travel, triangle } = room.probes;
  let [least, sum, count, u, v] = [Infinity, 0, 0, 0, 0];
  for (let corner = 0, p = probes * k; corner < probes; corner++, p++) {
    if (triangle[p] < 0) continue;
    const t = travel[p];
    if (t < least) least = t;
    sum += t;
    count++;
    u += (SIDE_U[corner] * t) / 4;
    v += (SIDE_V[corner] * t) / 4;
  }
  if (count === 0) return NaN;
  if (dropRest === "highest" || probes === 1) return least;
  if (dropRest === "mean") return sum / count;
  // The plane that fits best, and on it the corner that touches first; with a corner missing there is none.
  return count === probes ? sum / count - Math.abs(u) - Math.abs(v) : least;
}

/** What has no ground in its way. */
function groundless({ placed, from, fit, beneath, flags }: Chunk, k: number, probes: number): void {
  const i = from + k;
  flags[i] |= FLAG.groundless;
  const { position } = placed;
  const { foot, points } = room;
  if (fit.without === "leave" && !(flags[i] & FLAG.pegged)) flags[i] |= FLAG.blank;
  let lowest = Infinity;
  for (let p = probes * k; p < probes * (k + 1); p++) lowest = Math.min(lowest, points[3 * p + 1]);
  if (fit.without === "floor") position[3 * i + 1] += fit.floor - lowest - fit.sink + fit.lift;
  if (fit.without !== "nearest" || !nearestOf(beneath.grounds, foot[3 * k], foot[3 * k + 1], foot[3 * k + 2])) return;
  // The foot comes over the nearest point of the ground, and what was measured lowest onto its height.
  position[3 * i] += met.x - foot[3 * k];
  position[3 * i + 1] += met.y - lowest - fit.sink + fit.lift;
  position[3 * i + 2] += met.z - foot[3 * k + 2];
}

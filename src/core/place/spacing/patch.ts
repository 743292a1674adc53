/**
 * *A flat layout held to a surface at a handle*: each place by walking from there over the mesh, so that distances and angles
 * from the handle are those of the layout, as if the surface were unrolled there (the exponential map; straightest geodesics, K.
 * Polthier, M. Schmies, 1998); or straight down onto it; or to what is nearest.
 */
import { CHANNEL, drawFrom, rotate, streamOf, type Quat, type Vec3 } from "../../math";
import { Walk, type Met, type WorldMesh } from "../../mesh";
import { standOf, type Field } from "../../host";
import { sharesOf, type DensityMask } from "../gaps/density-mask";
import { drawOnField, indicesOf, wordsOf, type Key } from "../keys";
import { Slots, type Spread } from "../slots";
import type { PropChoice } from "../what/what";
import type { FlatPlaces } from "./flat";
import type { Where } from "../where/schema";

/** Where the handle is, and which ways are ahead, to the right and up there; unit vectors square to each other. */
interface Handle {
  point: Vec3;
  triangle: number;
  ahead: Vec3;
  right: Vec3;
  up: Vec3;
}

/** What other steps say of it. */
interface PatchNeeds {
  choice: PropChoice;
  mask: DensityMask;
  seed: number;
  pegged: ReadonlySet<Key>;
}

/** The slots of a patch on its surface; none while there is no surface. */
export function patchSlots(
  params: Pick<Where["patch"], "handle" | "turn" | "held" | "beyond">,
  fields: readonly Field[],
  places: FlatPlaces,
  needs: PatchNeeds | null,
): Slots {
  const [field] = fields;
  if (!field || !needs) return withSpread(new Slots(0), 0);
  const { ground } = field;
  const handle = handleOf(params, field);
  const spread = spreadFor(places.count);
  const there = new Uint8Array(places.count);
  const way = HELD[params.held](ground, handle, params.beyond);
  for (let i = 0; i < places.count; i++) there[i] = way(places.x[i], places.y[i], i, spread) ? 1 : 0;
  const draw = new Uint32Array(places.count);
  const words = wordsOf(places.key);
  for (let i = 0; i < places.count; i++) draw[i] = drawOnField(words[2 * i], words[2 * i + 1]);
  const members = standing(there, places, draw, spread, needs);
  const slots = withSpread(new Slots(members.length), members.length);
  slots.missing = places.missing;
  const out = slots.spread!;
  members.forEach((i, o) => {
    slots.key[o] = places.key[i];
    slots.draw[o] = draw[i];
    out.ordinal[o] = i;
    out.triangle[o] = spread.triangle[i];
    out.flat![2 * o] = places.x[i];
    out.flat![2 * o + 1] = places.y[i];
    for (let k = 0; k < 3; k++) {
      out.position[3 * o + k] = spread.position[3 * i + k];
      out.normal[3 * o + k] = spread.normal[3 * i + k];
      out.ahead![3 * o + k] = spread.ahead![3 * i + k];
    }
    needs.choice.fill(slots.prop, slots.draw, o, o + 1, i);
  });
  slots.at.fill(NaN);
  needs.choice.resolveMixes(slots.prop, slots.draw, 0, slots.count);
  return slots;
}

/** Those that have a place and room, by their own thresholds; what was put there by hand has room. */
function standing(
  there: Uint8Array,
  { count, key, added }: FlatPlaces,
  draw: Uint32Array,
  { position, normal, triangle }: Spread,
  { mask, seed, pegged }: PatchNeeds,
): number[] {
  const shares = sharesOf(mask, { count, position, normal, triangle });
  for (const i of indicesOf(key, pegged)) shares[i] = 1;
  const stream = streamOf(seed, CHANNEL.gapShade);
  const members: number[] = [];
  for (let i = 0; i < count; i++)
    if (there[i] && (added[i] || drawFrom(stream, draw[i], 0) < shares[i])) members.push(i);
  return members;
}

const spreadFor = (n: number): Spread => ({
  position: new Float64Array(3 * n),
  normal: new Float32Array(3 * n),
  triangle: new Uint32Array(n),
  ordinal: new Int32Array(n),
  size: null,
  ahead: new Float32Array(3 * n),
  flat: new Float64Array(2 * n),
});

function withSpread(slots: Slots, n: number): Slots {
  slots.spread = spreadFor(n);
  return slots;
}

const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: ArrayLike<number>, b: ArrayLike<number>): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The part of a direction that is square to a unit vector, one long; null where there is none. */
function squareTo(up: ArrayLike<number>, direction: ArrayLike<number>): Vec3 | null {
  const along = dot(up, direction);
  const flat = [0, 1, 2].map((k) => direction[k] - along * up[k]);
  const length = Math.hypot(...flat);
  return length > 1e-6 ? (flat.map((x) => x / length) as unknown as Vec3) : null;
}

/**
 * What is ahead at a normal: the surface's own front, taken along by the least turn from its own up. So it changes smoothly
 * wherever the handle slides, but where the surface faces straight down.
 */
function frontAt(normal: ArrayLike<number>, rotation: Quat): Vec3 {
  const [up, front] = [rotate(rotation, [0, 1, 0]), rotate(rotation, [0, 0, 1])];
  const cosine = dot(up, normal);
  if (cosine < -1 + 1e-9) return front;
  const axis = cross(up, normal);
  const along = dot(axis, front) / (1 + cosine);
  const side = cross(axis, front);
  const turned = [0, 1, 2].map((k) => cosine * front[k] + side[k] + along * axis[k]);
  return squareTo(normal, turned) ?? front;
}

function handleOf({ handle, turn }: Pick<Where["patch"], "handle" | "turn">, field: Field): Handle {
  const { ground } = field;
  const { position, rotation, scale } = standOf(field);
  const at = rotate(rotation, [scale * handle[0], scale * handle[1], scale * handle[2]]);
  ground.tree.nearest(at[0] + position[0], at[1] + position[1], at[2] + position[2], met);
  const triangle = Math.max(0, met.triangle);
  const up = new Float64Array(3);
  ground.flatNormal(triangle, up);
  const front = frontAt(up, rotation);
  const side = cross(up, front);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const ahead = [0, 1, 2].map((k) => c * front[k] + s * side[k]) as unknown as Vec3;
  return { point: [met.x, met.y, met.z], triangle, ahead, right: cross(ahead, up), up: [up[0], up[1], up[2]] };
}

/** Writes where a place of the layout comes to lie; false where it has none. */
type Lay = (x: number, y: number, i: number, out: Spread) => boolean;

const HELD: Readonly<
  Record<Where["patch"]["held"], (ground: WorldMesh, handle: Handle, beyond: Where["patch"]["beyond"]) => Lay>
> = { walked, projected, nearest };

const normal = new Float64Array(3);

function put(out: Spread, i: number, ground: WorldMesh, triangle: number, point: ArrayLike<number>, ahead: Vec3): true {
  ground.flatNormal(triangle, normal);
  out.triangle[i] = triangle;
  for (let k = 0; k < 3; k++) out.position[3 * i + k] = point[k];
  out.normal.set(normal, 3 * i);
  out.ahead!.set(squareTo(normal, ahead) ?? ahead, 3 * i);
  return true;
}

/** By walking over the mesh; what leads ahead is taken along on the way. */
function walked(ground: WorldMesh, handle: Handle, beyond: Where["patch"]["beyond"]): Lay {
  const walk = new Walk(ground, ground.facets, ground.rest.beyond);
  const { point, triangle, ahead, right } = handle;
  return (x, y, i, out) => {
    const far = Math.hypot(x, y);
    if (far === 0) return put(out, i, ground, triangle, point, ahead);
    const [dx, dy, dz] = [0, 1, 2].map((k) => (y * ahead[k] + x * right[k]) / far);
    const whole = walk.straight(triangle, point[0], point[1], point[2], dx, dy, dz, far);
    if (!whole && (beyond === "leave" || walk.triangle < 0)) return false;
    ground.flatNormal(walk.triangle, normal);
    const way = walk.direction;
    const side = cross(way, normal);
    const turned = [0, 1, 2].map((k) => (y * way[k] - x * side[k]) / far) as unknown as Vec3;
    const place = walk.place.slice();
    if (!whole && beyond === "flat") for (let k = 0; k < 3; k++) place[k] += walk.left * way[k];
    return put(out, i, ground, walk.triangle, place, turned);
  };
}

const flatAt = ({ point, ahead, right }: Handle, x: number, y: number): Vec3 =>
  [0, 1, 2].map((k) => point[k] + x * right[k] + y * ahead[k]) as unknown as Vec3;

/** Along the normal at the handle, to whichever side is nearer. */
function projected(ground: WorldMesh, handle: Handle, beyond: Where["patch"]["beyond"]): Lay {
  const [ux, uy, uz] = handle.up;
  return (x, y, i, out) => {
    const flat = flatAt(handle, x, y);
    let best: { triangle: number; point: Vec3; far: number } | null = null;
    for (const sign of [-1, 1]) {
      ground.tree.first(flat[0], flat[1], flat[2], sign * ux, sign * uy, sign * uz, met);
      if (met.triangle < 0) continue;
      const far = Math.hypot(met.x - flat[0], met.y - flat[1], met.z - flat[2]);
      if (!best || far < best.far) best = { triangle: met.triangle, point: [met.x, met.y, met.z], far };
    }
    if (best) return put(out, i, ground, best.triangle, best.point, handle.ahead);
    if (beyond === "leave") return false;
    ground.tree.nearest(...flat, met);
    return put(out, i, ground, met.triangle, beyond === "flat" ? flat : [met.x, met.y, met.z], handle.ahead);
  };
}

function nearest(ground: WorldMesh, handle: Handle): Lay {
  return (x, y, i, out) => {
    ground.tree.nearest(...flatAt(handle, x, y), met);
    return met.triangle >= 0 && put(out, i, ground, met.triangle, [met.x, met.y, met.z], handle.ahead);
  };
}

/**
 * *A flat layout held to a surface at a handle*: each place by walking from there over the mesh, so that distances and angles
 * from the handle are those of the layout, as if the surface were unrolled there (the exponential map; straightest geodesics, K.
 * Polthier, M. Schmies, 1998); or straight down onto it; or to what is nearest.
 */
import { rotate, type Quat, type Vec3 } from "../../math";
import { Walk, type Met, type WorldMesh } from "../../mesh";
import { standOf } from "../../host";
import { spreadFor } from "./laid-out";
import { cross, dot, findByTries, put, squareTo, type Carrier } from "./carrier";
import type { Spread } from "../slots";
import type { Where } from "../where/schema";

/** Where the handle is, and which ways are ahead, to the right and up there; unit vectors square to each other. */
interface Handle {
  point: Vec3;
  triangle: number;
  ahead: Vec3;
  right: Vec3;
  up: Vec3;
}

export function heldAt(
  params: Pick<Where["patch"], "handle" | "turn" | "held" | "beyond">,
  ground: WorldMesh,
): Carrier {
  const lay = HELD[params.held](ground, handleOf(params, ground), params.beyond);
  return {
    carry(x, y, out, there) {
      for (let i = 0; i < there.length; i++) there[i] = lay(x[i], y[i], i, out) ? 1 : 0;
    },
    find: (point, near) => findByTries(lay, point, near, spreadFor(1)),
  };
}

const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

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

function handleOf({ handle, turn }: Pick<Where["patch"], "handle" | "turn">, ground: WorldMesh): Handle {
  const { position, rotation, scale } = standOf({ ground });
  const at = rotate(rotation, [scale * handle[0], scale * handle[1], scale * handle[2]]);
  ground.tree.nearest(at[0] + position[0], at[1] + position[1], at[2] + position[2], met);
  const triangle = ground.withWidth(Math.max(0, met.triangle), met.x, met.y, met.z);
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

function lies(...given: Parameters<typeof put>): true {
  put(...given);
  return true;
}

/** By walking over the mesh; what leads ahead is taken along on the way. */
function walked(ground: WorldMesh, handle: Handle, beyond: Where["patch"]["beyond"]): Lay {
  const walk = new Walk(ground, ground.facets, ground.rest.beyond);
  const { point, triangle, ahead, right } = handle;
  return (x, y, i, out) => {
    const far = Math.hypot(x, y);
    if (far === 0) return lies(out, i, ground, triangle, point, ahead);
    const [dx, dy, dz] = [0, 1, 2].map((k) => (y * ahead[k] + x * right[k]) / far);
    const whole = walk.straight(triangle, point[0], point[1], point[2], dx, dy, dz, far);
    if (!whole && (beyond === "leave" || walk.triangle < 0)) return false;
    ground.flatNormal(walk.triangle, normal);
    const way = walk.direction;
    const side = cross(way, normal);
    const turned = [0, 1, 2].map((k) => (y * way[k] - x * side[k]) / far) as unknown as Vec3;
    const place = walk.place.slice();
    if (!whole && beyond === "flat") for (let k = 0; k < 3; k++) place[k] += walk.left * way[k];
    return lies(out, i, ground, walk.triangle, place, turned);
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
    if (best) return lies(out, i, ground, best.triangle, best.point, handle.ahead);
    if (beyond === "leave") return false;
    ground.tree.nearest(...flat, met);
    return lies(out, i, ground, met.triangle, beyond === "flat" ? flat : [met.x, met.y, met.z], handle.ahead);
  };
}

function nearest(ground: WorldMesh, handle: Handle): Lay {
  return (x, y, i, out) => {
    ground.tree.nearest(...flatAt(handle, x, y), met);
    return met.triangle >= 0 && lies(out, i, ground, met.triangle, [met.x, met.y, met.z], handle.ahead);
  };
}

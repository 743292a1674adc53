/**
 * *Anchors carried*: what was worked out on surfaces at rest goes along to where they are at the moment. Places keep their
 * barycentric weights and their height; slots on lines whose surface stretches keep their places in it.
 */
import { add, conjugate, rotate, scale, subtract, vectorAt, type Vec3 } from "../math";
import { bind, carryDirection, carryPoints, type Bound, type Stand, type WorldMesh } from "../mesh";
import { standOf, type Field } from "../host";
import { Slots, type Spread } from "./slots";
import type { GuideLine } from "../line";

/** The places of slots on those of their fields that move, bound to these at rest; null where none moves. */
export function boundSlots(fields: readonly Field[], slots: Slots, moves: readonly boolean[]): Bound | null {
  const spread = slots.spread!;
  if (!moves.some(Boolean)) return null;
  const meshes = fields.map(({ ground, free }, k) => (moves[k] && !free ? ground : null));
  return bind(meshes, slots.line, spread.position, spread.triangle, spread.ahead ?? fields.map(frontOf)); // prettier-ignore
}

const frontOf = (field: Field): Vec3 => rotate(standOf(field).rotation, [0, 0, 1]);

/** The fields with their meshes at the moment. */
export const movedFields = (fields: readonly Field[], now: readonly WorldMesh[]): readonly Field[] =>
  fields.every(({ ground }, k) => now[k] === ground)
    ? fields
    : fields.map((field, k) => (now[k] === field.ground ? field : { ...field, ground: now[k] }));

/** The slots where their fields are at the moment. */
export function carriedSlots(
  slots: Slots,
  bound: Bound | null,
  fields: readonly Field[],
  now: readonly Field[],
): Slots {
  if (now.every((field, k) => field === fields[k])) return slots;
  const from = slots.spread!;
  const spread: Spread = {
    ...from,
    position: from.position.slice(),
    normal: from.normal.slice(),
    ahead: new Float32Array(3 * slots.count),
  };
  const meshes = now.map((field, k) => (field === fields[k] || field.free ? null : field.ground));
  const fronts = fields.map(frontOf);
  for (let i = 0; i < slots.count; i++) {
    const k = slots.line[i];
    if (!fields[k]) continue;
    if (now[k] === fields[k]) spread.ahead!.set(from.ahead?.subarray(3 * i, 3 * i + 3) ?? fronts[k], 3 * i);
    else if (fields[k].free) stiffly(spread, from, i, standOf(fields[k]), standOf(now[k]));
  }
  if (bound) {
    carryPoints(bound, meshes, spread.position);
    const [ahead, normal] = [new Float64Array(3), new Float64Array(3)];
    for (let i = 0; i < bound.count; i++) {
      const k = bound.which[i];
      const mesh = meshes[k]!;
      const p = 3 * bound.slot[i];
      const own = from.ahead?.subarray(p, p + 3) ?? fronts[k];
      carryDirection(fields[k].ground, mesh, bound.triangle[i], own, ahead);
      spread.ahead!.set(ahead, p);
      mesh.flatNormal(bound.triangle[i], normal);
      spread.normal.set(normal, 3 * bound.slot[i]);
    }
    spread.carried = { bound, meshes };
  }
  const out = slots.derive();
  out.spread = spread;
  return out;
}

/** What lies in a space goes where that goes. */
function stiffly(spread: Spread, from: Spread, i: number, rest: Stand, now: Stand): void {
  const back = conjugate(rest.rotation);
  const own = rotate(back, subtract(vectorAt(from.position, i), rest.position));
  const there = rotate(now.rotation, scale(own, now.scale / rest.scale));
  spread.position.set(add(now.position, there), 3 * i);
  spread.normal.set(rotate(now.rotation, rotate(back, vectorAt(from.normal, i))), 3 * i);
  spread.ahead!.set(rotate(now.rotation, [0, 0, 1]), 3 * i);
}

/** The slots of lines whose surfaces have moved, where the same places of these are. */
export function carriedAlong(slots: Slots, rest: readonly GuideLine[], now: readonly GuideLine[]): Slots {
  if (slots.count === 0) return slots;
  const places = rest.map((line, k) => (line === now[k] ? null : samePlace(line, now[k])));
  if (places.every((place) => place === null)) return slots;
  const out = slots.derive();
  for (let i = 0; i < slots.count; i++) {
    const place = places[slots.line[i]];
    if (!place) continue;
    out.at[i] = place(slots.at[i]);
    if (!out.span || !slots.span) continue;
    out.span[2 * i] = place(slots.span[2 * i]);
    out.span[2 * i + 1] = place(slots.span[2 * i + 1]);
  }
  return out;
}

/** Arc lengths of a line at rest as those of the same place where it has been carried; null where the two are not alike. */
function samePlace({ curve: rest }: GuideLine, { curve: now }: GuideLine): ((at: number) => number) | null {
  const [from, to] = [rest.spanAt, now.spanAt];
  if (from.length !== to.length || !(rest.length > 0)) return null;
  return (at) => {
    // Beyond the ends, and once round, it is as far as at rest.
    const rounds = rest.closed ? Math.floor(at / rest.length) : 0;
    const own = at - rounds * rest.length;
    if (!rest.closed && own < 0) return own;
    if (!rest.closed && own > rest.length) return now.length + own - rest.length;
    let [low, high] = [0, from.length - 2];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (from[middle] <= own) low = middle;
      else high = middle - 1;
    }
    const long = from[low + 1] - from[low];
    const share = long > 0 ? (own - from[low]) / long : 0;
    return rounds * now.length + to[low] + share * (to[low + 1] - to[low]);
  };
}

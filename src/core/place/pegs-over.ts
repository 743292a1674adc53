/** Pegs of what is spread over fields: moved to a point of its surface, swapped, removed, or put there by hand. */
import { fromOwn, type Field } from "../host";
import { drawOnField, eachOf, hostOfKey, keyOfHex, placeOfKey, type Key } from "./keys";
import { FLAG, NO_PROP, withRoomFor, type Slots } from "./slots";
import type { Vec3 } from "../math";
import { Chart, intoOwn, type Met, type Stand } from "../mesh";
import { omit } from "../schema";
import { carriedPoint, type Carry } from "../tie";
import { hexesOf, sorted, type Peg, type Pegged, type Pegs } from "./pegs";
import type { PropChoice } from "./what/what";

/** The keys of slots that pegs are for, not of those that pegs add. */
export const peggedKeys = (pegs: Pegs, fields: readonly Field[]): Set<Key> =>
  new Set(
    Object.entries(pegs).flatMap(([hex, { on, added }]) =>
      !added && fields.some(({ id }) => id === on) ? keyOfHex(hex) : [],
    ),
  );

/** As `pegged` for lines. A peg's point is found again on its surface, wherever that has gone and however it has changed. */
export function peggedOver(
  slots: Slots,
  pegs: Pegs,
  fields: readonly Field[],
  choice: Pick<PropChoice, "pick">,
): Pegged {
  if (Object.keys(pegs).length === 0) return { slots, orphans: [] };
  const indexOf = new Map(fields.map(({ id }, i) => [id, i]));
  const { wanted, added, orphans } = sorted(pegs, ({ on }) => indexOf.has(on));
  const out = withRoomFor(slots, added.length);
  out.pegged = true;
  added.forEach(([key, peg], k) => {
    const at = slots.count + k;
    const index = indexOf.get(peg.on)!;
    out.line[at] = index;
    out.key[at] = key;
    out.draw[at] = drawOnField(placeOfKey(key), hostOfKey(key));
    out.at[at] = NaN;
    out.prop[at] = NO_PROP;
    put(out, at, peg, fields[index], choice);
  });
  eachOf(slots.key, wanted, (i, key, peg) => {
    wanted.delete(key);
    put(out, i, peg, fields[out.line[i]], choice);
  });
  return { slots: out, orphans: [...orphans, ...hexesOf(wanted.keys(), pegs)] };
}

/**
 * The pegs of pins whose places go along with something, where those have gone, each to be found on its surface again.
 *
 * @param fields at rest
 * @param stands how their surfaces stand now
 * @param carries how far what they are tied to has gone, by their keys as pegs are written by them
 */
export function tiedPegs(
  pegs: Pegs,
  carries: readonly (readonly [hex: string, carry: Carry])[],
  fields: readonly Field[],
  stands: readonly Stand[],
): Pegs {
  const tied = carries.flatMap(([hex, carry]) => {
    const { point, ...peg } = pegs[hex];
    const i = fields.findIndex(({ id }) => id === peg.on);
    return point && i >= 0 ? [[hex, { ...omit(peg, "uv"), point: goneAlong(point, carry, fields[i], stands[i]) }]] : [];
  });
  return { ...pegs, ...Object.fromEntries(tied) };
}

/** Where a point of a field's own has gone with something. */
export const goneAlong = (point: Vec3, carry: Carry, field: Field, stand: Stand): Vec3 =>
  intoOwn(stand, carriedPoint(carry, fromOwn(field, point)));

const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

/** A surface that is no farther from where something was pinned than this, metres, is where it was. */
const HELD = 0.003;
/** What had to move farther than this, metres, to be on its surface has strayed. */
const STRAYED = 0.05;

/** What a peg says of the slot that it is for. */
function put(slots: Slots, i: number, peg: Peg, field: Field, choice: Pick<PropChoice, "pick">): void {
  slots.flags[i] |= FLAG.pegged | (peg.removed ? FLAG.blank : 0);
  const prop = peg.prop === undefined ? NO_PROP : choice.pick(peg.prop, slots.draw[i]);
  if (prop !== NO_PROP) slots.prop[i] = prop;
  slots.turnByHand(i, peg.turn);
  slots.stretchByHand(i, peg.stretch);
  const spread = slots.spread!;
  if (peg.lift) (spread.lift ??= new Float32Array(slots.count))[i] = peg.lift;
  if (peg.size !== undefined) (spread.size ??= new Float32Array(slots.count).fill(1))[i] = peg.size;
  const { ground } = field;
  if (field.free) return peg.point && putFree(slots, i, fromOwn(field, peg.point), field);
  if (peg.flat) slots.flags[i] |= FLAG.moved;
  if (!find(peg, field)) return;
  if (peg.point && apart(fromOwn(field, peg.point)) > STRAYED) slots.flags[i] |= FLAG.strayed;
  slots.flags[i] |= FLAG.moved;
  spread.position.set([met.x, met.y, met.z], 3 * i);
  spread.triangle[i] = met.triangle;
  const face = new Float64Array(3);
  ground.flatNormal(met.triangle, face);
  spread.normal.set(face, 3 * i);
}

const apart = ([x, y, z]: Vec3): number => Math.hypot(met.x - x, met.y - y, met.z - z);

/** Looks for where on its surface a peg is: where it was put, or on another mesh at its texture coordinates, or the nearest place. */
function find({ point, uv }: Peg, field: Field): boolean {
  const { ground } = field;
  const at = point && fromOwn(field, point);
  met.triangle = -1;
  if (at) ground.tree.nearest(...at, met);
  if (uv && (!at || met.triangle < 0 || apart(at) > HELD)) {
    const there = Chart.atUv(ground, uv[0], uv[1]);
    if (there) {
      met.triangle = there.triangle;
      [met.x, met.y, met.z] = there.point;
    }
  }
  return met.triangle >= 0;
}

/** In a volume, and where things lie loose, there is nothing to be put onto; what is beyond its walls stays there and is found by a check. */
function putFree(slots: Slots, i: number, point: Vec3, { volume }: Field): void {
  const spread = slots.spread!;
  slots.flags[i] |= FLAG.moved;
  spread.position.set(point, 3 * i);
  spread.normal.set(volume ? volume.outward(point) : [0, 1, 0], 3 * i);
}

/** *Loose placements that hang by a snap point of their prop*: whatever else turns or moves them, both ends meet. */
import { conjugate, dot, fromAxisAngle, multiply, rotate } from "../math";
import { carriedFrame, hungBy, type Carry, type Frame, type SnapPoint, type Standing } from "../tie";
import { indicesOf, keyOfHex, type Key } from "./keys";
import { LOOSE } from "./where/schema";
import { standingAt } from "./standing-at";
import type { Placed } from "./compose";
import type { Placements } from "./placements";
import type { Peg, Pegs } from "./pegs";

/** What one hangs by, and on. */
export interface Hanging {
  key: Key;
  by: string;
  on: Frame;
  free: boolean;
  turn: number;
}

/** What something hangs on, carried along with that. */
export function carriedHangs(hangs: NonNullable<Peg["hangs"]>, carry: Carry): NonNullable<Peg["hangs"]> {
  const { position, rotation } = carriedFrame(carry, { position: hangs.at, rotation: hangs.turned });
  return { ...hangs, at: position, turned: rotation };
}

/** Hung by its pivot, something can stand any way. */
const BY_PIVOT: SnapPoint = { name: "pivot", position: [0, 0, 0], direction: [0, 1, 0], free: true, own: false };

/** The peg by which a loose prop of a dressing without any rules of its own stands just so; mirrored by the dressing, if at all. */
export function pegStanding(prop: string, { position, rotation, scale: [x0, up, along] }: Standing): Peg {
  const across = Math.abs(x0);
  const scale: [number, number, number] = [across, up, along];
  const size = up === across && along === across ? (across !== 1 ? { size: across } : {}) : { stretch: scale };
  const peg: Peg = { on: LOOSE, prop, added: true, point: position, ...size };
  const [x, y, z, w] = rotation;
  if (Math.hypot(x, z) < UPRIGHT) {
    const turn = 2 * Math.atan2(y, w);
    return Math.abs(turn) < UPRIGHT ? peg : { ...peg, turn };
  }
  const turned = multiply(rotation, fromAxisAngle([1, 0, 0], Math.PI));
  const found = hungBy({ position, rotation: [0, 0, 0, 1], scale }, BY_PIVOT, { position, rotation: turned }, true);
  // What is left is a turn about the prop's own up, seen from the place that it hangs on.
  const left = multiply(rotation, conjugate(found.rotation));
  const turn = 2 * Math.atan2(dot([left[0], left[1], left[2]], rotate(turned, [0, 1, 0])), left[3]);
  return { ...peg, hangs: { by: BY_PIVOT.name, at: position, turned, turn, free: true } };
}

/** What leans by less than this stands upright. */
const UPRIGHT = 1e-6;

/** The pegs that hang, each on its place where that has been carried. */
export function hangingIn(pegs: Pegs, carryOf: (key: string) => Carry | null): Hanging[] {
  return Object.entries(pegs).flatMap(([hex, { on, held, hangs }]): Hanging[] => {
    if (!hangs || on !== LOOSE) return [];
    const carry = held ? carryOf(hex) : null;
    const stood: Frame = { position: hangs.at, rotation: hangs.turned };
    const place = carry ? carriedFrame(carry, stood) : stood;
    return [{ key: keyOfHex(hex), by: hangs.by, on: place, free: hangs.free, turn: hangs.turn }];
  });
}

/**
 * The placements with those that hang at their places; one whose prop has no such snap point stays as it stands.
 *
 * @param snaps of each of the dressing's props
 */
export function hung(
  placed: Placed,
  { key, prop, flags, props }: Pick<Placements, "key" | "prop" | "flags" | "props">,
  hanging: readonly Hanging[],
  snaps: readonly (readonly SnapPoint[])[],
): Placed {
  const [position, rotation] = [placed.position.slice(), placed.rotation.slice()];
  const by = new Map(hanging.map((one) => [one.key, one]));
  for (const i of indicesOf(key, by.keys())) {
    const { by: name, on, free, turn } = by.get(key[i])!;
    const standing = standingAt({ ...placed, prop, flags, props }, i);
    const own = standing.prop === null ? undefined : snaps[prop[i]].find((one) => one.name === name);
    if (!own) continue;
    const there = hungBy(standing, own, on, free, turn);
    for (let k = 0; k < 3; k++) position[3 * i + k] = there.position[k] - placed.origin[k];
    rotation.set(there.rotation, 4 * i);
  }
  return { ...placed, position, rotation };
}

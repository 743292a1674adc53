/** The frames of what something holds: each goes along with that as one piece. */
import { quatAt } from "../math";
import { carriedPoint, carriedTurn, type Carry } from "../tie";
import { indicesOf, type Key } from "./keys";
import type { Frames } from "./frames";

/** @param carries how far what holds them has gone, by their keys */
export function heldFrames(
  { origin, feet, rotation, facing }: Frames,
  key: BigUint64Array,
  carries: readonly (readonly [key: Key, carry: Carry])[],
): Frames {
  const out = { origin, feet: feet.slice(), rotation: rotation.slice(), facing };
  out.facing = facing === rotation ? out.rotation : facing.slice();
  const by = new Map(carries);
  for (const i of indicesOf(key, by.keys())) {
    const carry = by.get(key[i])!;
    const point = carriedPoint(carry, [
      origin[0] + feet[3 * i],
      origin[1] + feet[3 * i + 1],
      origin[2] + feet[3 * i + 2],
    ]);
    for (let k = 0; k < 3; k++) out.feet[3 * i + k] = point[k] - origin[k];
    out.rotation.set(carriedTurn(carry, quatAt(rotation, i)), 4 * i);
    if (facing !== rotation) out.facing.set(carriedTurn(carry, quatAt(facing, i)), 4 * i);
  }
  return out;
}

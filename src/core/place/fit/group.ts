/** Dropping loose placements as one group: all come down by as much as the first of them that touches, and none is turned. */
import { dropInto, type Beneath } from "./drop";
import { FLAG, type Slots } from "../slots";
import type { Parts, Placed } from "../compose";
import type { Dropping } from "./schema";

export function dropTogether(
  placed: Placed,
  slots: Slots,
  parts: Parts,
  fit: Dropping,
  beneath: Beneath,
  flags: Uint16Array,
): void {
  const before = { position: placed.position.slice(), rotation: placed.rotation.slice() };
  dropInto(placed, 0, slots.count, slots, parts, { ...fit, drop: "down", lean: 0 }, beneath, flags);
  let by = -Infinity;
  for (let i = 0; i < slots.count; i++) {
    if ((flags[i] & (FLAG.groundless | FLAG.blank)) === 0) {
      by = Math.max(by, placed.position[3 * i + 1] - before.position[3 * i + 1]);
    }
  }
  placed.position.set(before.position);
  placed.rotation.set(before.rotation);
  if (by === -Infinity) return;
  for (let i = 0; i < slots.count; i++) placed.position[3 * i + 1] += by;
}

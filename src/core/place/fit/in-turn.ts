/** Dropping loose placements one after the other, each onto the ground and onto those that came down before it. */
import { dropInto, type Beneath } from "./drop";
import { standingMesh, type Solid } from "../props-as-ground";
import { FLAG, NO_PROP, type Slots } from "../slots";
import type { WorldMesh } from "../../mesh";
import type { Parts, Placed } from "../compose";
import type { Dropping } from "./schema";

/** So many are ground for those after them; the rest come down onto the ground alone, and onto these. */
export const MOST_IN_TURN = 2000;

/** @param solids the meshes of the dressing's props, by their indices */
export function dropInTurn(
  placed: Placed,
  slots: Slots,
  parts: Parts,
  fit: Dropping,
  beneath: Beneath,
  flags: Uint16Array,
  solids: readonly Solid[],
): void {
  const down: { mesh: WorldMesh; x: number; z: number; radius: number }[] = [];
  const { origin, position, scale } = placed;
  const { boxes } = parts.hold;
  for (let i = 0; i < slots.count; i++) {
    const prop = slots.prop[i];
    const stands = prop !== NO_PROP && (flags[i] & FLAG.blank) === 0;
    // From its origin to its farthest corner, whichever way it is turned.
    const reach = stands ? Math.max(...scale.subarray(3 * i, 3 * i + 3)) * farthest(boxes, prop) : 0;
    const [x, z] = [origin[0] + position[3 * i], origin[2] + position[3 * i + 2]];
    // What looks straight down meets only what lies under it; any other way may lead anywhere.
    const near = down.filter((one) => fit.drop !== "down" || Math.hypot(one.x - x, one.z - z) <= reach + one.radius);
    const grounds = [...beneath.grounds, ...near.map(({ mesh }) => mesh)];
    dropInto(placed, i, i + 1, slots, parts, fit, { ...beneath, grounds }, flags);
    if (!stands || down.length >= MOST_IN_TURN) continue;
    const mesh = standingMesh(`${i}`, { ...placed, prop: slots.prop, flags }, [i], (k) => solids[k]);
    down.push({ mesh, x: origin[0] + position[3 * i], z: origin[2] + position[3 * i + 2], radius: reach });
  }
}

function farthest(boxes: Float64Array, prop: number): number {
  const b = 6 * prop;
  return Math.hypot(...[0, 1, 2].map((axis) => Math.abs(boxes[b + axis]) + boxes[b + 3 + axis]));
}

/** How one of many placements stands. */
import { quatAt, vectorAt, type Quat, type Vec3 } from "../math";
import { FLAG, NO_PROP } from "./slots";
import type { Placements } from "./placements";

/** Where placement `i` is in the world, how it is turned and sized, below zero across where it is mirrored; its prop, if any. */
export function standingAt(
  {
    position,
    rotation,
    scale,
    origin,
    flags,
    prop,
    props,
  }: Pick<Placements, "position" | "rotation" | "scale" | "origin" | "flags" | "prop" | "props">,
  i: number,
): { position: Vec3; rotation: Quat; scale: Vec3; prop: string | null } {
  const [x, y, z] = vectorAt(position, i);
  const [across, up, along] = vectorAt(scale, i);
  const blank = prop[i] === NO_PROP || (flags[i] & FLAG.blank) !== 0;
  return {
    position: [origin[0] + x, origin[1] + y, origin[2] + z],
    rotation: quatAt(rotation, i),
    scale: [flags[i] & FLAG.mirrored ? -across : across, up, along],
    prop: blank ? null : props[prop[i]],
  };
}

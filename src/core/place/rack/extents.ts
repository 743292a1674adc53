/** How far a prop reaches from where it meets its line: across to the left (0) or up (1), as it is held or as it stands. */
import { rotate, type Quat, type Vec3 } from "../../math";
import type { Hold } from "../stance/stance";

/** @returns the lower and the upper end, metres from the contact */
export function extentAlong(
  { boxes, contact }: Pick<Hold, "boxes" | "contact">,
  prop: number,
  turn: Quat,
  scale: Vec3,
  axis: 0 | 1,
): [low: number, high: number] {
  let [half, middle] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const own: Vec3 = [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0];
    const along = rotate(turn, own)[axis] * scale[k];
    half += Math.abs(along) * boxes[6 * prop + 3 + k];
    middle += along * (boxes[6 * prop + k] - contact[3 * prop + k]);
  }
  return [middle - half, middle + half];
}

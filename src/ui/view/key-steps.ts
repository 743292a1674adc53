/** How far keys move things in the view: arrows on the level, as they lie on the screen; Page Up and Down upright. */
import type { Vec3 } from "@/core/math";

/** Metres; ten times as much with Shift, a tenth with Alt. */
const STEP = 0.1;

const TURNS: Readonly<Record<string, number>> = { ArrowUp: 0, ArrowRight: 1, ArrowDown: 2, ArrowLeft: 3 };

type Keys = Pick<KeyboardEvent, "key" | "shiftKey" | "altKey">;

/** Whether a key moves things at all. */
export const isStep = ({ key }: Pick<KeyboardEvent, "key">): boolean =>
  key in TURNS || key === "PageUp" || key === "PageDown";

/**
 * The step that a key makes, metres; null for a key that makes none.
 *
 * @param facing where the view looks, seen from above: x and z
 */
export function stepOfKey({ key, shiftKey, altKey }: Keys, facing: readonly [x: number, z: number]): Vec3 | null {
  const by = STEP * (shiftKey ? 10 : altKey ? 0.1 : 1);
  if (key === "PageUp") return [0, by, 0];
  if (key === "PageDown") return [0, -by, 0];
  if (!(key in TURNS)) return null;
  // The axis that is nearest to where the view looks is away from the artist.
  const [x, z] = facing;
  let [dx, dz] = Math.abs(x) > Math.abs(z) ? [Math.sign(x), 0] : [0, Math.sign(z) || -1];
  for (let turn = 0; turn < TURNS[key]; turn++) [dx, dz] = [-dz, dx];
  return [dx * by + 0, 0, dz * by + 0];
}

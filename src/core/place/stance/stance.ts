/** Step 4, Stance: how a prop is held in the line's frame, the same for every slot of the dressing. */
import { fromTurns, type Quat } from "../../math";
import type { UpRule } from "../../line";
import type { PropBounds } from "../bounds";
import type { Stance } from "./schema";

export interface Hold {
  up: UpRule;
  /** The prop's turn within the frame. */
  turn: Quat;
  /** For each prop the height, in its own metres, at which it meets the line: its bottom or its top. */
  contact: Float64Array;
}

export function stance(params: Stance, bounds: readonly PropBounds[]): Hold {
  return {
    up: params.up,
    turn: fromTurns(params.turnAlong, params.turnAcross, params.turnUp),
    contact: Float64Array.from(bounds, ({ min, max }) => (params.meets === "hang" ? max[1] : min[1])),
  };
}

import { useSession } from "../../state";
import { focusedLine, placementUnder } from "../selecting";
import { boxGrip } from "./box";
import { patchGrip, pinGrip, placementGrip, pullGrip, selectedPinGrip } from "./held";
import { lineGrip } from "./line";
import { sideGrip, surfaceGrip } from "./surface";
import type { Aim } from "../aim";
import type { Grip } from "./grip";

export type { Grip } from "./grip";
export { patchGrip, placementGrip, pullGrip } from "./held";
export { ringUnder } from "./line";
export { Pull } from "./pull";
export { sideGrip, surfaceGrip } from "./surface";

/** What a press takes hold of, the first of these that is under the pointer; null for what is left to the camera. */
export function gripUnder(aim: Aim, { shiftKey, altKey }: { shiftKey: boolean; altKey: boolean }): Grip | null {
  if (useSession.getState().tool === "pin") return pinGrip(placementUnder(aim), altKey);
  const line = focusedLine();
  return (
    (line ? lineGrip(aim, line, shiftKey) : null) ??
    pullGrip(aim) ??
    patchGrip(aim) ??
    (shiftKey ? null : selectedPinGrip(placementUnder(aim), altKey)) ??
    sideGrip(aim) ??
    surfaceGrip(aim) ??
    (shiftKey ? boxGrip() : placementGrip(placementUnder(aim)))
  );
}

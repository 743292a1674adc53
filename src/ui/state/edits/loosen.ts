/** What becomes of pins whose surface goes. */
import { add, rotate, scale } from "@/core/math";
import { LOOSE, type Dressing } from "@/core/place";
import type { Surface } from "@/core/scene";
import type { Draft } from "immer";

/** The pins of a surface that goes are loose from then on, where they were. */
export function loosenPins(dressing: Draft<Dressing>, surface: Surface): void {
  for (const peg of Object.values(dressing.pegs)) {
    if (peg.on !== surface.id || !peg.point) continue;
    peg.on = LOOSE;
    peg.point = [...add(surface.position, rotate(surface.rotation, scale(peg.point, surface.scale)))];
    delete peg.uv;
  }
}

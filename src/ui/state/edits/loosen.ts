/** What becomes of pins whose surface goes. */
import { fromStand } from "@/core/mesh";
import { LOOSE, type Dressing, type Sowing } from "@/core/place";
import type { Surface } from "@/core/scene";
import { movedSowing } from "./sown";
import type { Draft } from "immer";

/** The pins of a surface that goes, and what was sown on it, are loose from then on, where they were. */
export function loosenPins(dressing: Draft<Dressing>, surface: Surface): void {
  for (const peg of Object.values(dressing.pegs)) {
    if (peg.on !== surface.id || !peg.point) continue;
    peg.on = LOOSE;
    peg.point = [...fromStand(surface, peg.point)];
    delete peg.uv;
  }
  dressing.sown = dressing.sown.map((sowing) =>
    sowing.on === surface.id
      ? (movedSowing(sowing as Sowing, LOOSE, (own) => fromStand(surface, own)) as Draft<Sowing>)
      : sowing,
  );
}

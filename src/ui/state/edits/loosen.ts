/** What becomes of pins whose surface goes. */
import { add, rotate, scale, type Vec3 } from "@/core/math";
import { LOOSE, type Dressing, type Sowing } from "@/core/place";
import type { Surface } from "@/core/scene";
import { movedSowing } from "./sown";
import type { Draft } from "immer";

/** The pins of a surface that goes, and what was sown on it, are loose from then on, where they were. */
export function loosenPins(dressing: Draft<Dressing>, surface: Surface): void {
  const inWorld = (own: Vec3): Vec3 => add(surface.position, rotate(surface.rotation, scale(own, surface.scale)));
  for (const peg of Object.values(dressing.pegs)) {
    if (peg.on !== surface.id || !peg.point) continue;
    peg.on = LOOSE;
    peg.point = [...inWorld(peg.point)];
    delete peg.uv;
  }
  dressing.sown = dressing.sown.map((sowing) =>
    sowing.on === surface.id ? (movedSowing(sowing as Sowing, LOOSE, inWorld) as Draft<Sowing>) : sowing,
  );
}

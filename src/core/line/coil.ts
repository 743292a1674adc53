/** Coil: a helix about up whose radius goes evenly from one end's to the other's; counter-clockwise seen from above. */
import { Pieces } from "./pieces";
import { placeOf, type Coil } from "./schema";
import type { Curve } from "./curve";

export function coil(line: Coil): Curve {
  const whole = 2 * Math.PI * line.turns;
  const rise = line.height / whole;
  const growth = (line.endRadius - line.radius) / whole;
  const radius = (angle: number) => line.radius + growth * angle;
  const bend = {
    position: (angle: number) =>
      [radius(angle) * Math.cos(angle), rise * angle, -radius(angle) * Math.sin(angle)] as const,
    derivative: (angle: number) =>
      [
        growth * Math.cos(angle) - radius(angle) * Math.sin(angle),
        rise,
        -growth * Math.sin(angle) - radius(angle) * Math.cos(angle),
      ] as const,
  };
  return new Pieces().knot().bend(bend, 0, whole).knot().finish(false, placeOf(line));
}

/** The coil as a ring needs it: with whole turns, and as wide at its end as at its start. */
export const wholeTurns = (line: Coil): Coil => ({
  ...line,
  turns: Math.max(1, Math.round(line.turns)),
  endRadius: line.radius,
});

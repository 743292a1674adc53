/** Rounded rectangle: four straight sides and four quarter circles, counter-clockwise seen from above. */
import { ellipseBend, Pieces } from "./pieces";
import { placeOf, type Rectangle } from "./schema";
import type { Vec3 } from "../math";
import type { Curve } from "./curve";

export function rectangle(line: Rectangle): Curve {
  const r = Math.min(line.corner, line.length / 2, line.width / 2);
  const [x, z] = [line.length / 2 - r, line.width / 2 - r];
  const middles: Vec3[] = [
    [x, 0, -z],
    [-x, 0, -z],
    [-x, 0, z],
    [x, 0, z],
  ];
  const pieces = new Pieces();
  middles.forEach((middle, i) => {
    const bend = ellipseBend(r, r, middle);
    const [from, to] = [(i * Math.PI) / 2, ((i + 1) * Math.PI) / 2];
    if (r > 0) pieces.bend(bend, from, to, 1);
    else pieces.knot();
    pieces.straight(bend.position(to), ellipseBend(r, r, middles[(i + 1) % 4]).position(to));
  });
  return pieces.finish(true, placeOf(line));
}

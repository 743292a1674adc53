/** Circle: on the level counter-clockwise seen from above, from the side to which it heads. */
import { ellipseBend, Pieces } from "./pieces";
import { placeOf, type Circle } from "./schema";
import type { Curve } from "./curve";

export const circle = (line: Circle): Curve =>
  new Pieces().bend(ellipseBend(line.radius, line.radius), 0, 2 * Math.PI).finish(true, placeOf(line));

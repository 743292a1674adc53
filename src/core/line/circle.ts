/** Circle: on the level counter-clockwise seen from above, from the side to which it heads. */
import { ellipseBend, quartered } from "./pieces";
import { placeOf, type Circle } from "./schema";
import type { Curve } from "./curve";

export const circle = (line: Circle): Curve =>
  quartered(ellipseBend(line.radius, line.radius)).finish(true, placeOf(line));

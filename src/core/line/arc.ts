/** Arc: a part of a circle, symmetric about its heading. */
import { ellipseBend, Pieces } from "./pieces";
import { placeOf, type Arc } from "./schema";
import type { Curve } from "./curve";

export const arc = (line: Arc): Curve =>
  new Pieces()
    .knot()
    .bend(ellipseBend(line.radius, line.radius), (Math.PI - line.sweep) / 2, (Math.PI + line.sweep) / 2)
    .knot()
    .finish(false, placeOf(line));

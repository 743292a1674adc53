/** Ellipse: half its length along its heading's X, half its width along Z. */
import { ellipseBend, Pieces } from "./pieces";
import { placeOf, type Ellipse } from "./schema";
import type { Curve } from "./curve";

export const ellipse = (line: Ellipse): Curve =>
  new Pieces().bend(ellipseBend(line.length / 2, line.width / 2), 0, 2 * Math.PI).finish(true, placeOf(line));

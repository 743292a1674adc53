/** Ellipse: half its length along its heading's X, half its width along Z. */
import { ellipseBend, quartered } from "./pieces";
import { placeOf, type Ellipse } from "./schema";
import type { Curve } from "./curve";

export const ellipse = (line: Ellipse): Curve =>
  quartered(ellipseBend(line.length / 2, line.width / 2)).finish(true, placeOf(line));

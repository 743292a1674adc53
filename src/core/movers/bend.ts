/**
 * A surface bent along one of its directions: what is straight becomes an arc of the same length (A. H. Barr, *Global and Local
 * Deformations of Solid Primitives*, SIGGRAPH 1984). What lies before the arc stays, what lies beyond it goes straight on.
 */
import { spanAlong, type Along } from "./along";
import type { Moves } from "./moving";
import type { Bend } from "./schema";

/** What is bent by less than this, radians, stays. */
const STRAIGHT = 1e-9;

export const bend: Moves<Bend> = {
  move(mover, moving, weight) {
    if (Math.abs(mover.angle) < STRAIGHT) return;
    const { axis, first, second, low, high, middle } = spanAlong(mover, moving);
    if (!(high > low)) return;
    const radius = (high - low) / mover.angle;
    const [c, s] = [Math.cos(mover.towards), Math.sin(mover.towards)];
    const P = moving.position;
    const at: Along = { axis, first, second };
    for (let p = 0, v = 0; p < P.length; p += 3, v++) {
      const share = weight ? weight[v] : 1;
      const [a, x, y] = [P[p + at.axis], P[p + at.first] - middle[first], P[p + at.second] - middle[second]];
      // Towards where it bends, and square to it.
      const [h, w] = [c * x + s * y, c * y - s * x];
      const arc = Math.max(0, Math.min(high - low, a - low));
      const turned = arc / radius;
      const [sine, cosine] = [Math.sin(turned), Math.cos(turned)];
      const beyond = a - low - arc;
      const along = low + (radius - h) * sine + beyond * cosine;
      const across = radius - (radius - h) * cosine + beyond * sine;
      P[p + axis] += share * (along - a);
      P[p + first] += share * (c * across - s * w - x);
      P[p + second] += share * (s * across + c * w - y);
    }
    moving.changed();
  },
};

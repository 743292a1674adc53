/** A surface twisted about one of its directions, through the middle of its box. */
import { spanAlong } from "./along";
import type { Moves } from "./moving";
import type { Twist } from "./schema";

export const twist: Moves<Twist> = {
  move(mover, moving, weight) {
    const { axis, first, second, low, high, middle } = spanAlong(mover, moving);
    const P = moving.position;
    const long = high - low;
    for (let p = 0, v = 0; p < P.length; p += 3, v++) {
      const share = weight ? weight[v] : 1;
      const gone = long > 0 ? Math.max(0, Math.min(1, (P[p + axis] - low) / long)) : 0;
      const [sine, cosine] = [Math.sin(share * mover.angle * gone), Math.cos(share * mover.angle * gone)];
      const [x, y] = [P[p + first] - middle[first], P[p + second] - middle[second]];
      P[p + first] = middle[first] + cosine * x - sine * y;
      P[p + second] = middle[second] + sine * x + cosine * y;
    }
    moving.changed();
  },
};

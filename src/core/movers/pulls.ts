/** A surface pulled by hand here and there: what lies near the place that was taken hold of follows. */
import type { Moves } from "./moving";
import type { Pulls } from "./schema";

export const pulls: Moves<Pulls> = {
  move({ pulls: all }, moving, weight) {
    const { position: P, rest, size } = moving;
    const own = rest.mesh.position;
    for (const { at, by, reach, soft } of all) {
      const hard = reach * (1 - soft);
      for (let p = 0, v = 0; p < P.length; p += 3, v++) {
        const [x, y, z] = [own[p] - at[0], own[p + 1] - at[1], own[p + 2] - at[2]];
        const far = size * Math.sqrt(x * x + y * y + z * z);
        if (far >= reach) continue;
        const share = (weight ? weight[v] : 1) * easing(far <= hard ? 0 : (far - hard) / (reach - hard));
        for (let axis = 0; axis < 3; axis++) P[p + axis] += share * by[axis];
      }
    }
    if (all.length > 0) moving.changed();
  },
};

/** From 1 at 0 to 0 at 1, level at both. */
const easing = (x: number): number => 1 - x * x * (3 - 2 * x);

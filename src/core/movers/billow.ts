/** A bulge between edges that are held, which comes and goes as if the surface breathed. */
import type { Moves } from "./moving";
import type { Billow } from "./schema";

export const billow: Moves<Billow> = {
  move({ depth, breath, gone = 0 }, moving, weight) {
    const { position: P, normals: N } = moving;
    const full = depth * (1 - 0.5 * breath * (1 - Math.cos(2 * Math.PI * gone)));
    for (let p = 0, v = 0; p < P.length; p += 3, v++) {
      const out = full * (weight ? weight[v] : 1);
      P[p] += out * N[p];
      P[p + 1] += out * N[p + 1];
      P[p + 2] += out * N[p + 2];
    }
    moving.changed();
  },
};

/**
 * Waves that run over a surface: trochoidal ones as water has them (F. J. Gerstner, *Theorie der Wellen*, 1802), whose points
 * go round in circles, or up and down along the normal as in cloth.
 */
import { writeSine } from "../math";
import type { Moves, Moving, Weight } from "./moving";
import type { Waves } from "./schema";

export const waves: Moves<Waves> = {
  move(mover, moving, weight) {
    if (mover.along === "up") lift(mover, moving, weight);
    else ripple(mover, moving, weight);
    moving.changed();
  },
};

const waving = new Float64Array(2);

/** How far they have gone since a crest was last where they began, metres. */
const goneOf = ({ gone = 0, length }: Waves): number => gone % length;

/** Radians a metre, and half the way from trough to crest. */
const measures = ({ length, height }: Waves) => ({ k: (2 * Math.PI) / length, amplitude: height / 2 });

function lift(mover: Waves, { position: P }: Moving, weight: Weight): void {
  const { k, amplitude } = measures(mover);
  const [dx, dz] = [Math.sin(mover.heading), -Math.cos(mover.heading)];
  // No sharper than where crests would cut through themselves.
  const round = mover.pointed * Math.min(amplitude, 1 / k);
  const gone = goneOf(mover);
  for (let p = 0, v = 0; p < P.length; p += 3, v++) {
    const share = weight ? weight[v] : 1;
    if (share === 0) continue;
    writeSine(k * (dx * P[p] + dz * P[p + 2] - gone), waving);
    const out = share * round * waving[0];
    P[p] -= dx * out;
    P[p + 1] += share * amplitude * waving[1];
    P[p + 2] -= dz * out;
  }
}

function ripple(mover: Waves, moving: Moving, weight: Weight): void {
  const { k, amplitude } = measures(mover);
  const { position: P, normals: N, rest, size } = moving;
  const [du, dv] = [Math.cos(mover.heading), Math.sin(mover.heading)];
  const gone = goneOf(mover);
  const flat = rest.chart?.flat;
  const own = rest.mesh.position;
  for (let p = 0, v = 0; p < P.length; p += 3, v++) {
    const share = weight ? weight[v] : 1;
    if (share === 0) continue;
    // By its texture coordinates at real size, or else over its own plan.
    const [x, y] = flat ? [flat[p], flat[p + 2]] : [own[p], -own[p + 2]];
    writeSine(k * (size * (du * x + dv * y) - gone), waving);
    const off = share * amplitude * waving[1];
    P[p] += off * N[p];
    P[p + 1] += off * N[p + 1];
    P[p + 2] += off * N[p + 2];
  }
}

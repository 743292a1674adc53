/**
 * Waves that run over a surface: trochoidal ones as water has them (F. J. Gerstner, *Theorie der Wellen*, 1802), whose points
 * go round in circles, or up and down along the normal as in cloth.
 */
import { writeSines } from "../math";
import type { Moves, Moving, Weight } from "./moving";
import type { Waves } from "./schema";

export const waves: Moves<Waves> = {
  move(mover, moving, weight) {
    if (mover.along === "up") lift(mover, moving, weight);
    else ripple(mover, moving, weight);
    moving.changed();
  },
};

/** Vertices whose sines are worked out at a time. */
const TOGETHER = 512;
const phases = new Float64Array(TOGETHER);
const waving = new Float64Array(2 * TOGETHER);

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
  const vertices = P.length / 3;
  for (let from = 0; from < vertices; from += TOGETHER) {
    const n = Math.min(TOGETHER, vertices - from);
    for (let i = 0, p = 3 * from; i < n; i++, p += 3) phases[i] = k * (dx * P[p] + dz * P[p + 2] - gone);
    writeSines(phases, n, waving);
    for (let i = 0, p = 3 * from; i < n; i++, p += 3) {
      const share = weight ? weight[from + i] : 1;
      const out = share * round * waving[2 * i];
      P[p] -= dx * out;
      P[p + 1] += share * amplitude * waving[2 * i + 1];
      P[p + 2] -= dz * out;
    }
  }
}

function ripple(mover: Waves, moving: Moving, weight: Weight): void {
  const { k, amplitude } = measures(mover);
  const { position: P, normals: N, rest, size } = moving;
  const [du, dv] = [Math.cos(mover.heading), Math.sin(mover.heading)];
  const gone = goneOf(mover);
  const flat = rest.uvChart?.flat;
  const own = rest.mesh.position;
  // By its texture coordinates at real size, or else over its own plan.
  const [plan, back] = flat ? [flat, 1] : [own, -1];
  const vertices = P.length / 3;
  for (let from = 0; from < vertices; from += TOGETHER) {
    const n = Math.min(TOGETHER, vertices - from);
    for (let i = 0, p = 3 * from; i < n; i++, p += 3)
      phases[i] = k * (size * (du * plan[p] + dv * back * plan[p + 2]) - gone);
    writeSines(phases, n, waving);
    for (let i = 0, p = 3 * from; i < n; i++, p += 3) {
      const off = (weight ? weight[from + i] : 1) * amplitude * waving[2 * i + 1];
      P[p] += off * N[p];
      P[p + 1] += off * N[p + 1];
      P[p + 2] += off * N[p + 2];
    }
  }
}

/**
 * `unroll-10k` and `unroll-50k`: meshes without texture coordinates laid flat, the slowest of four that bend both ways, with
 * how far off their lengths are and how long their seams; `unroll-round`: a cone of 50,000 triangles. They are reported: no
 * public package does this under a content policy without `unsafe-eval`.
 */
import { AS_IT_COMES, Chart, RestMesh, WorldMesh } from "../src/core/mesh";
import { unroll, unrollRound } from "../src/core/mesh/unroll";
import { FREE, freeMesh, lattice, round } from "../src/core/mesh/unroll/testing";
import type { Row } from "./row";

const STAND = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;

function extent(position: Float64Array): number {
  return Math.hypot(
    ...[0, 1, 2].map((axis) => {
      const own = position.filter((_, p) => p % 3 === axis);
      return own.reduce((a, b) => Math.max(a, b)) - own.reduce((a, b) => Math.min(a, b));
    }),
  );
}

function timed(position: Float64Array, index: Uint32Array, by: typeof unroll = unroll): { ms: number; note: string } {
  let ms = Infinity;
  let seams = 0;
  let parts = 0;
  let flipped = 0;
  // The fast ones are run until they are warm.
  const begun = performance.now();
  for (let run = 0; run < 3 || (run < 30 && performance.now() - begun < 1000); run++) {
    const start = performance.now();
    ({ seams, parts, flipped } = by(position, index)!);
    ms = Math.min(ms, performance.now() - start);
  }
  const { stretch } = Chart.of(
    WorldMesh.of("bare", new RestMesh({ position, index, attributes: [] }), STAND, {
      ...AS_IT_COMES,
      by: by === unroll ? "unrolled" : "round",
    }),
  )!;
  const told = [
    `${ms.toFixed(0)} ms`,
    `p99 ${(1 + stretch.within).toFixed(3)}`,
    `worst ${(1 + stretch.worst).toFixed(2)}`,
    `${parts} part${parts === 1 ? "" : "s"}`,
    `seams ${(seams / extent(position)).toFixed(2)} extents`,
    ...(flipped > 0 ? [`${flipped} FLIPPED`] : []),
  ];
  return { ms, note: told.join(", ") };
}

const reported = { peer: null, peer_ms: null, ratio: null };

export function unrollRows(): Row[] {
  const rows = [10_000, 50_000].map((n): Row => {
    const all = Object.keys(FREE).map((name) => ({ name, ...timed(...freeMesh(name, n)) }));
    const note = all.map(({ name, note }) => `${name}: ${note}`).join("; ");
    return { name: `unroll-${n / 1000}k`, n, ours_ms: Math.max(...all.map(({ ms }) => ms)), ...reported, note };
  });
  const { ms, note } = timed(...lattice(125, 200, (u, v) => round(u, 0.2 + v, -2 * v), true), unrollRound);
  return [...rows, { name: "unroll-round", n: 50_000, ours_ms: ms, ...reported, note }];
}

/** The public peer for lines: three's centripetal Catmull–Rom curve, evenly spaced points and its frames. */
import { CatmullRomCurve3, Vector3 } from "three";
import type { Vec3 } from "../src/core/math";

export const PEER = "three CatmullRomCurve3: getSpacedPoints + computeFrenetFrames";

/** Table sizes to try, from coarse to fine. */
const TABLES = [1_000, 2_000, 5_000, 10_000, 20_000, 50_000, 100_000, 200_000];

const curveWith = (knots: readonly Vec3[], table: number): CatmullRomCurve3 => {
  const curve = new CatmullRomCurve3(
    knots.map((knot) => new Vector3(...knot)),
    false,
    "centripetal",
  );
  curve.arcLengthDivisions = table;
  return curve;
};

/** `n` points and frames, from the knots on. */
export function threeFrames(knots: readonly Vec3[], n: number, table: number) {
  const curve = curveWith(knots, table);
  return { points: curve.getSpacedPoints(n - 1), frames: curve.computeFrenetFrames(n - 1, false) };
}

/** The smallest table with which the points are as even as `worst` allows; see {@link unevenness}. */
export function tableFor(knots: readonly Vec3[], n: number, worst: number): number {
  const fine = TABLES.find((table) => {
    const points = curveWith(knots, table).getSpacedPoints(n - 1);
    return unevenness(Float64Array.from(points.flatMap((p) => [p.x, p.y, p.z]))) <= worst;
  });
  if (!fine) throw new Error("No table of the peer's is fine enough.");
  return fine;
}

/**
 * How far points (3n) that should divide their curve evenly are from doing so: the largest distance along the curve from
 * where a point should be to where it is, as a share of the whole. Chords stand for arcs: with 100,000 points there is no
 * telling them apart.
 */
export function unevenness(points: Float64Array): number {
  const n = points.length / 3;
  const at = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    const o = 3 * i;
    at[i] =
      at[i - 1] + Math.hypot(points[o] - points[o - 3], points[o + 1] - points[o - 2], points[o + 2] - points[o - 1]);
  }
  let worst = 0;
  for (let i = 0; i < n; i++) worst = Math.max(worst, Math.abs(at[i] / at[n - 1] - i / (n - 1)));
  return worst;
}

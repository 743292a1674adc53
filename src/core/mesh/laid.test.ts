/** Surfaces laid flat by how they were made or turned round an axis, and turned on the sheet. */
import fc from "fast-check";
import { distance, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { AS_IT_COMES, Chart, RestMesh, WorldMesh, type Laying } from ".";
import { lattice, round, TURN } from "./unroll/testing";

const STAND = { position: [3, -1, 2], rotation: [0, 0, 0, 1], scale: 2 } as const;

/** A mesh turned round one of its axes, by the radii of its profile and the rises between them. */
const turned = fc
  .record({
    radii: fc.array(evenly(0.2, 2), { minLength: 3, maxLength: 7 }),
    rises: fc.array(evenly(0.1, 1), { minLength: 7, maxLength: 7 }),
    columns: fc.integer({ min: 8, max: 40 }),
    axis: fc.constantFrom(0, 1, 2),
    out: fc.boolean(),
  })
  .map(({ radii, rises, columns, axis, out }) => {
    const heights = radii.map((_, k) => rises.slice(0, k).reduce((a, b) => a + b, 0));
    const rows = radii.length - 1;
    const [P, index] = lattice(
      rows,
      columns,
      (u, v) => round(u, radii[Math.round(v * rows)], -heights[Math.round(v * rows)]),
      true,
    );
    // Turned so that another axis is up; that keeps which side it shows.
    const position = P.map((_, p) => P[p - (p % 3) + (((p % 3) + 1 - axis + 3) % 3)] + 0.4);
    if (!out) for (let t = 0; t < index.length; t += 3) [index[t], index[t + 1]] = [index[t + 1], index[t]];
    return { position, index, radii, heights, columns };
  });

const surfaceOf = ({ position, index }: { position: Float64Array; index: Uint32Array }, laying?: Partial<Laying>) =>
  WorldMesh.of("turned", new RestMesh({ position, index, attributes: [] }), STAND, { ...AS_IT_COMES, ...laying });

test("what was turned round an axis lies as long as its profile and as wide as the way round is in the mean, closes, and is seen from the side it shows", () => {
  fc.assert(
    fc.property(turned, (mesh) => {
      const chart = Chart.of(surfaceOf(mesh))!;
      const { table } = chart;
      expect(table.by).toBe("round");
      const steps = mesh.radii
        .slice(1)
        .map((r, k) => Math.hypot(r - mesh.radii[k], mesh.heights[k + 1] - mesh.heights[k]));
      const long = steps.reduce((a, b) => a + b, 0);
      const mean = steps.reduce((sum, step, k) => sum + (step * (mesh.radii[k] + mesh.radii[k + 1])) / 2, 0) / long;
      expect(chart.most[1] - chart.least[1]).toBeCloseTo(2 * long, 5);
      expect(chart.most[0] - chart.least[0]).toBeCloseTo(2 * TURN * mean, 5);
      expect(chart.period).toEqual([expect.closeTo(2 * TURN * mean, 5), 0]);
      for (let t = 0; t < table.index.length; t += 3) {
        const [a, b, c] = [0, 1, 2].map((k) => 3 * table.index[t + k]);
        const F = table.flat;
        const twice = (F[b] - F[a]) * (F[c + 2] - F[a + 2]) - (F[b + 2] - F[a + 2]) * (F[c] - F[a]);
        expect(twice).toBeLessThan(0);
        expect(Math.abs(F[b] - F[a])).toBeLessThan((1.01 * TURN * mean) / mesh.columns);
      }
    }),
    { numRuns: 60 },
  );
});

test("a ball and a ring close where they do; what is round about no axis, or bent, is laid otherwise", () => {
  const by = (mesh: [Float64Array, Uint32Array]) => Chart.of(surfaceOf({ position: mesh[0], index: mesh[1] }))!;
  const ball = by(lattice(12, 24, (u, v) => round(u, Math.sin(Math.PI * v), Math.cos(Math.PI * v)), true));
  expect([ball.table.by, ...ball.period]).toEqual(["round", expect.closeTo(ball.most[0] - ball.least[0], 2), 0]);
  // Where the pole's triangles have no width of their own the rest still lies.
  expect(ball.stretch.worst).toBeGreaterThan(1);
  const ring = by(lattice(16, 30, (u, v) => round(u, 2 + 0.5 * Math.cos(TURN * v), 0.5 * Math.sin(TURN * v)), true));
  expect([ring.table.by, ...ring.period]).toEqual([
    "round",
    expect.closeTo(8 * Math.PI, 5),
    expect.closeTo(2 * Math.PI, 1),
  ]);
  const bent = by(lattice(8, 20, (u, v) => round(u, 1 + 0.2 * Math.sin(2 * TURN * u), v), true));
  // What bends one way alone closes unrolled as well, as wide as it is round; what is cut open does not.
  expect([bent.table.by, ...bent.period]).toEqual(["unrolled", expect.closeTo(12.98, 2), 0]);
  expect(by(lattice(8, 20, (u, v) => round(u / 2, 1, v))).period).toEqual([0, 0]);
});

test("turned by quarters and flipped, places of the sheet come back, and the sheet's right goes the way it was turned", () => {
  fc.assert(
    fc.property(turned, fc.nat(7), evenly(0.05, 0.95), evenly(0.05, 0.95), (mesh, k, a, b) => {
      const laying: Laying = { ...AS_IT_COMES, by: "round", quarters: k % 4, flip: k > 3 };
      const [plain, chart] = [Chart.of(surfaceOf(mesh))!, Chart.of(surfaceOf(mesh, laying))!];
      const at = (one: Chart, [s, t]: readonly number[]): [number, number] => [
        one.least[0] + s * (one.most[0] - one.least[0]),
        one.least[1] + t * (one.most[1] - one.least[1]),
      ];
      const flipped = laying.flip ? [1 - a, b] : [a, b];
      // A quarter turn to the left takes the right side to the top.
      const shares = Array.from({ length: laying.quarters }).reduce<readonly number[]>(([s, t]) => [t, 1 - s], flipped);
      const [here, there] = [plain.toWorld(...at(plain, [a, b])), chart.toWorld(...at(chart, shares))];
      if (!here || !there) return;
      expect(distance(here.point, there.point)).toBeLessThan(1e-5);
      const back = chart.placeIn(there.triangle, ...there.point);
      back.forEach((value, axis) => expect(value).toBeCloseTo(at(chart, shares)[axis], 5));
      const [, y] = [chart.period, chart.period[laying.quarters % 2]];
      expect(y).toBeGreaterThan(0);
      const way: Vec3 = [0.01, 0.02, -0.01];
      expect(Math.hypot(...chart.wayOn(there.triangle, way))).toBeCloseTo(
        Math.hypot(...plain.wayOn(here.triangle, way)),
        5,
      );
    }),
    { numRuns: 80 },
  );
});

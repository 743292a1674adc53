import fc from "fast-check";
import { evenly } from "../math/testing";
import { STAND, mesh } from "../place/testing";
import { AS_IT_COMES, WorldMesh, Chart } from ".";
import { add, distance, scale, vectorAt, type Vec3 } from "../math";
import { lattice, round } from "./unroll/testing";

/** A roof bent about an axis, laid out by its angle and its length; its UVs have nothing to do with metres. */
function roof(steps: number, radius: number, length: number): WorldMesh {
  const position: number[] = [];
  const uv: number[] = [];
  const index: number[] = [];
  for (let i = 0; i <= steps; i++) {
    const angle = (Math.PI * i) / steps;
    for (const end of [0, 1]) {
      position.push(-radius * Math.cos(angle), radius * Math.sin(angle), end * length);
      uv.push(i / steps, (end * length) / (Math.PI * radius));
    }
    const a = 2 * i;
    if (i < steps) index.push(a, a + 1, a + 3, a, a + 3, a + 2);
  }
  const attributes = [{ name: "TEXCOORD_0", width: 2, array: Float32Array.from(uv) }];
  return WorldMesh.of("roof", { ...mesh(position, index), attributes }, STAND);
}

test("a chart is at real size, and what it shows lies where it says", () => {
  const ground = roof(64, 2, 3);
  const chart = Chart.of(ground)!;
  // A half cylinder laid flat: as broad as its arc, as long as it is.
  expect(chart.most[0] - chart.least[0]).toBeCloseTo(2 * Math.PI, 2);
  expect(chart.most[1] - chart.least[1]).toBeCloseTo(3, 2);
  expect(chart.borders).toHaveLength(4 * (2 * 64 + 2));
  const share = evenly(0.01, 0.99);
  fc.assert(
    fc.property(share, share, (u, v) => {
      const [x, y] = [u, v].map((at, k) => chart.least[k] + at * (chart.most[k] - chart.least[k]));
      const { point } = chart.toWorld(x, y)!;
      expect(Math.hypot(point[0], point[1])).toBeCloseTo(2, 1);
      const back = chart.toChart(point);
      expect([back.x, back.y]).toEqual([expect.closeTo(x, 4), expect.closeTo(y, 4)]);
      // A short way along the arc or along the roof is as long on the chart.
      const along = chart.wayOn(back.triangle, [0, 0, 0.1]);
      expect(along).toEqual([expect.closeTo(0, 6), expect.closeTo(0.1, 3)]);
      const [c, s] = [point[0] / 2, point[1] / 2];
      const round = chart.wayOn(back.triangle, [0.1 * s, -0.1 * c, 0] as Vec3);
      expect(Math.hypot(...round)).toBeCloseTo(0.1, 3);
    }),
  );
  expect(chart.toWorld(chart.most[0] + 1, 0)).toBeNull();
});

test("a mesh without UVs, or with all of them at one place, is unrolled: places come back, ways keep their lengths; without area there is no chart", () => {
  const flat = mesh([0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0.7, 1], [0, 2, 1, 1, 2, 3]);
  const attributes = [{ name: "TEXCOORD_0", width: 2, array: new Float32Array(8) }];
  for (const shape of [flat, { ...flat, attributes }]) {
    const ground = WorldMesh.of("bare", shape, STAND);
    const chart = Chart.of(ground)!;
    expect([chart.table.by, Chart.atUv(ground, 0, 0)]).toEqual(["unrolled", null]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1 }), evenly(0.01, 0.98), evenly(0.01, 0.98), (triangle, a, b) => {
        const [p, q] = a + b < 1 ? [a, b] : [1 - a, 1 - b];
        const corner = (k: number) => [0, 1, 2].map((axis) => flat.position[3 * flat.index[3 * triangle + k] + axis]);
        const [x, y, z] = [corner(0), corner(1), corner(2)];
        const point = [0, 1, 2].map((k) => (1 - p - q) * x[k] + p * y[k] + q * z[k]) as unknown as Vec3;
        const on = chart.toChart(point);
        expect(on.triangle).toBe(triangle);
        chart.toWorld(on.x, on.y)!.point.forEach((value, k) => expect(value).toBeCloseTo(point[k], 5));
        const way = [0, 1, 2].map((k) => 0.1 * (y[k] - x[k])) as unknown as Vec3;
        expect(Math.hypot(...chart.wayOn(triangle, way))).toBeCloseTo(Math.hypot(...way), 5);
      }),
    );
  }
  expect(Chart.of(WorldMesh.of("point", mesh([0, 0, 0, 1, 0, 0, 2, 0, 0], [0, 1, 2]), STAND))).toBeNull();
});

test("a tube without UVs has a chart of its own vertices along the cut: places come back, and ways keep their lengths", () => {
  const [position, index] = lattice(6, 24, (u, v) => round(u, 0.5, 2 * v), true);
  const shape = { position: Float32Array.from(position), index, attributes: [] };
  const tube = WorldMesh.of("tube", shape, STAND, { ...AS_IT_COMES, by: "unrolled" });
  const chart = Chart.of(tube)!;
  expect(chart.table.flat.length).toBe(position.length + 3 * 7);
  fc.assert(
    fc.property(fc.nat(index.length / 3 - 1), evenly(0.01, 0.49), evenly(0.01, 0.49), (triangle, p, q) => {
      const corner = (k: number) => vectorAt(tube.position, index[3 * triangle + k]);
      const point = add(add(scale(corner(0), 1 - p - q), scale(corner(1), p)), scale(corner(2), q));
      const [x, y] = chart.placeIn(triangle, ...point);
      expect(distance(chart.pointOf(triangle, x, y), point)).toBeLessThan(1e-5);
      expect(distance(chart.toWorld(x, y)!.point, point)).toBeLessThan(1e-5);
      const [endX, endY] = chart.placeIn(triangle, ...corner(1));
      expect(Math.hypot(endX - x, endY - y)).toBeCloseTo(distance(corner(1), point), 4);
    }),
  );
});

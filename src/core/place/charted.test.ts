import fc from "fast-check";
import { evenly } from "../math/testing";
import { fromTurns, type Quat, type Vec3 } from "../math";
import { WorldMesh, Chart, type Stand } from "../mesh";

import { fullnessAt } from "./gaps/density-map";
import { dressing, mesh, seen, STAND, surroundings } from "./testing";

/** Two shelves 4 m by 3 m, one a metre above the other, laid out side by side, their chart beginning at `from`. */
function shelves(id: string, stand: Stand, from = 0): WorldMesh {
  const position = [0, 1].flatMap((y) => [0, y, 0, 0, y, 3, 4, y, 3, 4, y, 0]);
  const uv = [from, from + 0.6].flatMap((u) => [u, 0, u, 0.3, u + 0.4, 0.3, u + 0.4, 0]);
  const index = [0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7];
  const attributes = [{ name: "TEXCOORD_0", width: 2, array: Float32Array.from(uv) }];
  return WorldMesh.of(id, { ...mesh(position, index), attributes }, stand);
}

type Input = NonNullable<Parameters<typeof dressing>[0]>;

const spread = (grounds: readonly WorldMesh[], input: Input = {}) =>
  seen(
    dressing(
      { spacing: { distance: 0.5 }, ...input, where: { kind: "over", surfaces: grounds.map(({ id }) => id) } },
      [],
    ),
    {
      ...surroundings([]),
      surfaces: new Map(grounds.map((ground) => [ground.id, { mesh: ground, ground: true }])),
    },
  );

const turn = evenly(-3, 3);
const scale = evenly(0.5, 2);

test("a footprint lies on the chart where the surface that it stands on does, at real size, however that stands", () => {
  fc.assert(
    fc.property(turn, turn, turn, scale, (a, b, c, scale) => {
      const stand: Stand = { position: [a, b, c], rotation: fromTurns(a, b, c) as Quat, scale };
      const grounds = [shelves("left", STAND), shelves("right", stand)];
      const p = spread(grounds, { stance: { up: "normal" } });
      const { shift, footprints } = p.charted!;
      for (let i = 0; i < p.count; i++) {
        const ground = grounds.find(({ id }) => id === p.fields[p.line[i]])!;
        const corners = footprints.subarray(8 * i, 8 * i + 8);
        const middle = [0, 1].map((axis) => (corners[axis] + corners[4 + axis]) / 2);
        const { point } = Chart.of(ground)!.toWorld(middle[0] - shift[p.line[i]], middle[1])!;
        const at = [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]);
        expect(Math.hypot(...point.map((value, axis) => value - at[axis]))).toBeLessThan(1e-3);
        // The prop is 0.4 m broad and deep, and nothing on the chart is drawn larger or smaller.
        const sides = [2, 4].map((o) => Math.hypot(corners[o] - corners[o - 2], corners[o + 1] - corners[o - 1]));
        expect(sides).toEqual([expect.closeTo(0.4, 3), expect.closeTo(0.4, 3)]);
      }
    }),
    { numRuns: 12 },
  );
});

test("how full it is is told of what lies under something else as well, and of nothing beside the charts", () => {
  const ground = shelves("shelves", STAND);
  const p = spread([ground], { gaps: { heightOn: true, height: [-0.5, 0.5] } });
  const chart = Chart.of(ground)!;
  const share = evenly(0.05, 0.95);
  fc.assert(
    fc.property(share, share, fc.constantFrom(0, 1), (u, v, level) => {
      const point: Vec3 = [4 * u, level, 3 * v];
      const { x, y } = chart.toChart(point);
      const full = fullnessAt(p.charted!, x + p.charted!.shift[0], y);
      expect(full).toEqual(level === 0 ? { share: 1, reason: null } : { share: 0, reason: "height" });
    }),
  );
  // Between the two shelves there is room on the chart.
  const [least, most] = [p.charted!.least, p.charted!.most];
  expect(fullnessAt(p.charted!, (least[0] + most[0]) / 2, (least[1] + most[1]) / 2)).toBeNull();
  expect(fullnessAt(p.charted!, least[0] - 1, least[1])).toBeNull();
});

test("a surface without UVs is unrolled beside the others; there are no charts unless asked for", () => {
  const bare = WorldMesh.of("bare", mesh([0, 0, 0, 0, 0, 3, 3, 0, 0], [0, 1, 2]), STAND);
  const { charted } = spread([shelves("shelves", STAND), bare]);
  expect(charted!.shift).toHaveLength(2);
  expect(charted!.most[0] - charted!.shift[1]).toBeGreaterThanOrEqual(3 - 1e-6);
  const around = { ...surroundings([]), surfaces: new Map([["bare", { mesh: bare, ground: true }]]) };
  expect(seen(dressing({ where: { kind: "over", surfaces: ["bare"] } }, []), around, false).charted).toBeNull();
});

test("charts lie beside each other in the order of their surfaces, with room between, wherever each of them begins", () => {
  const from = evenly(-3, 3);
  fc.assert(
    fc.property(from, from, from, (...froms) => {
      const grounds = froms.map((u, k) => shelves(`${k}`, STAND, u));
      const charts = grounds.map((ground) => Chart.of(ground)!);
      const { shift, least, most } = spread(grounds).charted!;
      const ends = charts.map((chart, k) => [chart.least[0] + shift[k], chart.most[0] + shift[k]]);
      expect([least[0], most[0]]).toEqual([expect.closeTo(0, 9), expect.closeTo(ends[2][1], 9)]);
      for (let k = 0; k < 3; k++)
        expect(ends[k][0] - (k > 0 ? ends[k - 1][1] : 0)).toBeCloseTo(k > 0 ? 0.08 * 10 : 0, 4);
    }),
    { numRuns: 20 },
  );
});

/** Things of a wrapped layout that are bent over their surface. */
import fc from "fast-check";
import { add, quatAt, rotate, vectorAt, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { AS_IT_COMES, shapedMesh, trianglesBeyond, WorldMesh, type Laying, type TriangleMesh } from "../mesh";
import { lattice, round, type At } from "../mesh/unroll/testing";
import { addedKey, hexOf } from "./keys";
import { dressingSchema } from "./schema";
import { Placing } from "./testing";

function surface(rows: number, columns: number, at: At, laying: Partial<Laying> = {}, closed = true): WorldMesh {
  const [position, index] = lattice(rows, columns, at, closed);
  const mesh = { position: Float32Array.from(position), index, attributes: [] };
  return WorldMesh.of(
    "barrel",
    mesh,
    { position: [3, 1, -2], rotation: [0, 0, 0, 1], scale: 1 },
    { ...AS_IT_COMES, ...laying },
  );
}

/** A box about its pivot: halves to the left and ahead, from the bottom up. */
function plank(left: number, up: number, ahead: number): TriangleMesh {
  const corners = Array.from({ length: 8 }, (_, k) => [k & 1 ? left : -left, k & 2 ? up : 0, k & 4 ? ahead : -ahead]);
  const quads = [[0, 4, 5, 1], [2, 3, 7, 6], [0, 1, 3, 2], [4, 6, 7, 5], [0, 2, 6, 4], [1, 5, 7, 3]]; // prettier-ignore
  const [position, index, normal]: number[][] = [[], [], []];
  for (const [a, b, c, d] of quads) {
    const first = position.length / 3;
    const [u, v, w] = [a, b, d].map((k) => corners[k]);
    const [p, q] = [[0, 1, 2].map((k) => v[k] - u[k]), [0, 1, 2].map((k) => w[k] - u[k])];
    const n = [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
    for (const k of [a, b, c, d]) {
      position.push(...corners[k]);
      normal.push(...n.map((x) => x / Math.hypot(...n)));
    }
    index.push(first, first + 1, first + 2, first, first + 2, first + 3);
  }
  const attributes = [{ name: "NORMAL", width: 3, array: Float32Array.from(normal) }];
  return { position: Float32Array.from(position), index: Uint32Array.from(index), attributes };
}

type Size = readonly [left: number, up: number, ahead: number];

/** One plank, bent over a surface at a place of its layout: its vertices and normals in the world. */
const bent = (mesh: WorldMesh, size: Size, at: readonly [number, number], fit: object = {}) =>
  bentAs(mesh, size, { kind: "wrapped", patch: { layout: { kind: "list", places: [{ id: 0, at }] } } }, fit);

function bentAs(mesh: WorldMesh, size: Size, where: object, fit: object = {}, more: object = {}) {
  const dressing = dressingSchema.parse({
    id: "planks",
    name: "Planks",
    where: { surfaces: ["barrel"], ...where },
    what: { entries: [{ prop: "plank" }] },
    stance: { up: "normal", meetsUp: "pivot" },
    fit: { bend: true, ...fit },
    ...more,
  });
  const [left, up, ahead] = size;
  const p = new Placing().evaluate(dressing, {
    guides: new Map(),
    bounds: new Map([["plank", { min: [-left, 0, -ahead], max: [left, up, ahead] }]]),
    surfaces: new Map([["barrel", { mesh, ground: true }]]),
  });
  expect([p.count, p.shapes?.form.length]).toEqual([1, 1]);
  const shaped = shapedMesh(plank(...size), p.shapes!, p.shapes!.form[0]);
  const q = quatAt(p.shapes!.frame.subarray(3), 0);
  const origin = add(p.origin, vectorAt(p.shapes!.frame, 0));
  const world = (k: number): Vec3 => add(origin, rotate(q, vectorAt(shaped.position, k)));
  return { shaped, world, normal: (k: number) => rotate(q, vectorAt(shaped.attributes[0].array, k)) };
}

const about = ([x, y, z]: Vec3) => ({
  angle: Math.atan2(-(z + 2), x - 3),
  radius: Math.hypot(x - 3, z + 2),
  high: y - 1,
});

test("round a tube lengths become arcs, heights stay, and nothing gapes, however it is turned on its sheet", () => {
  fc.assert(
    fc.property(
      evenly(0.2, 1.4),
      evenly(0.02, 0.2),
      evenly(0.1, 0.5),
      evenly(-3, 3),
      fc.nat(3),
      (left, up, ahead, x, quarters) => {
        // So that what is ahead stays up or down the tube, or round it.
        const tube = surface(6, 360, (u, v) => round(u, 1, 3 - 3 * v), { quarters });
        const size = quarters % 2 === 0 ? ([left, up, ahead] as const) : ([ahead, up, left] as const);
        const place: [number, number] = quarters % 2 === 0 ? [x, 0.1] : [0.1, x];
        const { shaped, world, normal } = bent(tube, size, place);
        const n = shaped.position.length / 3;
        const middle = about(world(0)).angle;
        let [least, most] = [Infinity, -Infinity];
        for (let k = 0; k < n; k++) {
          const { angle, radius, high } = about(world(k));
          // Its own corners come first; sides may be cut half way up.
          const heights = k < 24 ? [0, up] : [0, up / 4, up / 2, (3 * up) / 4, up];
          expect(Math.min(...heights.map((height) => Math.abs(radius - 1 - height)))).toBeLessThan(
            k < 24 ? 1e-4 : up / 8,
          );
          expect(Math.abs(high - 1.5)).toBeLessThan(ahead + 0.11);
          const turn = Math.atan2(Math.sin(angle - middle), Math.cos(angle - middle));
          [least, most] = [Math.min(least, turn), Math.max(most, turn)];
          const [a, , c] = normal(k);
          expect(Math.hypot(...normal(k))).toBeCloseTo(1, 5);
          // Tops look outwards, bottoms inwards, sides along.
          const out = a * Math.cos(angle) - c * Math.sin(angle);
          expect(Math.min(Math.abs(out), Math.abs(Math.abs(out) - 1))).toBeLessThan(0.03);
        }
        expect(most - least).toBeCloseTo(2 * left, 2.5);
        const beyond = trianglesBeyond(
          Float64Array.from(shaped.position, (value) => Math.round(1e5 * value) / 1e5),
          shaped.index,
        );
        expect(Array.from(beyond).every((other) => other >= 0)).toBe(true);
      },
    ),
    { numRuns: 12 },
  );
});

test("edges are cut until none is off by more than is let be, a millimetre unless said; on a plane none is cut at all", () => {
  const counts = [undefined, 0.01, 0.0002].map((bendOff) => {
    const { shaped, world } = bent(
      surface(6, 720, (u, v) => round(u, 1, 3 - 3 * v)),
      [1, 0.05, 0.2],
      [0.4, 0],
      bendOff === undefined ? {} : { bendOff },
    );
    const { index } = shaped;
    for (let h = 0; h < index.length; h++) {
      const [a, b] = [about(world(index[h])), about(world(index[h % 3 === 2 ? h - 2 : h + 1]))];
      const between = Math.abs(Math.atan2(Math.sin(a.angle - b.angle), Math.cos(a.angle - b.angle)));
      const off = Math.max(a.radius, b.radius) * (1 - Math.cos(between / 2));
      if (Math.abs(a.radius - b.radius) < 1e-3) expect(off).toBeLessThan(1.3 * (bendOff ?? 0.001));
    }
    return index.length;
  });
  expect(counts[1]).toBeLessThan(counts[0]);
  expect(counts[2]).toBeGreaterThan(2 * counts[0]);
  const flat = bent(
    surface(3, 4, (u, v) => [6 * u, 0, 4 * v], {}, false),
    [1, 0.05, 0.2],
    [0.3, 0.2],
    { up: 0.1 },
  );
  expect(flat.shaped.index.length).toBe(36);
  for (let k = 0; k < 24; k++) {
    const [x, y, z] = flat.world(k);
    expect([Math.abs(x - 6.3), Math.abs(z + 0.2), Math.abs(y - 1.125)]).toEqual([1, 0.2, 0.025].map((value) => expect.closeTo(value, 5))); // prettier-ignore
  }
});

test("up a cone that is laid flat by its profile a thing becomes narrower as its rows do", () => {
  const cone = surface(40, 360, (u, v) => round(u, 0.2 + v, 3 - 3 * v));
  const { shaped, world } = bent(cone, [0.2, 0.02, 0.6], [0, 0]);
  const ends: Record<string, number[]> = { low: [], high: [] };
  for (let k = 0; k < shaped.position.length / 3; k++) {
    const { angle, high } = about(world(k));
    if (high < 1) ends.low.push(angle);
    if (high > 2) ends.high.push(angle);
  }
  const wide = (angles: number[]) => Math.max(...angles) - Math.min(...angles);
  // The same share of the way round, above and below.
  expect(wide(ends.low)).toBeCloseTo(wide(ends.high), 3);
  expect(wide(ends.low)).toBeCloseTo(0.4 / 0.7, 2);
});

test("pinned things and patches bend by straight ways from their foot: on a plane they are what they are, round a tube lengths become arcs", () => {
  const pinned = (on: WorldMesh, point: Vec3, turn: number, size: Size) =>
    bentAs(on, size, { kind: "pinned" }, {}, { pegs: { [hexOf(addedKey(1))]: { on: "barrel", point, turn, prop: "plank", added: true } } }); // prettier-ignore
  fc.assert(
    fc.property(
      evenly(0.2, 0.9),
      evenly(0.02, 0.2),
      evenly(0.1, 0.5),
      evenly(-3, 3),
      evenly(-3, 3),
      (left, up, ahead, angle, turn) => {
        const size: Size = [left, up, ahead];
        const plane = pinned(
          surface(5, 7, (u, v) => [9 * u, 0, 7 * v], {}, false),
          [4, 0, 3],
          turn,
          size,
        );
        expect(plane.shaped.index.length).toBe(36);
        const middle: Vec3 = [7, 1, 1];
        for (let k = 0; k < 24; k++) {
          const [x, y, z] = plane.world(k).map((value, axis) => value - middle[axis]);
          expect(Math.hypot(x, z)).toBeCloseTo(Math.hypot(left, ahead), 4);
          expect(Math.min(Math.abs(y), Math.abs(y - up))).toBeLessThan(1e-5);
        }
        const tube = surface(6, 360, (u, v) => round(u, 1, 3 - 3 * v));
        const { shaped, world } = pinned(tube, [Math.cos(angle), 1.5, -Math.sin(angle)], turn, size);
        for (let k = 0; k < 24; k++) {
          const own = about(world(k));
          const arc = Math.atan2(Math.sin(own.angle - angle), Math.cos(own.angle - angle));
          // Each corner is as far from the foot on the tube as it is on the plank.
          expect(Math.hypot(arc, own.high - 1.5)).toBeCloseTo(Math.hypot(left, ahead), 2);
          expect(Math.min(Math.abs(own.radius - 1), Math.abs(own.radius - 1 - up))).toBeLessThan(1e-3);
        }
        expect(shaped.index.length).toBeGreaterThan(36);
      },
    ),
    { numRuns: 12 },
  );
});

test("what is left stays left, on a sheet that is flipped as well, and heights are true between coarse facets", () => {
  for (const flip of [false, true])
    for (const corner of ["bottom-left", "bottom-right"] as const) {
      const half = Math.PI / 24;
      const tube = surface(4, 24, (u, v) => round(u, 1, 3 - 3 * v), { flip, corner });
      const size: Size = [0.5, 0.2, 0.3];
      const { world } = bent(tube, size, [0.3, 0.1]);
      const own = plank(...size).position;
      const sides = [1, -1].map((side) => {
        const angles = Array.from({ length: 24 }, (_, k) => k).filter((k) => Math.sign(own[3 * k]) === side);
        return angles.map((k) => about(world(k)).angle);
      });
      // Seen from outside, with up above, angles rise to the right.
      expect(Math.max(...sides[0])).toBeLessThan(Math.min(...sides[1]));
      for (let k = 0; k < 24; k++) {
        const { angle, radius } = about(world(k));
        const off = (((angle % (2 * half)) + 2 * half) % (2 * half)) - half;
        expect(radius - Math.cos(half) / Math.cos(off)).toBeCloseTo(own[3 * k + 1], 3.3);
      }
    }
});

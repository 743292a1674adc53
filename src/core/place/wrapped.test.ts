/** Wrapped: flat layouts that a surface carries as it is laid flat. */
import fc from "fast-check";
import { distance, quatAt, rotate, vectorAt, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { AS_IT_COMES, Chart, WorldMesh, type Laying } from "../mesh";
import { lattice, round, TURN, type At } from "../mesh/unroll/testing";
import { dressingSchema } from "./schema";
import { wrappedRound } from "./spacing/wrapped";
import { spreadFor } from "./spacing/laid-out";
import { BOUNDS, Placing } from "./testing";
import { whereSchema } from "./where/schema";

function surface(rows: number, columns: number, at: At, laying: Partial<Laying> = {}, closed = true): WorldMesh {
  const [position, index] = lattice(rows, columns, at, closed);
  const mesh = { position: Float32Array.from(position), index, attributes: [] };
  return WorldMesh.of(
    "buoy",
    mesh,
    { position: [3, 1, -2], rotation: [0, 0, 0, 1], scale: 1 },
    { ...AS_IT_COMES, ...laying },
  );
}

/** The angle between two directions. */
const off = (a: Vec3, b: Vec3) =>
  Math.acos(Math.min(1, a.reduce((sum, x, k) => sum + x * b[k], 0) / (Math.hypot(...a) * Math.hypot(...b))));

const tube = (columns = 400, laying: Partial<Laying> = {}) =>
  surface(8, columns, (u, v) => round(u, 1, 2 - 2 * v), laying);

function placed(mesh: WorldMesh, layout: object, more: { patch?: object; wrap?: object; rest?: object } = {}) {
  const where = { kind: "wrapped", surfaces: ["buoy"], patch: { layout, ...more.patch }, wrap: more.wrap ?? {} };
  const what = { entries: [{ prop: "buoy" }] };
  const dressing = dressingSchema.parse({
    id: "studs",
    name: "Studs",
    where,
    what,
    stance: { up: "normal", meetsUp: "pivot" },
    ...more.rest,
  });
  const p = new Placing().evaluate(dressing, {
    guides: new Map(),
    bounds: BOUNDS,
    surfaces: new Map([["buoy", { mesh, ground: true }]]),
  });
  const at = Array.from(
    { length: p.count },
    (_, i) => [0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k]) as unknown as Vec3,
  );
  return { p, at };
}

/** Where on the tube a place is: once round from the far side, and how high, metres. */
const onTube = ([x, y, z]: Vec3) => ({
  angle: Math.atan2(-(z + 2), x - 3),
  radius: Math.hypot(x - 3, z + 2),
  high: y - 1,
});

test("on a tube rows close round: all gaps are alike, the seam's too, by distance, by number, and where as many as are said go round", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 3, max: 40 }),
      evenly(0.15, 0.6),
      evenly(0, 1),
      fc.constantFrom("both", "number", "distance"),
      (n, along, stagger, by) => {
        const across = by === "both" ? (TURN + 0.01) / n : TURN / n + 0.004 / n;
        const { p, at } = placed(tube(), { by, columns: by === "distance" ? 3 : n, across, rows: 3, along, stagger });
        const rows = by === "distance" ? Math.floor(2 / along + 1e-9) + 1 : 3;
        const pitch = by === "number" ? 1 : along;
        const tall = by === "both" ? 2 * along <= 2 : true;
        if (tall) expect(p.count).toBe(n * rows);
        for (let row = 0; row < p.count / n; row++) {
          const own = at.slice(row * n, (row + 1) * n).map(onTube);
          const angles = own.map(({ angle }) => angle).sort((a, b) => a - b);
          angles.forEach((angle, k) => {
            const next = k + 1 < n ? angles[k + 1] : angles[0] + TURN;
            expect(next - angle).toBeCloseTo(TURN / n, 4);
          });
          // From the foot up, round the middle; at the mesh's edges it is as far from the axis as these are.
          for (const { high, radius } of own) {
            if (tall) expect(high).toBeCloseTo(1 + (row - (rows - 1) / 2) * pitch, 5);
            expect(Math.abs(radius - 1)).toBeLessThan(2e-4);
          }
        }
      },
    ),
    { numRuns: 30 },
  );
});

test("they stand on the surface, their fronts up its sheet, however it is turned and wherever u and v begin", () => {
  const ways = { "bottom-left": [1, 1], "bottom-right": [-1, 1], "top-left": [1, -1], "top-right": [-1, -1] } as const;
  for (const [corner, [right, up]] of Object.entries(ways))
    for (const quarters of [0, 1, 2, 3]) {
      const { p, at } = placed(tube(400, { quarters, corner: corner as Laying["corner"] }), {
        columns: 5,
        rows: 3,
        across: 0.2,
        along: 0.3,
      });
      expect(p.count).toBe(15);
      // What lies at the top by quarter turns to the left: the top, the right side, the foot, the left side.
      const turned = up * [1, -1, -1, 1][quarters];
      at.forEach((place, i) => {
        const { angle } = onTube(place);
        const out: Vec3 = [Math.cos(angle), 0, -Math.sin(angle)];
        const toLeft: Vec3 = [Math.sin(angle), 0, Math.cos(angle)];
        const q = quatAt(p.rotation, i);
        expect(off(rotate(q, [0, 1, 0]), out)).toBeLessThan(1e-3);
        const ahead =
          quarters % 2 === 0 ? ([0, turned, 0] as const) : (toLeft.map((x) => x * turned) as unknown as Vec3);
        expect(off(rotate(q, [0, 0, 1]), ahead)).toBeLessThan(1e-2);
      });
      // The columns follow each other to the right of that, or to its left.
      const [a, b] = [vectorAt(p.position, 0), vectorAt(p.position, 1)];
      const left = rotate(quatAt(p.rotation, 0), [1, 0, 0]);
      const along = left.reduce((sum, x, k) => sum + x * (b[k] - a[k]), 0);
      expect(Math.sign(along)).toBe(-right * up);
    }
});

test("a cone that is unrolled carries a grid as it is: near and far, distances over it are those of the layout", () => {
  // Its sides rise by three for each to the middle.
  const cone = surface(30, 180, (u, v) => round(u, 1.2 - v, 3 * v), { by: "unrolled" });
  const { p, at } = placed(
    cone,
    { by: "both", columns: 3, rows: 5, across: 0.3, along: 0.4 },
    { patch: { turn: 0.4 } },
  );
  expect(p.count).toBe(15);
  const onSector = ([x, y, z]: Vec3) => {
    const far = Math.hypot(x - 3, y - 1 - 3.6, z + 2);
    const angle = (Math.atan2(z + 2, x - 3) * 1.2) / Math.hypot(1.2, 3.6);
    return [far, angle] as const;
  };
  const flat = (i: number) => [0.3 * (i % 3), 0.4 * Math.floor(i / 3)] as const;
  for (let i = 0; i < 15; i++)
    for (let j = 0; j < i; j++) {
      const [[r, a], [s, b]] = [onSector(at[i]), onSector(at[j])];
      // The shorter way round.
      const between = Math.min(Math.abs(a - b), (TURN * 1.2) / Math.hypot(1.2, 3.6) - Math.abs(a - b));
      const apart = Math.sqrt(r * r + s * s - 2 * r * s * Math.cos(between));
      expect(apart).toBeCloseTo(Math.hypot(flat(i)[0] - flat(j)[0], flat(i)[1] - flat(j)[1]), 2.5);
    }
});

test("a place carried to a surface and looked for there is found again, wherever the layout was moved and turned", () => {
  const shapes = [
    tube(40),
    surface(10, 24, (u, v) => round(u, Math.sin(0.2 + 2.6 * v), Math.cos(0.2 + 2.6 * v))),
    surface(8, 12, (u, v) => [3 * u, 0.3 * Math.sin(5 * u) * v, 2 * v], {}, false),
  ];
  fc.assert(
    fc.property(
      fc.constantFrom(...shapes),
      fc.record({
        right: evenly(-1, 1),
        up: evenly(-1, 1),
        turn: evenly(-3, 3),
        from: fc.constantFrom("middle", "corner"),
      }),
      fc.constantFrom<Laying["corner"]>("bottom-left", "bottom-right", "top-left", "top-right"),
      evenly(-1.4, 1.4),
      evenly(-0.9, 0.9),
      (shape, { turn, ...wrap }, corner, x, y) => {
        const ground = WorldMesh.of("buoy", shape.rest, shape.stand!, { ...AS_IT_COMES, corner });
        const params = whereSchema.parse({ wrap, patch: { turn } });
        const carrier = wrappedRound({ ...params.wrap, ...params.patch }, Chart.of(ground)!);
        const [out, there] = [spreadFor(1), new Uint8Array(1)];
        carrier.carry(Float64Array.of(x), Float64Array.of(y), out, there);
        if (!there[0]) return;
        const found = carrier.find(vectorAt(out.position, 0), [x + 0.1, y - 0.1])!;
        expect(Math.hypot(found[0] - x, found[1] - y)).toBeLessThan(1e-6);
      },
    ),
    { numRuns: 200 },
  );
});

test("on a surface of another size a layout keeps its metres, is stretched, or repeats, and what has no room is left out or stops at the edge", () => {
  const plane = surface(4, 4, (u, v) => [6 * u, 0, 4 * v], {}, false);
  const [least, most] = [Chart.of(plane)!.least, Chart.of(plane)!.most];
  expect([most[0] - least[0], most[1] - least[1]]).toEqual([expect.closeTo(6, 6), expect.closeTo(4, 6)]);
  const three = { kind: "list", places: [[-0.9, -0.9], [0, 0], [0.9, 0.4]].map((at, id) => ({ id, at })) }; // prettier-ignore
  const on = (wrap: object, patch: object = {}, layout: object = three) =>
    placed(plane, layout, { wrap, patch }).at.map(([x, , z]) =>
      [x - 3 - 3, 2 - (z + 2)].map((value) => Number(value.toFixed(4)) + 0),
    );
  expect(on({})).toEqual([[-0.9, -0.9], [0, 0], [0.9, 0.4]]); // prettier-ignore
  expect(on({ right: 1, up: -0.5 })).toEqual([[0.1, -1.4], [1, -0.5], [1.9, -0.1]]); // prettier-ignore
  const sized = { wide: 2, high: 2 };
  expect(on({ fit: "stretch", ...sized })).toEqual([[-2.7, -1.8], [0, 0], [2.7, 0.8]]); // prettier-ignore
  // Three times two sheets beside and behind each other from the corner; about the middle they stick out at the edges.
  expect(on({ fit: "repeat", from: "corner", ...sized })).toHaveLength(18);
  expect(on({ fit: "repeat", from: "corner", ...sized })[0]).toEqual([-2.9, -1.9]);
  expect(on({ fit: "repeat", ...sized }).length).toBeGreaterThan(12);
  const middle = { kind: "list", places: [{ id: 0, at: [0, 0] }] };
  expect(on({ fit: "repeat", from: "corner", wide: 2, high: 0.8 }, {}, middle)).toHaveLength(3 * 5);
  const far = { kind: "list", places: [[5, 0], [0, 3], [1, 1]].map((at, id) => ({ id, at })) }; // prettier-ignore
  expect(on({}, {}, far)).toEqual([[1, 1]]);
  expect(on({}, { beyond: "stop" }, far)).toEqual([[3, 0], [0, 2], [1, 1]]); // prettier-ignore
  expect(on({}, { beyond: "flat" }, far)).toEqual([[5, 0], [0, 3], [1, 1]]); // prettier-ignore
});

test("rows at foot and top and places in turn are left out; the others are known by the same keys", () => {
  const all = placed(tube(), { by: "number", columns: 8, rows: 6 });
  const some = placed(tube(), { by: "number", columns: 8, rows: 6, foot: 1, top: 2, skip: "checker" });
  expect([all.p.count, some.p.count]).toEqual([48, 12]);
  some.at.forEach((place, i) => {
    const same = Array.from(all.p.key).indexOf(some.p.key[i]);
    expect(distance(all.at[same], place)).toBeLessThan(1e-6);
    expect(onTube(place).high).toBeGreaterThan(0.39);
    expect(onTube(place).high).toBeLessThan(1.21);
  });
  expect(placed(tube(), { by: "distance", across: 1e-4, along: 1e-4 }).p.missing).toBeGreaterThan(0);
});

test("sequences run in rows along u, or in rings along v, each from where these begin, over layouts and free patterns alike", () => {
  const two = { what: { entries: [{ prop: "buoy" }, { prop: "oar" }, { prop: "buoy" }] } };
  for (const corner of ["bottom-left", "top-right"] as const)
    for (const runs of ["u", "v"] as const) {
      const shape = surface(4, 6, (u, v) => [6 * u, 0, 4 * v], { corner }, false);
      const { p, at } = placed(shape, { by: "number", columns: 5, rows: 4 }, { rest: { ...two, spacing: { runs } } });
      at.forEach(([x, , z], i) => {
        const [u, v] = [(4 * (x - 3)) / 6, (3 * (4 - (z + 2))) / 4].map((value) => Math.round(value));
        const [column, row] = corner === "bottom-left" ? [u, v] : [4 - u, 3 - v];
        const ordinal = runs === "u" ? 5 * row + column : 4 * column + row;
        expect(p.props[p.prop[i]]).toBe(ordinal % 3 === 1 ? "oar" : "buoy");
      });
      // Spread evenly there are no rows; still every third in that order is another one.
      const where = { kind: "over", surfaces: ["buoy"] };
      const even = placed(shape, {}, { rest: { ...two, where, spacing: { runs, distance: 0.9 } } });
      const oars = Array.from(even.p.prop).filter((prop) => even.p.props[prop] === "oar").length;
      expect(Math.abs(3 * oars - even.p.count)).toBeLessThan(3);
    }
});

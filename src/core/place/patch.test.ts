/** Patches: flat layouts that are held to a surface at a handle. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { rotate, vectorAt, type Quat, type Vec3 } from "../math";
import { WorldMesh, type TriangleMesh } from "../mesh";
import { FLAG } from "./slots";
import { BOUNDS, Placing } from "./testing";
import { dressingSchema } from "./schema";
import { heldAt } from "./spacing/held";
import { spreadFor } from "./spacing/laid-out";
import { whereSchema } from "./where/schema";

/** A mesh of `columns` by `rows` squares whose points are written by shares of both; turned in the world. */
function surface(
  columns: number,
  rows: number,
  point: (u: number, v: number) => Vec3,
  turn: Quat = [0, 0, 0, 1],
): WorldMesh {
  // prettier-ignore
  const [position, index]: number[][] = [[], []];
  for (let i = 0; i <= columns; i++) {
    for (let j = 0; j <= rows; j++) {
      position.push(...point(i / columns, j / rows));
      if (i === columns || j === rows) continue;
      const a = i * (rows + 1) + j;
      index.push(a, a + 1, a + rows + 2, a, a + rows + 2, a + rows + 1);
    }
  }
  const mesh: TriangleMesh = { position: Float32Array.from(position), index: Uint32Array.from(index), attributes: [] };
  return WorldMesh.of("hump", mesh, { position: [3, 1, -2], rotation: turn, scale: 1 });
}

const PATCH = {
  id: "paving",
  name: "Paving",
  what: { entries: [{ prop: "buoy" }] },
  stance: { up: "normal", meetsUp: "pivot" },
};

function placed(mesh: WorldMesh, patch: object) {
  const dressing = dressingSchema.parse({ ...PATCH, where: { kind: "patch", surfaces: ["hump"], patch } });
  return new Placing().evaluate(dressing, {
    guides: new Map(),
    bounds: BOUNDS,
    surfaces: new Map([["hump", { mesh, ground: true }]]),
  });
}

const at = (p: ReturnType<typeof placed>, i: number): Vec3 =>
  [0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k]) as unknown as Vec3;
const apart = (a: Vec3, b: Vec3) => Math.hypot(...a.map((x, k) => x - b[k]));

const plane = (turn?: Quat) => surface(6, 6, (u, v) => [20 * u - 10, 0, 20 * v - 10], turn);

test("on a plane it is the flat layout, wherever its handle is, however it is turned, and however the plane lies", () => {
  const turns = fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1), evenly(0.3, 1));
  fc.assert(
    fc.property(evenly(-4, 4), evenly(-4, 4), evenly(-3, 3), evenly(0, 1), turns, (x, z, turn, stagger, raw) => {
      const long = Math.hypot(...raw);
      const mesh = plane(raw.map((value) => value / long) as unknown as Quat);
      const layout = { columns: 4, rows: 5, across: 0.7, along: 0.5, stagger };
      for (const held of ["walked", "projected", "nearest"]) {
        const p = placed(mesh, { layout, handle: [x, 0, z], turn, held });
        expect(p.count).toBe(20);
        for (let i = 0; i < 20; i++) {
          const [row, column] = [Math.floor(i / 4), i % 4];
          const right = (column - 1.5) * 0.7 + (row % 2) * stagger * 0.7;
          const ahead = (row - 2) * 0.5;
          // Ahead is the surface's own south, turned about up; to the right of it lies its west.
          const own: Vec3 = [
            x + ahead * Math.sin(turn) - right * Math.cos(turn),
            0,
            z + ahead * Math.cos(turn) + right * Math.sin(turn),
          ];
          const wanted = rotate(mesh.stand!.rotation, own).map((value, k) => value + [3, 1, -2][k]) as unknown as Vec3;
          expect(apart(at(p, i), wanted)).toBeLessThan(1e-5);
          // Each is turned as the layout is.
          const front = rotate(mesh.stand!.rotation, [Math.sin(turn), 0, Math.cos(turn)]);
          const own4 = [0, 1, 2, 3].map((k) => p.rotation[4 * i + k]) as unknown as Quat;
          expect(apart(rotate(own4, [0, 0, 1]), front)).toBeLessThan(1e-5);
        }
      }
    }),
    { numRuns: 20 },
  );
});

test("on a cylinder it is unrolled: distances round it and along it are those of the layout", () => {
  const [radius, n] = [2, 256];
  const mesh = surface(n, 8, (u, v) => [radius * Math.sin(2 * Math.PI * u), 10 * v - 5, radius * Math.cos(2 * Math.PI * u)]); // prettier-ignore
  // Walking follows the flat faces: a step round is as long as it is on these.
  const around = (2 * n * Math.tan(Math.PI / n) * radius * Math.cos(Math.PI / n)) / (2 * Math.PI);
  const layout = { columns: 9, rows: 7, across: 0.6, along: 0.5 };
  const p = placed(mesh, { layout, handle: [0, 0, 2], turn: 0 });
  expect(p.count).toBe(63);
  const unrolled = Array.from({ length: 63 }, (_, i) => {
    const [x, y, z] = at(p, i);
    return [around * Math.atan2(x - 3, z + 2), y];
  });
  // Distances between any two are those of the layout, to a ten-thousandth.
  for (let i = 0; i < 63; i += 5) {
    for (let j = 0; j < 63; j++) {
      const flat = Math.hypot(((i % 9) - (j % 9)) * 0.6, (Math.floor(i / 9) - Math.floor(j / 9)) * 0.5);
      const there = Math.hypot(unrolled[i][0] - unrolled[j][0], unrolled[i][1] - unrolled[j][1]);
      expect(Math.abs(there - flat)).toBeLessThan(1e-5 + 1e-4 * flat);
    }
  }
});

test("on a ball it is the exponential map, to half a percent of the distance", () => {
  const radius = 1;
  // Edges of a fiftieth of the radius near the equator, where the handle is.
  const mesh = surface(314, 157, (u, v) => {
    const [a, b] = [2 * Math.PI * u, Math.PI * (v - 0.5)];
    return [radius * Math.cos(b) * Math.sin(a), radius * Math.sin(b), radius * Math.cos(b) * Math.cos(a)];
  });
  const p = placed(mesh, { layout: { columns: 7, rows: 7, across: 0.2, along: 0.2 }, handle: [0, 0, 1] });
  const middle = at(p, 24);
  for (let i = 0; i < p.count; i++) {
    const far = Math.hypot(((i % 7) - 3) * 0.2, (Math.floor(i / 7) - 3) * 0.2);
    const [a, b] = [at(p, i), middle].map((point) => point.map((x, k) => x - [3, 1, -2][k]));
    const angle = Math.acos(Math.min(1, a.reduce((sum, x, k) => sum + x * b[k], 0) / Math.hypot(...a) / Math.hypot(...b))); // prettier-ignore
    expect(Math.abs(angle - far)).toBeLessThan(Math.max(1e-4, 0.005 * far));
  }
});

test("beyond the surface's edge places are left out, stop there, or go on flat; the keys of the others stay", () => {
  const patch = { layout: { columns: 8, rows: 1, across: 1 }, handle: [8, 0, 0] };
  const [left, stopped, flat] = ["leave", "stop", "flat"].map((beyond) => placed(plane(), { ...patch, beyond }));
  const xs = (p: typeof left) => Array.from({ length: p.count }, (_, i) => Number((at(p, i)[0] - 3).toFixed(4))).sort((a, b) => a - b); // prettier-ignore
  expect(xs(left)).toEqual([4.5, 5.5, 6.5, 7.5, 8.5, 9.5]);
  expect(xs(stopped)).toEqual([4.5, 5.5, 6.5, 7.5, 8.5, 9.5, 10, 10]);
  expect(xs(flat)).toEqual([4.5, 5.5, 6.5, 7.5, 8.5, 9.5, 10.5, 11.5]);
  expect([...flat.key]).toEqual(expect.arrayContaining([...left.key]));
  const wider = placed(plane(), { ...patch, layout: { columns: 9, rows: 2, across: 1 }, handle: [0, 0, 0] });
  expect([...wider.key]).toEqual(expect.arrayContaining([...flat.key]));
  expect(wider.flags.every((flags) => (flags & FLAG.blank) === 0)).toBe(true);
});

test("a list of places is laid as it is; more rows than may be are told of", () => {
  const places = [[0, 0], [1.5, 2], [-1, 0.25]].map((place, id) => ({ id, at: place })); // prettier-ignore
  const p = placed(plane(), { layout: { kind: "list", places } });
  expect(p.count).toBe(3);
  expect(apart(at(p, 0), at(p, 1))).toBeCloseTo(2.5, 5);
  const much = placed(plane(), { layout: { columns: 5000, rows: 5000, across: 0.001, along: 0.001 } });
  expect(much.count + much.missing).toBe(25_000_000);
});

test("a place of the layout is found again by where it was carried to, from anywhere near", () => {
  const hump = surface(24, 24, (u, v) => [8 * u - 4, 0.6 * Math.cos(3 * u) * Math.sin(2 * v + 0.4), 8 * v - 4]);
  for (const held of ["walked", "projected", "nearest"] as const)
    fc.assert(
      fc.property(evenly(-1.5, 1.5), evenly(-1.5, 1.5), evenly(-3, 3), evenly(-0.4, 0.4), (x, y, turn, off) => {
        const { patch } = whereSchema.parse({ patch: { held, turn, handle: [0.3, 0.2, -0.4] } });
        const carrier = heldAt(patch, hump);
        const [out, there] = [spreadFor(1), new Uint8Array(1)];
        carrier.carry(Float64Array.of(x), Float64Array.of(y), out, there);
        expect(there[0]).toBe(1);
        const point = vectorAt(out.position, 0);
        const found = carrier.find(point, [x + off, y - off])!;
        carrier.carry(Float64Array.of(found[0]), Float64Array.of(found[1]), out, there);
        expect(apart(vectorAt(out.position, 0), point)).toBeLessThan(1e-3);
        if (held !== "nearest") expect(Math.hypot(found[0] - x, found[1] - y)).toBeLessThan(2e-3);
      }),
      { numRuns: 60 },
    );
});

import fc from "fast-check";
import { evenly } from "../math/testing";
import { distance, fromAxisAngle, quatAt, rotate, vectorAt, type Vec3 } from "../math";
import { makeLine } from "../line/testing";

import { densityAt } from "./gaps/density-map";

import { hexOf } from "./keys";
import { addedOn, evaluate, Placing, type Around, dressing, field, mesh, seen, STAND, surroundings } from "./testing";
import { WorldMesh } from "../mesh";
import type { Line } from "../line";
import type { Dressing } from "./schema";
import type { Placements } from "./placements";

const hills = (x: number, z: number) => 1.5 * Math.sin(0.5 * x) + Math.cos(0.7 * z + 0.2 * x);
const HILLS = field(20, hills, "hills");
const OUTLINE: Line = makeLine({
  id: "outline",
  number: 7,
  kind: "smooth",
  closed: true,
  knots: [
    [-7, 0, -6],
    [6, 0, -8],
    [8, 0, 3],
    [-2, 0, 7],
  ],
});
const HOLE: Line = makeLine({
  id: "hole",
  number: 8,
  kind: "circle",
  radius: 2,
  knots: [[0, 0, -2]],
});

type Input = NonNullable<Parameters<typeof dressing>[0]>;

const around = (ground = HILLS, lines: readonly Line[] = [OUTLINE, HOLE]): Around => ({
  ...surroundings(lines),
  surfaces: new Map([[ground.id, { mesh: ground, ground: true }]]),
});

const over = (input: Input): Dressing =>
  dressing({ ...input, where: { kind: "over", surfaces: ["hills"], ...input.where } }, []);
const spread = (input: Input, ground = HILLS, lines?: readonly Line[]): Placements =>
  evaluate(over(input), around(ground, lines));

const positionOf = (p: Placements, i: number): Vec3 =>
  [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]) as unknown as Vec3;
const byKey = (p: Placements) => new Map(Array.from(p.key, (key, i) => [key, i]));

const PATTERNS = ["even", "random", "square", "hexagonal"] as const;
const pattern = fc.constantFrom(...PATTERNS);
const clusters = fc.boolean();
const seed = fc.integer({ min: 0, max: 999_999 });

/** How far apart two placements of the same key are, and how many keys only one of the two has. */
function compared(a: Placements, b: Placements): { farthest: number; onlyA: number; onlyB: number } {
  const other = byKey(b);
  let [farthest, both] = [0, 0];
  a.key.forEach((key, i) => {
    const j = other.get(key);
    if (j === undefined) return;
    both++;
    // What rounding to single precision does, counted from another origin, is none.
    const far = distance(positionOf(a, i), positionOf(b, j));
    if (far > 4e-6) farthest = Math.max(farthest, far);
    if (a.prop[i] !== b.prop[j]) farthest = Infinity;
  });
  return { farthest, onlyA: a.count - both, onlyB: b.count - both };
}

test("whatever the pattern, all stand on the surface, inside the area and in no hole, each with a key of its own", () => {
  fc.assert(
    fc.property(pattern, clusters, seed, (pattern, clusters, seed) => {
      const p = spread({
        where: { areas: ["outline"], holes: ["hole"] },
        spacing: { pattern, clusters, distance: 0.6 },
        variation: { seed },
      });
      expect(p.count).toBeGreaterThan(60);
      expect(new Set(p.key).size).toBe(p.count);
      const inside = around().guides;
      const polygon = Array.from({ length: 200 }, (_, k) => pointAt(inside.get("outline")!, k / 200));
      for (let i = 0; i < p.count; i++) {
        const [x, y, z] = positionOf(p, i);
        const met = { triangle: -1, x: 0, y: 0, z: 0 };
        HILLS.tree.nearest(x, y, z, met);
        expect(distance([x, y, z], [met.x, met.y, met.z])).toBeLessThan(1e-5);
        expect(Math.hypot(x, z + 2)).toBeGreaterThan(2 - 1e-3);
        // As near to the edge as the corners of a coarser polygon lie apart it may count as either.
        if (!winds(polygon, x, z)) expect(nearestTo(polygon, x, z)).toBeLessThan(0.16);
      }
    }),
    { numRuns: 8 },
  );
});

const pointAt = ({ curve }: { curve: { length: number; sample: (...args: never[]) => void } }, share: number): Vec3 => {
  const out = new Float64Array(3);
  (curve.sample as (at: Float64Array, n: number, p: Float64Array, t: Float64Array) => void)(
    Float64Array.of(share * curve.length),
    1,
    out,
    new Float64Array(3),
  );
  return [out[0], out[1], out[2]];
};

/** Whether angles from a place to the corners of a polygon add up to a full turn. */
function winds(polygon: readonly Vec3[], x: number, z: number): boolean {
  let turned = 0;
  polygon.forEach(([ax, , az], k) => {
    const [bx, , bz] = polygon[(k + 1) % polygon.length];
    const [ux, uz, vx, vz] = [ax - x, az - z, bx - x, bz - z];
    turned += Math.atan2(ux * vz - uz * vx, ux * vx + uz * vz);
  });
  return Math.abs(turned) > Math.PI;
}
const nearestTo = (polygon: readonly Vec3[], x: number, z: number) =>
  Math.min(...polygon.map(([a, , b]) => Math.hypot(a - x, b - z)));

test("a number that is asked for is the number there is, with limits, clusters or without, as far as there is room", () => {
  fc.assert(
    fc.property(pattern, clusters, seed, fc.integer({ min: 1, max: 700 }), (pattern, clusters, seed, count) => {
      const p = spread({
        spacing: { pattern, clusters, amount: "count", count },
        variation: { seed },
        gaps: { slopeOn: true, slope: [0, 0.6], slopeSoft: 0.2 },
      });
      expect(p.count).toBe(count);
    }),
    { numRuns: 20 },
  );
});

test("so many to the square metre come to that many, wherever the mesh is finer; even ones lie no nearer than they may", () => {
  const area = 400;
  const flat = field(20, () => 0, "hills");
  for (const pattern of PATTERNS) {
    const p = spread({ spacing: { pattern, amount: "density", perArea: 4 } }, flat);
    // A tenth more or less for what the rim does to a pattern; random ones vary by the root of their number.
    expect(Math.abs(p.count / (4 * area) - 1)).toBeLessThan(0.1);
  }
  const even = spread({ spacing: { distance: 0.7 } });
  const at = Array.from({ length: even.count }, (_, i) => positionOf(even, i));
  const nearest = at.reduce(
    (least, a, i) => at.slice(0, i).reduce((d, b) => Math.min(d, distance(a, b)), least),
    Infinity,
  );
  expect(nearest).toBeGreaterThan(0.7 - 1e-5);
});

const limits: fc.Arbitrary<NonNullable<Input["gaps"]>> = fc.oneof(
  fc.record({
    slopeOn: fc.constant(true),
    slope: fc.constant<[number, number]>([0, 0.5]),
    slopeSoft: fc.constantFrom(0, 0.3),
  }),
  fc.record({
    heightOn: fc.constant(true),
    height: fc.constant<[number, number]>([-0.5, 1]),
    heightSoft: fc.constantFrom(0, 1),
  }),
  fc.record({ facingOn: fc.constant(true), facing: evenly(0, 6) }),
  fc.constant({ edge: 3 }),
  fc.constantFrom(
    ...[
      [{ to: "hole", none: 1, full: 1 }],
      [{ to: "hole", none: 0.5, full: 4 }],
      [{ to: "hole", none: 5, full: 1 }],
    ].map((distances) => ({ distances })),
  ),
);

test("what lies exactly on a limit belongs to it, however it is turned and rounded", () => {
  const whole = fc.integer({ min: 1, max: 80 });
  fc.assert(
    fc.property(
      whole,
      fc.integer({ min: 0, max: 359 }),
      fc.constantFrom("square", "even"),
      (degrees, about, pattern) => {
        const [angle, heading] = [(degrees * Math.PI) / 180, (about * Math.PI) / 180];
        const [a, b] = [Math.sin(heading) * Math.tan(angle), Math.cos(heading) * Math.tan(angle)];
        const tilted = field(4, (x, z) => a * x + b * z, "hills");
        const count = (gaps: object) => spread({ spacing: { pattern, distance: 0.8 }, gaps }, tilted).count;
        const all = count({});
        expect(count({ slopeOn: true, slope: [angle, angle] })).toBe(all);
        expect(count({ slopeOn: true, slope: [0, angle - 0.001] })).toBe(0);
      },
    ),
    { numRuns: 40 },
  );
  const flat = (height: [number, number]) =>
    spread(
      { spacing: { distance: 0.8 }, gaps: { heightOn: true, height } },
      field(4, () => 0.7, "hills"),
    ).count;
  expect(flat([0.7, 9])).toBe(flat([-9, 0.7]));
  expect(flat([0.7, 0.7])).toBeGreaterThan(10);
  expect(flat([0.7001, 9])).toBe(0);
});

test("a limit takes some away and leaves all others as they were; chance, turns and other limits move none", () => {
  fc.assert(
    fc.property(pattern, limits, limits, seed, (pattern, one, another, seed) => {
      const of = (gaps: Input["gaps"], more: Input = {}) =>
        spread({
          what: { entries: [{ prop: "buoy" }, { prop: "oar" }], order: "mixed" },
          spacing: { pattern, distance: 0.5 },
          gaps,
          ...more,
          variation: { seed, ...more.variation },
        });
      const [all, fewer] = [of({}), of(one)];
      expect(fewer.count).toBeLessThan(all.count);
      expect(compared(fewer, all)).toMatchObject({ farthest: 0, onlyA: 0 });
      const both = of({ ...one, ...another });
      expect(compared(both, all)).toMatchObject({ farthest: 0, onlyA: 0 });
      expect(
        compared(
          of(one, { variation: { turnOn: true, turnUp: [-1, 1], turnAlong: [0, 0], turnAcross: [0, 0] } }),
          fewer,
        ),
      ).toEqual({
        farthest: 0,
        onlyA: 0,
        onlyB: 0,
      });
    }),
    { numRuns: 15 },
  );
});

test("where a limit says nothing may stand, nothing does; a wider one keeps what a narrower one kept", () => {
  fc.assert(
    fc.property(pattern, evenly(0.1, 0.6), (pattern, steep) => {
      const upTo = (most: number) =>
        spread({
          spacing: { pattern, distance: 0.4 },
          stance: { up: "normal" },
          gaps: { slopeOn: true, slope: [0, most], distances: [{ to: "hole", none: 0.6, full: 0.6 }] },
        });
      const [narrow, wide] = [upTo(steep), upTo(steep + 0.1)];
      expect(compared(narrow, wide)).toMatchObject({ farthest: 0, onlyA: 0 });
      const normal = new Float64Array(3);
      for (let i = 0; i < narrow.count; i++) {
        const [x, y, z] = positionOf(narrow, i);
        expect(Math.abs(Math.hypot(x, z + 2) - 2)).toBeGreaterThan(0.6 - 1e-3);
        const met = { triangle: -1, x: 0, y: 0, z: 0 };
        HILLS.tree.nearest(x, y, z, met);
        HILLS.flatNormal(met.triangle, normal);
        // On the edge between two triangles either may be found.
        if (Math.acos(normal[1]) > steep + 1e-3) expect(onAnEdge(met.triangle, [x, y, z])).toBe(true);
      }
    }),
    { numRuns: 12 },
  );
});

function onAnEdge(t: number, [x, y, z]: Vec3): boolean {
  const corners = [0, 1, 2].map((k) => vectorAt(HILLS.position, HILLS.index[3 * t + k]));
  return corners.some((a, k) => {
    const b = corners[(k + 1) % 3];
    const along = distance(a, b);
    return distance(a, [x, y, z]) + distance(b, [x, y, z]) - along < 1e-5;
  });
}

test("where it is painted away nothing stands, where it is put back all do, and nothing else changes", () => {
  fc.assert(
    fc.property(pattern, evenly(0, 1), seed, (pattern, soft, seed) => {
      const points = [-4, -1, 2].map((x): Vec3 => [x, hills(x, 1), 1]);
      const stroke = { on: "hills", points, radius: 2.5, strength: 1, soft, puts: false };
      const of = (strokes: (typeof stroke)[], base: "all" | "none" = "all") =>
        spread({ spacing: { pattern, distance: 0.5 }, variation: { seed }, gaps: { paint: { base, strokes } } });
      const [all, less] = [of([]), of([stroke])];
      expect(compared(less, all)).toMatchObject({ farthest: 0, onlyA: 0 });
      const kept = byKey(less);
      for (let i = 0; i < all.count; i++) {
        const far = Math.min(...[0, 1].map((k) => toSegment(positionOf(all, i), points[k], points[k + 1])));
        if (far > 2.5 + 1e-6) expect(kept.has(all.key[i])).toBe(true);
        else if (far < 2.5 * (1 - soft) - 1e-6) expect(kept.has(all.key[i])).toBe(false);
      }
      const back = { ...stroke, puts: true, soft: 0 };
      expect(compared(of([stroke, back]), all)).toEqual({ farthest: 0, onlyA: 0, onlyB: 0 });
      expect(of([], "none").count).toBe(0);
      // What is put is what would have been taken away by the same stroke.
      const put = of([back], "none");
      expect(put.count).toBe(all.count - of([{ ...stroke, soft: 0 }]).count);
    }),
    { numRuns: 8 },
  );
});

function toSegment(p: Vec3, a: Vec3, b: Vec3): number {
  const along = [0, 1, 2].reduce((sum, k) => sum + (p[k] - a[k]) * (b[k] - a[k]), 0) / distance(a, b) ** 2;
  const share = Math.max(0, Math.min(1, along));
  return distance(p, [0, 1, 2].map((k) => a[k] + share * (b[k] - a[k])) as unknown as Vec3);
}

test("the map of how full it is says no more than what stands, and why not", () => {
  const limited = over({
    where: { areas: ["outline"], holes: ["hole"] },
    spacing: { distance: 0.4 },
    gaps: { slopeOn: true, slope: [0, 0.7] },
  });
  const p = seen(limited, around());
  const map = p.density!;
  for (let i = 0; i < p.count; i++) {
    const [x, , z] = positionOf(p, i);
    const cell = Math.max((map.most[0] - map.least[0]) / map.columns, (map.most[1] - map.least[1]) / map.rows);
    // On the edge of what is free a sample's middle may lie on the other side.
    const around = [-1, 0, 1].flatMap((a) => [-1, 0, 1].map((b) => densityAt(map, x + a * cell, z + b * cell)));
    expect(around.some((one) => one !== null && one.share > 0)).toBe(true);
  }
  expect(densityAt(map, 0, -2)).toMatchObject({ share: 0, reason: "outside" });
  expect(densityAt(map, 400, 0)).toBeNull();
});

test("a surface that is moved, turned or made larger takes along what stands on it, by the same keys", () => {
  fc.assert(
    fc.property(fc.constantFrom("even", "random"), evenly(0, 6), seed, (pattern, turn, seed) => {
      const rotation = fromAxisAngle([0.6, 0.8, 0], turn);
      const moved = field(20, hills, "hills", { position: [40, -3, 1000], rotation, scale: 1 });
      const input: Input = { spacing: { pattern, distance: 0.8 }, variation: { seed } };
      const [before, after] = [spread(input), spread(input, moved)];
      expect([...after.key]).toEqual([...before.key]);
      for (let i = 0; i < before.count; i++) {
        const [x, y, z] = rotate(rotation, positionOf(before, i));
        expect(distance(positionOf(after, i), [x + 40, y - 3, z + 1000])).toBeLessThan(1e-3);
      }
    }),
    { numRuns: 10 },
  );
});

test("up leans towards the normal by as much as is said, forward lies square to it and goes downhill where it should", () => {
  fc.assert(
    fc.property(
      fc.constantFrom("along", "downhill", "random", "line", "heading"),
      fc.constantFrom(0, 0.4, 1),
      (forward, upBy) => {
        const p = spread({ spacing: { pattern: "square", distance: 0.9 }, stance: { up: "normal", upBy, forward } });
        const normal = new Float64Array(3);
        for (let i = 0; i < p.count; i++) {
          const q = quatAt(p.rotation, i);
          expect(Math.hypot(...q)).toBeCloseTo(1, 5);
          const [up, ahead] = [rotate(q, [0, 1, 0]), rotate(q, [0, 0, 1])];
          const [x, y, z] = positionOf(p, i);
          const met = { triangle: -1, x: 0, y: 0, z: 0 };
          HILLS.tree.nearest(x, y, z, met);
          HILLS.smoothNormal(met.triangle, x, y, z, normal);
          const wanted = upBy * Math.acos(normal[1]);
          expect(Math.abs(Math.acos(Math.min(1, up[1])) - wanted)).toBeLessThan(2e-3);
          HILLS.flatNormal(met.triangle, normal);
          const [nx, , nz] = normal;
          if (forward === "downhill" && upBy === 0 && Math.hypot(nx, nz) > 0.05 && !onAnEdge(met.triangle, [x, y, z]))
            expect((ahead[0] * nx + ahead[2] * nz) / Math.hypot(nx, nz)).toBeGreaterThan(0.999);
        }
      },
    ),
    { numRuns: 12 },
  );
});

test("what is pegged stays whatever the limits say: moved, removed, added; it goes along with its surface", () => {
  const plain = spread({ spacing: { distance: 1.5 } });
  const pegs = {
    [hexOf(plain.key[4])]: { on: "hills", point: [3, 8, 3] as Vec3 },
    [hexOf(plain.key[9])]: { on: "hills", removed: true },
    ...addedOn("hills", { point: [-4, 5, 2], prop: "oar" }),
    "0123456789abcdef": { on: "hills" },
  };
  for (const position of [STAND.position, [5, 1, -3] as Vec3]) {
    const ground = field(20, hills, "hills", { ...STAND, position });
    const p = spread({ spacing: { distance: 1.5 }, pegs, gaps: { heightOn: true, height: [90, 91] } }, ground);
    expect(p.count).toBe(3);
    expect(p.blanks).toBe(1);
    expect(p.orphans).toEqual(["0123456789abcdef"]);
    const moved = positionOf(p, [...p.key].indexOf(plain.key[4]));
    const met = { triangle: -1, x: 0, y: 0, z: 0 };
    HILLS.tree.nearest(3, 8, 3, met);
    expect(distance(moved, [met.x + position[0], met.y + position[1], met.z + position[2]])).toBeLessThan(1e-5);
    expect(p.props[p.prop[2]]).toBe("oar");
  }
});

test("an area without a surface is spread over by itself, on the plane that fits it; an open line is none", () => {
  const where = { surfaces: [], areas: ["outline"] };
  const sloping = {
    ...OUTLINE,
    knots: OUTLINE.knots.map((knot) => ({
      ...knot,
      position: [knot.position[0], 2 + 0.1 * knot.position[0], knot.position[2]] as Vec3,
    })),
  };
  const p = spread({ where, spacing: { distance: 1 } }, HILLS, [sloping]);
  expect(p.count).toBeGreaterThan(80);
  for (let i = 0; i < p.count; i++) {
    const [x, y] = positionOf(p, i);
    expect(y).toBeCloseTo(2 + 0.1 * x, 4);
  }
  expect(spread({ where }, HILLS, [{ ...OUTLINE, closed: false } as Line]).count).toBe(0);
  expect(spread({ where: { areas: ["gone"] } }).count).toBe(0);
});

test("what the surface is, and what changes nothing, is not worked out again; a mesh without triangles has nothing on it", () => {
  const placing = new Placing();
  const scene = around();
  const of = (input: Input) => dressing({ where: { kind: "over", surfaces: ["hills"] }, ...input }, []);
  const first = placing.evaluate(of({}), scene);
  const again = placing.evaluate(of({}), scene);
  expect([again.position === first.position, placing.ran]).toEqual([true, []]);
  placing.evaluate(of({ variation: { turnOn: true, turnUp: [0, 1] } }), scene);
  expect(placing.ran).toEqual(["turn 0", "turn 1", "turn 2", "stand"]);
  const bare = WorldMesh.of("hills", mesh([], []), STAND);
  for (const pattern of PATTERNS) expect(spread({ spacing: { pattern, amount: "count" } }, bare).count).toBe(0);
});

test("wander moves neighbours together, never farther than it may, and goes along when the surface is moved", () => {
  const input = (wanderOn: boolean): Input => ({
    spacing: { pattern: "even", distance: 0.5 },
    variation: { wanderOn, wanderAcross: 0.8, wanderOver: 4 },
  });
  const [straight, moved] = [spread(input(false)), spread(input(true))];
  expect([...moved.key]).toEqual([...straight.key]);
  const shift = Array.from(moved.key, (_, i) => positionOf(moved, i)[0] - positionOf(straight, i)[0]);
  expect(Math.max(...shift.map(Math.abs))).toBeGreaterThan(0.3);
  expect(Math.max(...shift.map(Math.abs))).toBeLessThanOrEqual(0.8 + 1e-6);
  for (let i = 1; i < 200; i++) {
    for (let j = 0; j < i; j++) {
      const apart = distance(positionOf(straight, i), positionOf(straight, j));
      // The steepest that such a wave can be: twice its height, times the steepest of its ease, along each axis.
      expect(Math.abs(shift[i] - shift[j])).toBeLessThanOrEqual((0.8 * 2 * 1.875 * Math.sqrt(3) * apart) / 4 + 1e-5);
    }
  }
  const stand = { position: [3, 1, -2] as Vec3, rotation: STAND.rotation, scale: 1 };
  const elsewhere = spread(input(true), field(20, hills, "hills", stand));
  const other = byKey(elsewhere);
  Array.from(moved.key, (key, i) => {
    const [x, y, z] = positionOf(moved, i);
    expect(positionOf(elsewhere, other.get(key)!)).toEqual([x + 3, y + 1, z - 2].map((at) => expect.closeTo(at, 3)));
  });
});

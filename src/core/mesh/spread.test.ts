import fc from "fast-check";
import { evenly } from "../math/testing";
import { WorldMesh, areasOf, distanceFor, evenOver, randomOver, spreadable, type Spread } from ".";
import { trianglesBeyond } from "./adjacency";
import { arrivalsOver } from "./arrivals";
import { keepFirst } from "./keep-first";
import { arrivalsInside } from "./arrivals-inside";
import { facetsOf } from "./facets";
import { PointGrid } from "./point-grid";
import { cross, distance, lengthOf, subtract, vectorAt, type Vec3 } from "../math";

type Shape = Pick<WorldMesh, "position" | "index">;

/** A grid over the unit square of the parameters, mapped into space; `skew` makes its squares of very different sizes. */
function sheet(n: number, map: (u: number, v: number) => Vec3, skew = 1): Shape {
  const position: number[] = [];
  const index: number[] = [];
  for (let i = 0; i <= n; i++) for (let j = 0; j <= n; j++) position.push(...map((i / n) ** skew, (j / n) ** skew));
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      const a = i * (n + 1) + j;
      index.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
    }
  }
  return { position: Float64Array.from(position), index: Uint32Array.from(index) };
}

const flat = (metres: number, n = 1, skew = 1) => sheet(n, (u, v) => [metres * u, 0, metres * v], skew);
const hills = sheet(24, (u, v) => [20 * u, 2 * Math.sin(7 * u) + Math.cos(9 * v + 3 * u), 20 * v]);
const tube = sheet(32, (u, v) => [3 * Math.cos(2 * Math.PI * u), 12 * v, 3 * Math.sin(2 * Math.PI * u)]);
const roof = sheet(2, (u, v) => [12 * u, 6 * Math.abs(v - 0.5), 12 * v]);
/** Two squares a long way from each other, one of them turned over. */
const apart: Shape = {
  position: Float64Array.of(0, 0, 0, 0, 0, 8, 8, 0, 8, 8, 0, 0, 30, 0, 0, 38, 0, 0, 38, 0, 8, 30, 0, 8),
  index: Uint32Array.of(0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7),
};
const SHAPES = {
  "a square of two triangles": flat(16),
  hills,
  tube,
  roof,
  "two parts": apart,
  uneven: flat(16, 12, 3),
};

const places = ({ position, count }: Spread): Vec3[] => Array.from({ length: count }, (_, i) => vectorAt(position, i));

/** Every position lies in the triangle that it names. */
function expectOnMesh({ position: p, index }: Shape, spread: Spread): void {
  let off = 0;
  for (let i = 0; i < spread.count; i++) {
    const [a, b, c] = [0, 1, 2].map((k) => vectorAt(p, index[3 * spread.triangle[i] + k]));
    const x = vectorAt(spread.position, i);
    const around = [area(x, b, c), area(a, x, c), area(a, b, x)];
    off = Math.max(off, around[0] + around[1] + around[2] - area(a, b, c));
  }
  expect(off).toBeLessThan(1e-6);
}

const area = (a: Vec3, b: Vec3, c: Vec3): number => lengthOf(cross(subtract(b, a), subtract(c, a))) / 2;

describe("random positions", () => {
  test("are as many as asked for, exactly, on the mesh; a seed always gives the same", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(SHAPES)),
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 0 }),
        (shape, count, seed) => {
          const spread = randomOver(shape, { count }, { seed });
          expect(spread.count).toBe(count);
          expectOnMesh(shape, spread);
          expect(randomOver(shape, { count }, { seed })).toEqual(spread);
        },
      ),
      { numRuns: 40 },
    );
  });

  test("fill triangles of any size by their area, and each of them evenly (chi-square, 5 standard deviations)", () => {
    for (const shape of [flat(16), flat(16, 12, 3), hills]) {
      const spread = randomOver(shape, { count: 20_000 }, { seed: 3 });
      const areas = areasOf(shape);
      const total = areas.reduce((sum, area) => sum + area);
      // Patches of the plan, eight by eight; what each should hold is the area of triangles cut small.
      const cells = 8;
      const size = shape === hills ? 20 : 16;
      const cellOf = (x: number, z: number) =>
        Math.min(cells - 1, Math.floor((x / size) * cells)) * cells +
        Math.min(cells - 1, Math.floor((z / size) * cells));
      const expected = new Float64Array(cells * cells);
      const FINE = areas.length > 100 ? 24 : 600;
      for (let t = 0; t < areas.length; t++) {
        const [a, b, c] = [0, 1, 2].map((k) => vectorAt(shape.position, shape.index[3 * t + k]));
        for (let i = 0; i < FINE; i++) {
          for (let j = 0; j < FINE; j++) {
            let [u, v] = [(i + 0.5) / FINE, (j + 0.5) / FINE];
            if (u + v > 1) [u, v] = [1 - u, 1 - v];
            const at = (k: 0 | 2) => a[k] + u * (b[k] - a[k]) + v * (c[k] - a[k]);
            expected[cellOf(at(0), at(2))] += ((areas[t] / total) * spread.count) / FINE ** 2;
          }
        }
      }
      const found = new Float64Array(cells * cells);
      for (const [x, , z] of places(spread)) found[cellOf(x, z)]++;
      const chi = found.reduce((sum, n, k) => sum + (n - expected[k]) ** 2 / expected[k], 0);
      const freedom = cells * cells - 1;
      expect(chi).toBeLessThan(freedom + 5 * Math.sqrt(2 * freedom));
    }
  });

  test("of a higher density are those of the lower one and more; a triangle's own depend on nothing else", () => {
    const named = (spread: Spread) => new Set(places(spread).map((p) => p.join(" ")));
    const [few, many] = [2, 5].map((density) => named(randomOver(hills, { density }, { seed: 8 })));
    expect(few.size).toBeGreaterThan(500);
    for (const one of few) expect(many).toContain(one);
    const half = { position: hills.position, index: hills.index.subarray(0, hills.index.length / 2) };
    for (const one of named(randomOver(half, { density: 2 }, { seed: 8 }))) expect(few).toContain(one);
    expect(randomOver(hills, { density: 1e9 }, { seed: 8, most: 1000 }).count).toBeGreaterThan(900);
  });
});

describe("even positions", () => {
  test.each(Object.entries(SHAPES))(
    "on %s are none nearer than asked for, and leave no room for another",
    (_, shape) => {
      fc.assert(
        fc.property(evenly(0.8, 3), fc.integer({ min: 0 }), (r, seed) => {
          const spread = evenOver(shape, spreadable(shape), r, { seed });
          const all = places(spread);
          expectOnMesh(shape, spread);
          let closest = Infinity;
          for (let i = 0; i < all.length; i++)
            for (let j = 0; j < i; j++) closest = Math.min(closest, distance(all[i], all[j]));
          expect(closest).toBeGreaterThanOrEqual(r);
          // From a dense sample of the mesh: nowhere is the next one farther than two distances, and seldom than one.
          let far = 0;
          let farthest = 0;
          const dense = places(randomOver(shape, { count: 1500 }, { seed: 1 }));
          for (const place of dense) {
            const nearest = all.reduce((least, p) => Math.min(least, distance(p, place)), Infinity);
            farthest = Math.max(farthest, nearest);
            if (nearest > r) far++;
          }
          expect(farthest).toBeLessThan(2 * r);
          expect(far / dense.length).toBeLessThan(0.05);
        }),
        { numRuns: 6 },
      );
    },
  );

  test("come to about as many as their distance was chosen for, and to the same each time", () => {
    for (const count of [300, 3000]) {
      const shape = flat(40, 7);
      const even = (seed: number) => evenOver(shape, spreadable(shape), distanceFor(count, 1600), { seed });
      const spread = even(5);
      expect(Math.abs(spread.count / count - 1)).toBeLessThan(0.12);
      expect(even(5)).toEqual(spread);
      expect(even(6)).not.toEqual(spread);
    }
    expect(evenOver(flat(40), spreadable(flat(40)), 0.1, { seed: 1, most: 500 }).count).toBe(500);
  });
});

test("triangles are neighbours by the places of their corners, also across seams; where three meet at an edge none are", () => {
  const torn: Shape = {
    position: Float64Array.of(0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0, 1, 0.5, 1, 0.5),
    index: Uint32Array.of(0, 1, 2, 3, 4, 5),
  };
  expect([...trianglesBeyond(torn.position, torn.index)]).toEqual([-1, 1, -1, -1, -1, 0]);
  const fin = Uint32Array.of(0, 1, 2, 3, 4, 5, 1, 2, 6);
  expect([...trianglesBeyond(torn.position, fin)]).toEqual(new Array(9).fill(-1));
});

describe("what arrives", () => {
  const density = evenly(0.5, 20);

  test("in a part of a mesh is what arrives there on all of it, however large its triangles are", () => {
    const corner = evenly(0, 12);
    fc.assert(
      fc.property(
        fc.constantFrom(flat(16), flat(16, 5), hills),
        corner,
        corner,
        density,
        fc.integer(),
        (shape, x, z, upTo, seed) => {
          const wanted = (least: ArrayLike<number>, most: ArrayLike<number>) =>
            most[0] >= x && least[0] <= x + 3 && most[2] >= z && least[2] <= z + 3;
          const inside = (all: ReturnType<typeof arrivalsOver>) => {
            const found = new Map<string, number>();
            for (let i = 0; i < all.count; i++) {
              const at = all.position.subarray(3 * i, 3 * i + 3);
              if (wanted(at, at)) found.set(`${all.key[2 * i]} ${all.key[2 * i + 1]} ${at.join()}`, all.density[i]);
            }
            return found;
          };
          const [all, part] = [undefined, wanted].map((one) =>
            arrivalsOver(shape, facetsOf(shape), upTo, { seed, wanted: one }),
          );
          expect(inside(part)).toEqual(inside(all));
          expect(
            new Set(Array.from({ length: all.count }, (_, i) => `${all.key[2 * i]} ${all.key[2 * i + 1]}`)).size,
          ).toBe(all.count);
          if (shape !== hills && upTo > 2) expect(part.count).toBeLessThan(all.count);
        },
      ),
      { numRuns: 25 },
    );
  });

  test("first is what a lower density has; whatever is asked for, no more are looked at than may be", () => {
    fc.assert(
      fc.property(density, fc.nat(400), (upTo, most) => {
        const all = arrivalsOver(hills, facetsOf(hills), upTo, { seed: 4 });
        const order = Array.from(all.density.subarray(0, all.count)).sort((a, b) => a - b);
        const before = Array.from(all.key);
        keepFirst(all, most);
        expect(all.count).toBe(Math.min(most, order.length));
        expect(Array.from(all.density.subarray(0, all.count)).sort((a, b) => a - b)).toEqual(order.slice(0, most));
        for (let i = 0; i < all.count; i++) expect(before).toContain(all.key[2 * i]);
      }),
      { numRuns: 20 },
    );
    for (const upTo of [1e12, 1e300]) {
      expect(arrivalsOver(flat(16), facetsOf(flat(16)), upTo, { seed: 1, most: 500 }).count).toBe(500);
      const cube = { least: [0, 0, 0], most: [4, 4, 4], cubic: 64, contains: () => true } as const;
      expect(arrivalsInside(cube, upTo, 1, 500).count).toBe(500);
    }
  });
});

test("a grid of points tells who is near, as looking at all of them does, also while it grows and its cells change", () => {
  const at = evenly(-5, 5);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(at, at, at), { maxLength: 60 }),
      fc.tuple(at, at, at),
      evenly(0.1, 3),
      (points, place, radius) => {
        const grid = new PointGrid(1);
        grid.resize(2 * radius);
        points.forEach((point, i) => {
          if (i === 30) grid.resize(3 * radius);
          grid.add(...point);
        });
        const near = points.flatMap((point, i) => (distance(point, place) < radius ? i : []));
        expect(grid.isFree(...place, radius)).toBe(near.length === 0);
        expect([...grid.near.subarray(0, grid.gather(...place, radius))].sort((a, b) => a - b)).toEqual(near);
      },
    ),
  );
});

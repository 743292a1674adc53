import fc from "fast-check";
import { evenly } from "../math/testing";
import { fromTurns, rotate, subtract, unit, type Quat, type Vec3 } from "../math";
import { madeMesh, madeSchema } from "../made";
import { makeLine } from "../line/testing";
import { WorldMesh, type Stand } from "../mesh";

import { hexOf } from "./keys";
import { evaluate, dressing, STAND, surroundings } from "./testing";
import { cellsOf, Insides } from "./spacing/cells";
import { cellInTile, evenTile } from "./spacing/tile";
import { Volume } from "../host";
import type { Placements } from "./placements";

/** A ball of radius 3 about the origin, without so many of its triangles. */
const ball = (holes = 0): WorldMesh => {
  const knots = Array.from({ length: 25 }, (_, k): Vec3 => {
    const angle = (Math.PI * k) / 24;
    return [3 * Math.sin(angle), -3 * Math.cos(angle), 0];
  });
  const line = makeLine({ id: "bow", number: 1, kind: "polyline", knots });
  const made = madeSchema.parse({ kind: "revolve", line: "bow", pieces: 40 });
  const mesh = madeMesh(made, surroundings([line]).guides)!;
  return WorldMesh.of("space", { ...mesh, index: mesh.index.slice(3 * holes) }, STAND);
};

const box = (size: Vec3, stand: Stand = STAND): WorldMesh => {
  const [width, height, depth] = size;
  return WorldMesh.of("space", madeMesh(madeSchema.parse({ kind: "box", width, height, depth }), new Map())!, stand);
};

type Input = NonNullable<Parameters<typeof dressing>[0]>;

const fill = (input: Input, ground: WorldMesh, lines: Parameters<typeof surroundings>[0] = []): Placements =>
  evaluate(dressing({ ...input, where: { kind: "inside", volumes: ["space"] } }, []), {
    ...surroundings(lines),
    surfaces: new Map([["space", { mesh: ground, ground: false }]]),
  });

const positionOf = (p: Placements, i: number): Vec3 =>
  [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]) as unknown as Vec3;

function nearestTwo(p: Placements): number {
  let least = Infinity;
  for (let i = 0; i < p.count; i++) {
    const a = positionOf(p, i);
    for (let j = 0; j < i; j++) {
      const b = positionOf(p, j);
      least = Math.min(least, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
    }
  }
  return least;
}

const PATTERNS = ["even", "random", "square", "hexagonal"] as const;
const pattern = fc.constantFrom(...PATTERNS);
const side = evenly(2, 6);
const size = fc.tuple(side, side, side);
const seed = fc.integer({ min: 0, max: 99_999 });

test("the inside of a mesh is told apart from the outside, also where some of its triangles are missing", () => {
  const R = 3;
  for (const [ground, slack] of [
    [ball(), 0.03],
    [ball(240), 0.35],
  ] as const) {
    const volume = new Volume(ground);
    fc.assert(
      fc.property(fc.tuple(...[0, 1, 2].map(() => evenly(-4, 4))), ([x, y, z]) => {
        const from = Math.hypot(x, y, z);
        fc.pre(Math.abs(from - R) > slack);
        expect(volume.contains(x, y, z)).toBe(from < R);
      }),
    );
  }
  expect(new Volume(ball()).cubic).toBeCloseTo((4 / 3) * Math.PI * R ** 3, -0.5);
});

test("all of whatever pattern lie inside, as far from the walls as asked, and their keys are unique", () => {
  fc.assert(
    fc.property(pattern, size, seed, fc.boolean(), evenly(0, 0.8), (pattern, size, seed, clusters, walls) => {
      const p = fill(
        { spacing: { pattern, distance: 0.7, clusters, clusterRadius: 0.4 }, variation: { seed }, gaps: { walls } },
        box(size),
      );
      expect(new Set(p.key).size).toBe(p.count);
      for (let i = 0; i < p.count; i++) {
        const [x, y, z] = positionOf(p, i);
        const inner = Math.min(size[0] / 2 - Math.abs(x), y, size[1] - y, size[2] / 2 - Math.abs(z));
        expect(inner).toBeGreaterThanOrEqual(walls - 1e-5);
      }
    }),
    { numRuns: 20 },
  );
});

test("none of an even spread is nearer than asked to another, and hardly any room is left, in plates and rods as well", () => {
  const distance = evenly(0.6, 1);
  const thinly = fc.oneof({ arbitrary: side, weight: 2 }, fc.constant(0.001));
  fc.assert(
    fc.property(fc.tuple(thinly, thinly, thinly), seed, distance, (size, seed, distance) => {
      const p = fill({ spacing: { pattern: "even", distance }, variation: { seed } }, box(size));
      expect(nearestTwo(p)).toBeGreaterThanOrEqual(distance - 1e-5);
      for (let n = 0; n < 500; n++) {
        const [x, y, z] = size.map((side, axis) => side * (unit(seed, axis, n, 0) - (axis === 1 ? 0 : 0.5)));
        let near = Infinity;
        for (let i = 0; i < p.count; i++) {
          const [u, v, w] = positionOf(p, i);
          near = Math.min(near, Math.hypot(u - x, v - y, w - z));
        }
        expect(near).toBeLessThan(1.15 * distance);
      }
    }),
    { numRuns: 16 },
  );
});

test("the even pattern goes on for ever, looks alike nowhere near, and its repetitions lie behind each other along no axis", () => {
  const { taken, points } = evenTile();
  const at = (i: number, j: number, k: number): Vec3 | null => {
    const cell = cellInTile(i, j, k);
    return taken[cell] === 0 ? null : [i + points[3 * cell], j + points[3 * cell + 1], k + points[3 * cell + 2]];
  };
  const anywhere = fc.integer({ min: -1e6, max: 1e6 });
  fc.assert(
    fc.property(anywhere, anywhere, anywhere, (i, j, k) => {
      const here = at(i, j, k);
      fc.pre(here !== null);
      for (let a = -2; a <= 2; a++) {
        for (let b = -2; b <= 2; b++) {
          for (let c = -2; c <= 2; c++) {
            const there = (a || b || c) && at(i + a, j + b, k + c);
            if (there) expect(Math.hypot(...subtract(there, here!))).toBeGreaterThan(Math.sqrt(3) - 1e-9);
          }
        }
      }
    }),
  );
  const first = cellInTile(0, 0, 0);
  for (let n = 1; n < 1000; n++)
    expect([cellInTile(n, 0, 0), cellInTile(0, n, 0), cellInTile(0, 0, n)]).not.toContain(first);
  for (let a = -20; a <= 20; a++)
    for (let b = -20; b <= 20; b++)
      for (let c = -20; c <= 20; c++) if (a || b || c) expect(cellInTile(a, b, c) === first).toBe(false);
});

test("another distance draws an even pattern out or together and keeps who is who", () => {
  fc.assert(
    fc.property(seed, evenly(0.7, 0.9), (seed, distance) => {
      const input = (distance: number): Input => ({ spacing: { pattern: "even", distance }, variation: { seed } });
      const before = fill(input(distance), box([6, 6, 6]));
      const after = fill(input(1.1 * distance), box([6, 6, 6]));
      const known = new Map(Array.from(before.key, (key, i) => [key, i]));
      let met = 0;
      for (let i = 0; i < after.count; i++) {
        const [x, y, z] = positionOf(after, i);
        if (Math.min(3 - Math.abs(x), y, 6 - y, 3 - Math.abs(z)) < 1.1 * distance) continue;
        const was = positionOf(before, known.get(after.key[i])!);
        expect(was.map((value) => 1.1 * value)).toEqual([x, y, z].map((value) => expect.closeTo(value, 4)));
        met++;
      }
      expect(met).toBeGreaterThan(20);
    }),
    { numRuns: 8 },
  );
});

test("packed ones have twelve neighbours at the distance; a grid has six", () => {
  for (const [pattern, neighbours] of [
    ["hexagonal", 12],
    ["square", 6],
  ] as const) {
    const p = fill({ spacing: { pattern, distance: 1 } }, box([7, 7, 7]));
    expect(nearestTwo(p)).toBeCloseTo(1, 5);
    const inner = Array.from({ length: p.count }, (_, i) => i).filter((i) => {
      const [x, y, z] = positionOf(p, i);
      return Math.max(Math.abs(x), Math.abs(y - 3.5), Math.abs(z)) < 2;
    });
    expect(inner.length).toBeGreaterThan(10);
    // In a plate there is one layer, in a rod one row.
    const [plate, rod] = [box([5, 0.3, 5]), box([5, 0.3, 0.3])];
    for (const [ground, fewest] of [
      [plate, 20],
      [rod, 4],
    ] as const) {
      const few = fill({ spacing: { pattern, distance: 1 } }, ground);
      expect(few.count).toBeGreaterThanOrEqual(fewest);
      expect(nearestTwo(few)).toBeGreaterThan(1 - 1e-5);
    }
    for (const i of inner) {
      const [x, y, z] = positionOf(p, i);
      const near = Array.from({ length: p.count }, (_, j) => positionOf(p, j)).filter(
        ([a, b, c]) => Math.abs(Math.hypot(a - x, b - y, c - z) - 1) < 1e-4,
      );
      expect(near).toHaveLength(neighbours);
    }
  }
});

test("the number asked for is the number there is; a density is met on average, evenly over eighths", () => {
  fc.assert(
    fc.property(pattern, seed, fc.integer({ min: 1, max: 400 }), (pattern, seed, count) => {
      const p = fill({ spacing: { pattern, amount: "count", count }, variation: { seed } }, ball());
      expect(p.count).toBe(count);
    }),
    { numRuns: 4 },
  );
  const p = fill({ spacing: { pattern: "random", amount: "density", perVolume: 40 } }, box([4, 4, 4]));
  const eighths = new Array<number>(8).fill(0);
  for (let i = 0; i < p.count; i++) {
    const [x, y, z] = positionOf(p, i);
    eighths[(x > 0 ? 1 : 0) + (y > 2 ? 2 : 0) + (z > 0 ? 4 : 0)]++;
  }
  const expected = (40 * 64) / 8;
  // Of chi-square with 8 degrees of freedom hardly ever more; cells share numbers out, so it is rather less.
  expect(eighths.reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0)).toBeLessThan(26);
});

test("whatever its sides, a volume is filled at random to its density, in all of it and in clusters that stay inside", () => {
  fc.assert(
    fc.property(size, evenly(-0.9, 0.9), seed, ([w, h, d], turn, seed) => {
      const ground = box([w, h, d], { position: [3, 1, -2], rotation: fromTurns(0, turn, turn), scale: 1.3 });
      const cubic = 1.3 ** 3 * w * h * d;
      const density = 700 / cubic;
      const p = fill(
        { spacing: { pattern: "random", amount: "density", perVolume: density }, variation: { seed } },
        ground,
      );
      // Six deviations of a Poisson count of 700.
      expect(Math.abs(p.count - 700)).toBeLessThan(160);
      const clusterCount: [number, number] = [8, 8];
      const clustered = { clusters: true, clusterCount, clusterRadius: 0.8 };
      const c = fill(
        {
          spacing: { pattern: "random", amount: "density", perVolume: density / 8, ...clustered },
          variation: { seed },
        },
        ground,
      );
      const own = (q: Placements, i: number) =>
        rotate(inverse(ground.stand!.rotation), subtract(positionOf(q, i), [3, 1, -2])).map((x) => x / 1.3);
      let [apart, heights] = [0, 0];
      for (let i = 0; i < c.count; i++) {
        const [x, y, z] = own(c, i);
        expect(Math.max(Math.abs(x) / (w / 2), Math.abs(z) / (d / 2))).toBeLessThanOrEqual(1 + 1e-6);
        expect(y).toBeGreaterThanOrEqual(-1e-6);
        expect(y).toBeLessThanOrEqual(h + 1e-6);
        // Eight by eight they lie about one middle each, to all sides of it.
        const first = own(c, i - (i % 8));
        apart = Math.max(apart, Math.hypot(x - first[0], y - first[1], z - first[2]));
        heights = Math.max(heights, Math.abs(y - first[1]));
      }
      expect(c.count % 8).toBe(0);
      const middles = new Set(
        Array.from({ length: c.count / 8 }, (_, k) =>
          own(c, 8 * k)
            .map((x) => x.toFixed(1))
            .join(),
        ),
      );
      expect(middles.size).toBeGreaterThan(0.6 * (c.count / 8));
      expect(apart).toBeLessThanOrEqual((2 * 0.8) / 1.3 + 1e-6);
      expect(heights).toBeGreaterThan(0.15);
    }),
    { numRuns: 12 },
  );
  const round = fill({ spacing: { pattern: "random", amount: "density", perVolume: 9 } }, ball());
  expect(Math.abs(round.count - 9 * (4 / 3) * Math.PI * 27)).toBeLessThan(6 * 32);
});

const inverse = ([x, y, z, w]: Quat): Quat => [-x, -y, -z, w];

test("a volume that is moved and turned takes all along by the same keys; one made larger moves none", () => {
  fc.assert(
    fc.property(pattern, seed, fc.tuple(side, side, side), (pattern, seed, [a, b, c]) => {
      const stand: Stand = { position: [a, -b, c], rotation: fromTurns(a, b, c) as Quat, scale: 1 };
      const input: Input = { spacing: { pattern, distance: 0.9 }, variation: { seed } };
      const before = fill(input, box([3, 3, 3]));
      const moved = fill(input, box([3, 3, 3], stand));
      expect([...moved.key]).toEqual([...before.key]);
      for (let i = 0; i < before.count; i++) {
        const [x, y, z] = rotate(stand.rotation, positionOf(before, i));
        const there = positionOf(moved, i);
        expect(Math.hypot(x + a - there[0], y - b - there[1], z + c - there[2])).toBeLessThan(1e-4);
      }
      if (pattern === "random") return;
      const larger = fill(input, box([4, 3.5, 5]));
      const known = new Map(Array.from(larger.key, (key, i) => [key, i]));
      for (let i = 0; i < before.count; i++) {
        const [x, y, z] = positionOf(before, i);
        // Next to walls some of an even pattern are there because of what is not beyond.
        const free = Math.min(1.5 - Math.abs(x), y, 3 - y, 1.5 - Math.abs(z));
        if (pattern === "even" && free < 0.9) continue;
        const [u, v, w] = positionOf(larger, known.get(before.key[i])!);
        expect(Math.hypot(x - u, y - v, z - w)).toBeLessThan(1e-5);
      }
    }),
    { numRuns: 16 },
  );
});

test("walls thin out and move none; a peg stays where it was put in the volume; outward is away from its middle", () => {
  const input: Input = {
    spacing: { pattern: "random", amount: "density", perVolume: 3 },
    stance: { forward: "outward", up: "normal", meetsUp: "pivot" },
  };
  const whole = fill(input, ball());
  const thinned = fill({ ...input, gaps: { walls: 1 } }, ball());
  const at = new Map(Array.from(whole.key, (key, i) => [key, i]));
  expect(thinned.count).toBeLessThan(whole.count);
  for (let i = 0; i < thinned.count; i++) {
    expect(positionOf(thinned, i)).toEqual(positionOf(whole, at.get(thinned.key[i])!).map((x) => expect.closeTo(x, 4)));
    const [x, y, z, w] = thinned.rotation.subarray(4 * i, 4 * i + 4);
    const up = rotate([x, y, z, w], [0, 1, 0]);
    const way = positionOf(thinned, i);
    const far = Math.hypot(...way);
    expect(up.map((value) => value * far)).toEqual(way.map((value) => expect.closeTo(value, 3)));
  }
  const peg = { on: "space", point: [0.5, 0.25, -0.5] as Vec3 };
  const pegged = fill({ ...input, pegs: { [hexOf(whole.key[0])]: peg } }, ball());
  expect(positionOf(pegged, pegged.key.indexOf(whole.key[0]))).toEqual(peg.point.map((x) => expect.closeTo(x, 5)));
});

test("in a volume a height limit leaves what lies within it, fewer the farther beyond it, and none beyond where it has faded out", () => {
  const input: Input = {
    spacing: { pattern: "random", amount: "density", perVolume: 20 },
    stance: { meetsUp: "pivot" },
  };
  const cube = box([4, 4, 4]);
  const whole = fill(input, cube);
  const limited = fill({ ...input, gaps: { heightOn: true, height: [-0.5, 0.5], heightSoft: 1 } }, cube);
  const within = (p: Placements, from: number, to: number) =>
    Array.from({ length: p.count }, (_, i) => Math.abs(positionOf(p, i)[1]) - 0.5).filter((by) => by >= from && by < to)
      .length;
  expect(within(limited, -1, 0)).toBe(within(whole, -1, 0));
  const shares = [within(limited, 0, 0.5) / within(whole, 0, 0.5), within(limited, 0.5, 1) / within(whole, 0.5, 1)];
  // On average, of a smooth step.
  shares.forEach((share, half) => expect(Math.abs(share - [13 / 16, 3 / 16][half])).toBeLessThan(0.12));
  expect(within(limited, 1, 9)).toBe(0);
});

test("cells tell inside from outside as the winding number does: with holes, and where a mesh overlaps itself", () => {
  const closed = ball();
  const two = (shift: number): WorldMesh => {
    const position = [...closed.own, ...closed.own.map((x, k) => (k % 3 === 0 ? x + shift : x))];
    const index = [...closed.index, ...closed.index.map((v) => v + closed.own.length / 3)];
    return WorldMesh.of(
      "space",
      { position: Float32Array.from(position), index: Uint32Array.from(index), attributes: [] },
      STAND,
    );
  };
  /** With a hole that faces a corner of the box about it: outside of it there are cells as well. */
  const open = (): WorldMesh => {
    const index = closed.index.filter((_, e) => {
      const t = e - (e % 3);
      const sum = [0, 1, 2].map((axis) =>
        [0, 1, 2].reduce((all, k) => all + closed.own[3 * closed.index[t + k] + axis], 0),
      );
      return sum[0] + sum[1] + sum[2] < 0.9 * Math.sqrt(3) * Math.hypot(...sum);
    });
    return WorldMesh.of("space", { position: Float32Array.from(closed.own), index, attributes: [] }, STAND);
  };
  for (const ground of [closed, open(), ball(60), two(2.5), box([2, 3, 4])]) {
    const volume = new Volume(ground);
    for (const size of [1.3, 0.2]) {
      const cells = cellsOf(volume, [size, size, size]);
      const insides = new Insides(volume, cells);
      fc.assert(
        fc.property(fc.nat(), (seed) => {
          const wrong: number[][] = [];
          for (let n = 0; n < 200; n++) {
            const at = [0, 1, 2].map(
              (axis) => volume.least[axis] + unit(seed, axis, n, 0) * (volume.most[axis] - volume.least[axis]),
            );
            const [x, y, z] = at;
            const [i, j, k] = at.map((value, axis) => Math.floor(value / cells.size[axis]) - cells.first[axis]);
            const cell = (i * cells.count[1] + j) * cells.count[2] + k;
            // Within a millimetre of a wall either may be right.
            if (volume.toWall(x, y, z, 1e-3) <= 1e-3) continue;
            if (insides.contains(cell, x, y, z) !== volume.contains(x, y, z)) wrong.push(at);
          }
          expect(wrong).toEqual([]);
        }),
        { numRuns: 2 },
      );
    }
  }
});

import { readRaster, writeRaster, type Raster } from "../image";
import fc from "fast-check";
import { evenly } from "../math/testing";
import { hashOf } from "../files";
import { makeLine } from "../line/testing";
import { madeMesh, madeSchema } from "../made";
import { WorldMesh } from "../mesh";

import { evaluate, type Around, dressing, field, mesh, STAND, surroundings } from "./testing";
import type { Placements } from "./placements";

/** Level ground of 20 by 20 metres with texture coordinates: u goes east, v goes north. */
const MEADOW = WorldMesh.of(
  "meadow",
  madeMesh(madeSchema.parse({ kind: "bumps", width: 20, depth: 20, height: 0.4, size: 5 }), new Map())!,
  STAND,
);

type Input = NonNullable<Parameters<typeof dressing>[0]>;

function spread(input: Input, more: Partial<Around> = {}, ground = MEADOW): Placements {
  const where = { kind: "over" as const, surfaces: [ground.id] };
  return evaluate(dressing({ spacing: { distance: 0.5 }, ...input, where }, []), {
    ...surroundings([]),
    surfaces: new Map([[ground.id, { mesh: ground, ground: true }]]),
    ...more,
  });
}

const places = (p: Placements): [number, number][] =>
  Array.from({ length: p.count }, (_, i) => [p.origin[0] + p.position[3 * i], p.origin[2] + p.position[3 * i + 2]]);

/** A picture that is bright where `bright` says so, at shares of its width and height from its upper left corner. */
function picture(bright: (x: number, y: number) => number, size = 64): Raster {
  const rgba = new Uint8Array(4 * size * size);
  for (let row = 0, p = 0; row < size; row++) {
    for (let column = 0; column < size; column++, p += 4) {
      rgba.fill(Math.round(255 * bright((column + 0.5) / size, (row + 0.5) / size)), p, p + 3);
      rgba[p + 3] = 255;
    }
  }
  return readRaster(writeRaster(size, size, rgba), "picture.png");
}

const ASSET = hashOf(Uint8Array.of(1));
const masked = (raster: Raster, mask: object = {}) =>
  spread(
    { gaps: { images: [{ asset: ASSET, least: [-10, -10], most: [10, 10], ...mask }] } },
    { images: new Map([[ASSET, raster]]) },
  );

test("a picture that is read is the one that was written, to one step of grey", () => {
  fc.assert(
    fc.property(fc.array(evenly(0, 1), { minLength: 9, maxLength: 9 }), (values) => {
      const raster = picture((x, y) => values[3 * Math.floor(3 * y) + Math.floor(3 * x)], 3);
      raster.share.forEach((share, i) => expect(Math.abs(share - values[i])).toBeLessThan(1 / 254));
    }),
    { numRuns: 30 },
  );
  expect(() => readRaster(Uint8Array.of(1, 2, 3), "x.png")).toThrow("is no PNG");
});

test("where a mask is black nothing stands, where it is white all do as before; its upper edge is in the north", () => {
  const whole = new Set(spread({}).key);
  const north = masked(picture((_, y) => (y < 0.5 ? 1 : 0)));
  expect(north.count).toBeGreaterThan(0.4 * whole.size);
  for (const [, z] of places(north)) expect(z).toBeLessThan(0.2);
  for (const key of north.key) expect(whole.has(key)).toBe(true);
  const south = masked(
    picture((_, y) => (y < 0.5 ? 1 : 0)),
    { invert: true },
  );
  for (const [, z] of places(south)) expect(z).toBeGreaterThan(-0.2);
  expect(masked(picture(() => 0)).count).toBe(0);
  expect([...masked(picture(() => 1)).key].sort()).toEqual([...whole].sort());
  // Only what lies under the picture is there.
  for (const [x, z] of places(
    masked(
      picture(() => 1),
      { least: [0, 0], most: [5, 5] },
    ),
  )) {
    expect(Math.min(x, z)).toBeGreaterThanOrEqual(-1e-6);
    expect(Math.max(x, z)).toBeLessThanOrEqual(5 + 1e-6);
  }
});

test("seen from above a picture's left edge lies in the west", () => {
  const west = places(masked(picture((x) => (x < 0.5 ? 1 : 0))));
  expect(west.length).toBeGreaterThan(200);
  for (const [x] of west) expect(x).toBeLessThan(0.2);
  expect(Math.min(...west.map(([x]) => x))).toBeLessThan(-9);
});

test("a brush that touched once, or went along a way, takes away what is as near as its radius and nothing else", () => {
  const whole = spread({});
  const coordinate = evenly(-8, 8);
  const way = fc.array(fc.tuple(coordinate, fc.constant(0.2), coordinate), { minLength: 1, maxLength: 3 });
  fc.assert(
    fc.property(way, evenly(0.8, 3), fc.boolean(), (points, radius, puts) => {
      const strokes = [{ on: MEADOW.id, points, radius, strength: 1, soft: 0, puts }];
      const p = spread({ gaps: { paint: { base: puts ? "none" : "all", strokes } } });
      const kept = new Set(p.key);
      const at = (q: Placements, i: number) => [0, 1, 2].map((axis) => q.origin[axis] + q.position[3 * i + axis]);
      for (let i = 0; i < whole.count; i++) {
        const place = at(whole, i);
        const far = Math.min(
          ...points.map((point, k) => fromPiece(place, point, points[Math.min(k + 1, points.length - 1)])),
        );
        if (Math.abs(far - radius) > 1e-3) expect(kept.has(whole.key[i])).toBe(far < radius === puts);
      }
    }),
    { numRuns: 25 },
  );
});

/** How far a place is from a straight piece. */
function fromPiece(place: readonly number[], a: readonly number[], b: readonly number[]): number {
  const way = a.map((x, axis) => b[axis] - x);
  const squared = way.reduce((sum, x) => sum + x * x, 0);
  const along = way.reduce((sum, x, axis) => sum + x * (place[axis] - a[axis]), 0);
  const share = squared > 0 ? Math.max(0, Math.min(1, along / squared)) : 0;
  return Math.hypot(...place.map((x, axis) => x - a[axis] - share * way[axis]));
}

test("by UVs a picture lies as the mesh has it; half bright leaves about half", () => {
  const east = masked(
    picture((x) => (x > 0.5 ? 1 : 0)),
    { project: "uv" },
  );
  for (const [x] of places(east)) expect(x).toBeGreaterThan(-0.2);
  const half =
    masked(
      picture(() => 0.5),
      { project: "uv" },
    ).count / spread({}).count;
  expect(half).toBeGreaterThan(0.42);
  expect(half).toBeLessThan(0.58);
  expect(
    masked(
      picture(() => 0.5),
      { levels: [0.6, 1] },
    ).count,
  ).toBe(0);
});

test("colours of vertices are a mask as well; a mesh without any is left alone", () => {
  const square = mesh([-5, 0, -5, -5, 0, 5, 5, 0, 5, 5, 0, -5], [0, 1, 2, 0, 2, 3]);
  const red = Float32Array.of(1, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 1);
  const ground = WorldMesh.of("square", { ...square, attributes: [{ name: "COLOR_0", width: 3, array: red }] }, STAND);
  const p = spread({ gaps: { colours: { on: true, channel: "red", levels: [0.5, 0.50001] } } }, {}, ground);
  expect(p.count).toBeGreaterThan(20);
  for (const [x] of places(p)) expect(x).toBeLessThan(0.01);
  expect(spread({ gaps: { colours: { on: true } } }).count).toBe(spread({}).count);
});

test("rows of UV lie at equal steps of it, about as far apart as asked, each once; their front runs along u", () => {
  fc.assert(
    fc.property(evenly(0.4, 3), (distance) => {
      const p = spread({ spacing: { pattern: "uv", distance }, stance: { forward: "uv", meetsUp: "pivot" } });
      const n = Math.round(20 / distance);
      const side = Math.round(Math.sqrt(p.count));
      // The bumps make the surface a little longer than it is wide.
      expect(Math.abs(side - n)).toBeLessThanOrEqual(Math.max(1, 0.05 * n));
      expect(p.count).toBe(side * side);
      expect(new Set(p.key).size).toBe(p.count);
      const step = 20 / side;
      for (const [x, z] of places(p)) {
        for (const value of [x, z]) {
          const share = (value + 10) / step - 0.5;
          expect(Math.abs(share - Math.round(share))).toBeLessThan(1e-3);
        }
      }
    }),
    { numRuns: 6 },
  );
});

test("without UVs a square grid takes the place of their rows", () => {
  const bare = WorldMesh.of("bare", mesh([-5, 0, -5, -5, 0, 5, 5, 0, 5, 5, 0, -5], [0, 1, 2, 0, 2, 3]), STAND);
  const [rows, grid] = (["uv", "square"] as const).map((pattern) => spread({ spacing: { pattern, distance: 1 } }, {}, bare)); // prettier-ignore
  expect(rows.count).toBeGreaterThan(90);
  expect(places(rows)).toEqual(places(grid));
});

test("inside a closed line counts as on it where that is asked; the props of another dressing are kept off", () => {
  const ring = makeLine({ id: "ring", number: 1, kind: "circle", radius: 4, knots: [[0, 0, 0]] });
  const distances = (within: boolean) => [{ to: "ring", none: 1, full: 1, within }];
  const lines = surroundings([ring]);
  const far = ([x, z]: [number, number]) => Math.hypot(x, z);
  const outside = places(spread({ gaps: { distances: distances(true) } }, lines)).map(far);
  expect(Math.min(...outside)).toBeGreaterThan(4.99);
  const both = places(spread({ gaps: { distances: distances(false) } }, lines)).map(far);
  expect(Math.min(...both)).toBeLessThan(2.9);
  const others = spread({ spacing: { distance: 4 } });
  const kept = spread(
    { gaps: { distances: [{ to: "others", none: 1.5, full: 1.5 }] } },
    { placed: new Map([["others", others]]) },
  );
  expect(kept.count).toBeGreaterThan(50);
  for (const [x, z] of places(kept)) {
    for (const [a, b] of places(others)) expect(Math.hypot(a - x, b - z)).toBeGreaterThan(1.4);
  }
});

test("props of another dressing keep off what is near in space, however high all of it lies", () => {
  const counts = [0, 300, -47.25].map((y) => {
    const stand = { position: [0, y, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
    const around = {
      ...surroundings([]),
      surfaces: new Map([["field", { mesh: field(8, () => 0, "field", stand), ground: true }]]),
    };
    const over = (spacing: object, gaps: object, more: object = {}) =>
      evaluate(dressing({ where: { kind: "over", surfaces: ["field"] }, spacing, gaps } as never), {
        ...around,
        ...more,
      });
    const others = over({ pattern: "square", distance: 4 }, {});
    const distances = [{ to: "others", none: 1.5, full: 1.5 }];
    const kept = over({ pattern: "square", distance: 0.5 }, { distances }, { placed: new Map([["others", others]]) });
    for (const [x, z] of places(kept))
      for (const [a, b] of places(others)) expect(Math.hypot(a - x, b - z)).toBeGreaterThan(1.4);
    return [kept.count, over({ pattern: "square", distance: 0.5 }, {}).count];
  });
  expect(counts[0][0]).toBeLessThan(counts[0][1]);
  expect(new Set(counts.map(String)).size).toBe(1);
});

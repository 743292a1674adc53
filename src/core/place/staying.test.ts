/** What stays where it was, and who it was, when something else is changed a little. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { Volume } from "../host";
import { add, fromAxisAngle, rotate, type Quat, type Vec3 } from "../math";
import { madeMesh, madeSchema } from "../made";
import { makeLine } from "../line/testing";
import { WorldMesh, type Stand } from "../mesh";
import {
  ADDED,
  ADDED_TAG,
  drawOnField,
  drawsOfRow,
  eachAmong,
  fieldHost,
  FIRST_CORNER,
  keyOf,
  placeOfKey,
  slotOfOld,
  writeWords,
} from "./keys";
import { sampleSurface } from "./spacing/sample-surface";
import type { Amount } from "./spacing/samples";
import { dressing, evaluate, field, STAND, surroundings } from "./testing";
import { fieldsOf } from "./where/fields";
import type { Placements } from "./placements";
import { lineSchema, type Line } from "../line";

type Input = NonNullable<Parameters<typeof dressing>[0]>;

const hills = (high: number) => (x: number, z: number) =>
  high * (1.5 * Math.sin(0.5 * x) + Math.cos(0.7 * z + 0.2 * x));
const plane = (width: number, height = 0): WorldMesh =>
  WorldMesh.of(
    "hills",
    madeMesh(madeSchema.parse({ kind: "bumps", width, depth: 20, height, size: 6 }), new Map())!,
    STAND,
  );
const GROUNDS = {
  hills: field(20, hills(1), "hills"),
  "two triangles": field(1, () => 0, "hills", { ...STAND, scale: 20 }),
  bumps: plane(20, 2),
};

const boxLine = (x: number, by: Vec3 = [0, 0, 0]): Line =>
  makeLine({
    id: "area",
    number: 3,
    kind: "polyline",
    closed: true,
    knots: [
      [-7, 0, -6],
      [x, 0, -6.5],
      [x, 0, 5],
      [-6, 0, 7],
    ].map((knot) => add(knot as unknown as Vec3, by)),
  });

function spread(input: Input, ground: WorldMesh, lines: readonly Line[] = [boxLine(6)]): Placements {
  const where = { kind: "over" as const, surfaces: ["hills"], ...input.where };
  const surfaces = new Map([[ground.id, { mesh: ground, ground: true }]]);
  return evaluate(dressing({ ...input, where }, []), { ...surroundings(lines), surfaces });
}

const positionOf = (p: Placements, i: number): Vec3 =>
  [0, 1, 2].map((axis) => p.origin[axis] + p.position[3 * i + axis]) as unknown as Vec3;

/** Of the first: the shares whose keys the second has too, and that are in the same place; and how far a key moves at most. */
function staying(a: Placements, b: Placements, moved = (place: Vec3): Vec3 => place) {
  const other = new Map(Array.from(b.key, (key, i) => [key, i]));
  let [known, stay, far] = [0, 0, 0];
  a.key.forEach((key, i) => {
    const j = other.get(key);
    if (j === undefined) return;
    known++;
    const away = Math.hypot(...moved(positionOf(a, i)).map((x, axis) => x - positionOf(b, j)[axis]));
    // Placements are in single precision about their own middle.
    if (away < 4e-6) stay++;
    else far = Math.max(far, away);
    expect([b.prop[j], b.tint[j]]).toEqual([a.prop[i], a.tint[i]]);
  });
  return { known: known / a.count, stay: stay / a.count, far };
}

const seed = fc.integer({ min: 0, max: 99_999 });
const ground = fc.constantFrom(...Object.values(GROUNDS));
const turned: Input = { what: { entries: [{ prop: "buoy" }, { prop: "oar" }], order: "mixed" } };

test("a distance a hundredth larger leaves four fifths of an even spread where they are, and moves no key by a tenth of it", () => {
  const stayed: number[] = [];
  fc.assert(
    fc.property(ground, seed, evenly(0.45, 0.8), (ground, seed, distance) => {
      const of = (distance: number) => spread({ ...turned, spacing: { distance }, variation: { seed } }, ground);
      const { stay, far } = staying(of(distance), of(1.01 * distance));
      stayed.push(stay);
      expect(stay).toBeGreaterThan(0.75);
      expect(far).toBeLessThan(distance / 10);
    }),
    { numRuns: 12 },
  );
  // Now and then one that comes early must give way, and those that it kept off push others off in their turn.
  expect(stayed.reduce((sum, stay) => sum + stay) / stayed.length).toBeGreaterThan(0.81);
});

test("one more is one more, whatever keeps some off; an outline moved by 5 cm deals nothing anew", () => {
  const pattern = fc.constantFrom("even" as const, "random" as const);
  fc.assert(
    fc.property(ground, seed, pattern, fc.boolean(), (ground, seed, pattern, steep) => {
      const of = (count: number, x = 6) =>
        spread(
          {
            ...turned,
            where: { areas: ["area"] },
            spacing: { pattern, amount: "count", count },
            gaps: { slopeOn: steep, slope: [0, 0.4], slopeSoft: 0.2 },
            variation: { seed },
          },
          ground,
          [boxLine(x)],
        );
      const few = of(150);
      expect([few.count, of(151).count]).toEqual([150, 151]);
      expect(staying(few, of(151)).stay).toBe(1);
      expect(staying(few, of(150, 6.05)).stay).toBeGreaterThan(0.97);
      expect(staying(few, of(150, 5.95)).stay).toBeGreaterThan(0.97);
    }),
    { numRuns: 12 },
  );
});

test("an area without a surface keeps what is on it when its edge is moved", () => {
  const of = (pattern: "even" | "random", x: number) =>
    spread(
      { where: { surfaces: [], areas: ["area"] }, spacing: { pattern, amount: "count", count: 120 } },
      GROUNDS.hills,
      [boxLine(x)],
    );
  for (const pattern of ["even", "random"] as const)
    expect(staying(of(pattern, 6), of(pattern, 6.05)).known).toBeGreaterThan(0.97);
});

test("a hill a hundredth higher and a plane 5 cm wider keep who is who", () => {
  const pattern = fc.constantFrom("even" as const, "random" as const, "square" as const);
  const evenly: number[] = [];
  const knots: Vec3[] = [
    [5, 0, -2],
    [12, 0, -2],
    [12, 0, 3],
    [5, 0, 3],
  ];
  const atRim = makeLine({ id: "area", number: 3, kind: "polyline", closed: true, knots });
  fc.assert(
    fc.property(seed, pattern, fc.constantFrom(15, 19.3, 20), fc.boolean(), (seed, pattern, wide, within) => {
      const where = { areas: within ? ["area"] : [] };
      const distance = within ? 0.4 : 1;
      const of = (ground: WorldMesh) =>
        spread({ ...turned, where, spacing: { pattern, distance }, variation: { seed, tintOn: true } }, ground, [
          atRim,
        ]);
      const low = of(GROUNDS.hills);
      const high = staying(low, of(field(20, hills(1.01), "hills")));
      // Evenly, who comes first may change with the areas of triangles, and that bears on those about it.
      if (pattern !== "even") expect(high.known).toBeGreaterThan(0.985);
      expect(high.far).toBeLessThan(0.1);
      for (const height of [0, 2]) {
        // The plane with bumps has a column more.
        const wider = staying(of(plane(wide, height)), of(plane(wide + 0.05, height)));
        if (pattern === "even") evenly.push(wider.known);
        expect(wider.known).toBeGreaterThan({ even: 0.91, random: 0.99, square: 0.95 }[pattern]);
      }
    }),
    {
      numRuns: 12,
      examples: [
        [6, "even", 15, false],
        [1, "random", 15, true],
      ],
    },
  );
  expect(evenly.reduce((sum, known) => sum + known) / evenly.length).toBeGreaterThan(0.965);
});

test("a surface takes all along that is spread over it, within an area that is moved with it too, however far away", () => {
  const pattern = fc.constantFrom("even" as const, "random" as const, "square" as const, "hexagonal" as const);
  const by = fc.constantFrom<Vec3>([3.3, 0.7, -2.1], [100_000, 0, -100_000]);
  fc.assert(
    fc.property(seed, pattern, by, fc.boolean(), (seed, pattern, by, within) => {
      const of = (by: Vec3) =>
        spread(
          { where: { areas: within ? ["area"] : [] }, spacing: { pattern, distance: 0.8 }, variation: { seed } },
          field(20, hills(1), "hills", { ...STAND, position: by }),
          [boxLine(6, by)],
        );
      const [here, there] = [of([0, 0, 0]), of(by)];
      const { known, far } = staying(here, there, (place) => add(place, by));
      // What lies on an outline but for rounding may come to lie beyond it.
      expect(known).toBeGreaterThan(0.99);
      expect(Math.abs(there.count - here.count)).toBeLessThanOrEqual(2);
      expect(far).toBeLessThan(1e-4);
    }),
    { numRuns: 16 },
  );
});

test("a grid turns with its surface", () => {
  fc.assert(
    fc.property(evenly(-3, 3), (angle) => {
      const rotation = fromAxisAngle([0, 1, 0], angle) as Quat;
      const stand: Stand = { position: [2, 0, 5], rotation, scale: 1 };
      const of = (stand: Stand) =>
        spread(
          { spacing: { pattern: "square", distance: 1.1 } },
          field(20, () => 0, "hills", stand),
        );
      const [here, there] = [of(STAND), of(stand)];
      const moved = staying(here, there, (place) => add(rotate(rotation, place), stand.position));
      // What lies on the rim may come to lie beyond it.
      expect(moved.known).toBeGreaterThan(0.9);
      expect(moved.far).toBeLessThan(1e-5);
    }),
    { numRuns: 8 },
  );
});

test("random is a Poisson process whatever the triangles are, and in volumes: counts in equal cells vary as much as they are", () => {
  const box = WorldMesh.of(
    "hills",
    madeMesh(madeSchema.parse({ kind: "box", width: 8, height: 8, depth: 8 }), new Map())!,
    STAND,
  );
  const fine = field(50, () => 0, "hills");
  const two = field(1, () => 0, "hills", { ...STAND, scale: 50 });
  const { spacing } = dressing({ spacing: { pattern: "random" } });
  const surfaces = (ground: WorldMesh) => ({
    guides: new Map(),
    surfaces: new Map([["hills", ground]]),
    volumes: new Map(),
  });
  for (const [ground, amount, solid] of [
    [two, { pitch: 0.7, nested: false }, false],
    [fine, { pitch: 0.7, nested: false }, false],
    [box, { pitch: 0.45, nested: false }, true],
  ] as [WorldMesh, Amount, boolean][]) {
    const where = dressing({
      where: solid ? { kind: "inside", volumes: ["hills"] } : { kind: "over", surfaces: ["hills"] },
    }).where;
    const volumes = new Map(solid ? [["hills", new Volume(ground)]] : []);
    const [whole] = fieldsOf(where, { ...surfaces(ground), volumes });
    let [sum, squares, cells] = [0, 0, 0];
    for (let seed = 0; seed < 20; seed++) {
      const { position, count } = sampleSurface(whole, amount, spacing, seed, { at: [0, 0], heading: 0 });
      const counts = new Float64Array(512);
      for (let i = 0; i < count; i++) {
        const [x, y, z] = position.subarray(3 * i, 3 * i + 3);
        const cell = solid
          ? (Math.floor(x + 4) * 8 + Math.floor(y)) * 8 + Math.floor(z + 4)
          : Math.floor(((x + 25) * 32) / 50) * 16 + Math.floor(((z + 25) * 16) / 50);
        counts[cell]++;
      }
      for (const n of counts) [sum, squares, cells] = [sum + n, squares + n * n, cells + 1];
    }
    const mean = sum / cells;
    expect(Math.abs(squares / cells / mean - mean - 1)).toBeLessThan(0.1);
    expect(mean).toBeCloseTo(solid ? 1 / 0.45 ** 3 : 2500 / 512 / 0.49, 0);
  }
});

test("a million keys on a field are all different, and so are nearly all draws; what is added by hand keeps version 5's draws", () => {
  const keys = new BigUint64Array(1_000_000);
  const words = new Uint32Array(keys.buffer);
  const draws = new Uint32Array(keys.length);
  for (let i = 0; i < keys.length; i++) {
    writeWords(words, 2 * i, i % 1000, Math.floor(i / 1000), 7);
    words[2 * i + 1] = fieldHost(5, words[2 * i + 1]);
    draws[i] = drawOnField(words[2 * i], words[2 * i + 1]);
  }
  const distinct = (sorted: ArrayLike<unknown>): number => {
    let n = 0;
    for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) n++;
    return n;
  };
  expect(distinct(keys.sort())).toBe(keys.length);
  expect(distinct(draws.sort())).toBeGreaterThan(0.999 * keys.length);
  expect(drawOnField(12, fieldHost(ADDED_TAG, 0))).toBe((63 * 2 ** 26 + 12) >>> 0);
  expect(ADDED.min).toBeGreaterThan(2 ** 29);
});

test("a corner keeps what it draws when a knot is put in before it", () => {
  const corners = (knots: { id: number; position: Vec3 }[]) => {
    const line = lineSchema.parse({ id: "line", number: 1, name: "Line", kind: "polyline", knots });
    const p = evaluate(
      dressing({ what: { entries: [{ prop: "buoy" }], corner: "oar" }, spacing: { distance: 100 } }, [line]),
      surroundings([line]),
    );
    return new Map(
      Array.from(p.key, (key, i) => [key, p.at[i]] as const).filter(([key]) => placeOfKey(key) >= FIRST_CORNER),
    );
  };
  const knots = Array.from({ length: 5 }, (_, id) => ({ id, position: [3 * id, 0, id % 2] as Vec3 }));
  const before = corners(knots);
  expect(before.size).toBe(3);
  const after = corners(knots.toSpliced(1, 0, { id: 5, position: [1, 0, -1] }));
  expect(after.size).toBe(4);
  for (const key of before.keys()) expect(after.has(key)).toBe(true);
});

test("whatever is asked for comes to an end, lies all over what it is spread over, and what is beyond the limits is told", () => {
  const box = WorldMesh.of(
    "hills",
    madeMesh(madeSchema.parse({ kind: "box", width: 4, height: 4, depth: 4 }), new Map())!,
    STAND,
  );
  for (const inside of [true, false]) {
    for (const spacing of [
      { pattern: "random" as const, amount: "density" as const, perArea: 1e6, perVolume: 1e6 },
      ...(inside ? [{ pattern: "even" as const, amount: "count" as const, count: 500_000 }] : []),
    ]) {
      const where = inside ? { kind: "inside" as const, volumes: ["hills"], surfaces: [] } : {};
      const p = spread({ where, spacing }, inside ? box : GROUNDS.hills);
      expect(p.count).toBeGreaterThan(100_000);
      expect(p.count).toBeLessThanOrEqual(inside ? 300_000 : 2_000_000);
      expect(p.missing).toBeGreaterThan(0);
      const middle = [0, 2].map((axis) => p.origin[axis] + mean(p.position, axis));
      for (const x of middle) expect(Math.abs(x)).toBeLessThan(0.1);
    }
  }
});

function mean(position: Float32Array, axis: number): number {
  let sum = 0;
  for (let p = axis; p < position.length; p += 3) sum += position[p];
  return (3 * sum) / position.length;
}

test("within their limits version 5's keys are what slots draw by, each another; its numbers tell row and slot again", () => {
  const rows = fc.integer({ min: 0, max: 62 });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 4095 }), rows, fc.integer({ min: -200, max: 1700 }), (line, row, slot) => {
      const draw = drawsOfRow(line, row)(slot);
      expect(draw >>> 20).toBe(line);
      expect(slotOfOld((draw & 0xfffff) - 2 ** 19, 0)).toEqual({ row, slot });
      const corner = drawsOfRow(line, row)(FIRST_CORNER + 2);
      expect(slotOfOld((corner & 0xfffff) - 2 ** 19, 4)).toEqual({ row, slot: FIRST_CORNER + 2 });
      // Neighbours' draws differ by one, whether or not version 5 knew them.
      for (const [far, way] of [
        [row, row === 0 ? 1 : -1],
        [70, 1],
      ] as const) {
        const of = drawsOfRow(line, far);
        expect((of(slot + 1) - of(slot)) | 0).toBe(way);
      }
    }),
  );
});

test("keys are found among others as a map finds them, also where both words are alike but for one bit", () => {
  const key = fc.tuple(fc.nat(3), fc.nat(40)).map(([host, place]) => keyOf(host, place - 20));
  fc.assert(
    fc.property(fc.array(key, { maxLength: 80 }), fc.array(key, { maxLength: 40 }), (keys, others) => {
      const found: number[] = [];
      eachAmong(BigUint64Array.from(keys), BigUint64Array.from(others), (i) => found.push(i));
      expect(found).toEqual(keys.flatMap((one, i) => (others.includes(one) ? [i] : [])));
    }),
  );
});

test("keys that are made up to look alike are found as quickly as others", () => {
  // Places that undo their hosts in what keys are told apart by.
  const inverse = [1, 2, 3, 4, 5].reduce((x) => Math.imul(x, 2 - Math.imul(0x9e3779b1, x)), 0x9e3779b1);
  const undoing = Math.imul(inverse, 0x85ebca6b);
  const alike = BigUint64Array.from({ length: 200_000 }, (_, i) => keyOf(i + 1, Math.imul(i + 1, undoing)));
  let found = 0;
  eachAmong(alike, alike, () => found++);
  expect(found).toBe(alike.length);
});

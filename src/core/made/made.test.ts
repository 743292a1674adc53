import fc from "fast-check";
import { evenly } from "../math/testing";
import { GuideLine, type Line } from "../line";
import { makeLine } from "../line/testing";
import { cutFacesAmong, evenOver, facetsOf, randomOver, spreadable, weightsIn, Winding } from "../mesh";
import type { TriangleMesh } from "../mesh";
import { bandVertices } from "./band";
import { linesOf, madeMesh, madeSchema, travelled, trianglesOf, type Band } from ".";

const guidesOf = (lines: readonly Line[]) => new Map(lines.map((line) => [line.id, new GuideLine(line)]));
const made = (input: object, lines: readonly Line[] = []): TriangleMesh =>
  madeMesh(madeSchema.parse(input), guidesOf(lines))!;
const exact = ({ position, index }: TriangleMesh) => ({ position: Float64Array.from(position), index });

const side = evenly(0.1, 50);

test("a box is closed, shows its outside and has its size; it stands on its place", () => {
  fc.assert(
    fc.property(side, side, side, (width, height, depth) => {
      const { position, index } = exact(made({ kind: "box", width, height, depth }));
      const winding = new Winding(position, index);
      expect(winding.at(0, height / 2, 0)).toBeCloseTo(1, 6);
      expect(winding.at(0, -0.1, 0)).toBeCloseTo(0, 6);
      const area = facetsOf({ position, index }).area.reduce((sum, one) => sum + one, 0);
      const wanted = 2 * (width * height + height * depth + depth * width);
      expect(Math.abs(area - wanted)).toBeLessThan(1e-5 * wanted);
    }),
  );
});

test("bumps show their upper side, keep within their height, and stay where they are when the plane grows", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 9999 }), fc.integer({ min: 0, max: 3 }), side, (seed, rough, height) => {
      const input = { kind: "bumps", seed, rough, height, size: 4 };
      const small = made({ ...input, width: 8, depth: 8 });
      const ups = facetsOf(exact(small)).normal.filter((_, i) => i % 3 === 1);
      expect(Math.min(...ups)).toBeGreaterThan(0);
      const heights = (mesh: TriangleMesh) =>
        new Map(
          Array.from({ length: mesh.position.length / 3 }, (_, v) => {
            const [x, y, z] = mesh.position.subarray(3 * v, 3 * v + 3);
            return [`${x.toFixed(3)} ${z.toFixed(3)}`, y] as const;
          }),
        );
      const large = heights(made({ ...input, width: 16, depth: 16 }));
      let [most, apart] = [0, 0];
      for (const [place, y] of heights(small)) {
        most = Math.max(most, Math.abs(y));
        apart = Math.max(apart, Math.abs((large.get(place) ?? y) - y));
      }
      expect(most).toBeLessThanOrEqual(height / 2 + 1e-6);
      expect(apart).toBeLessThan(1e-4 * height);
    }),
    { numRuns: 8 },
  );
});

test("what is dealt over a flat plane is what is dealt there over a larger one, wherever its rim cuts it off", () => {
  const side = evenly(4.2, 7.9);
  fc.assert(
    fc.property(side, side, side, fc.integer(), (width, depth, wider, seed) => {
      /** By the keys of what is spread over the plane, or some of its triangles, where it lies. */
      const dealt = (width: number, even = false, some: (triangle: number) => boolean = () => true) => {
        const { position, index, faces: names, cut } = made({ kind: "bumps", width, depth, height: 0 });
        const numbers = Uint32Array.from({ length: index.length / 3 }, (_, t) => t).filter(some);
        const ground = {
          position: Float64Array.from(position),
          index: Uint32Array.from([...numbers].flatMap((t) => [...index.subarray(3 * t, 3 * t + 3)])),
        };
        const arriving = { seed, names: numbers.map((t) => names![t]), cut: cutFacesAmong(cut!, numbers) };
        const spread = even
          ? evenOver(ground, spreadable(ground), 0.4, arriving)
          : randomOver(ground, { density: 8 }, arriving);
        const found = new Map<string, Float64Array>();
        const weights = new Float64Array(3);
        for (let i = 0; i < spread.count; i++) {
          const at = spread.position.subarray(3 * i, 3 * i + 3);
          found.set(`${spread.key[2 * i]} ${spread.key[2 * i + 1]}`, at);
          weightsIn(ground, spread.triangle[i], at[0], at[1], at[2], weights);
          expect(Math.min(...weights)).toBeGreaterThan(-1e-6);
        }
        expect(found.size).toBe(spread.count);
        return found;
      };
      const apart = (a: Float64Array, b: Float64Array) => Math.hypot(...a.map((x, axis) => x - b[axis]));
      const [small, large] = [Math.min(width, wider), Math.max(width, wider)].map((width) => dealt(width));
      const half = Math.min(width, wider) / 2;
      const within = [...large].filter(([, [x]]) => Math.abs(x) < half - 1e-6);
      expect(within.length).toBeGreaterThan(10 * depth * half);
      for (const [key, at] of within) expect(apart(small.get(key)!, at)).toBeLessThan(1e-5);
      expect(small.size - within.length).toBeLessThanOrEqual(1);
      // In the same order too, since where they give way to each other it is this that counts.
      const inLarge = new Set(within.map(([key]) => key));
      expect([...small.keys()].filter((key) => inLarge.has(key))).toEqual([...inLarge]);
      const whole = dealt(width);
      for (const [key, at] of dealt(width, false, (t) => t % 3 > 0)) expect(apart(whole.get(key)!, at)).toBe(0);
      dealt(width, true);
    }),
    { numRuns: 30 },
  );
});

test("a line revolved all round an axis is closed and shows its outside, whichever way the line runs", () => {
  const profile = (knots: [number, number, number][]) => makeLine({ id: "p", number: 1, kind: "polyline", knots });
  fc.assert(
    fc.property(side, side, fc.boolean(), fc.boolean(), (radius, height, down, flip) => {
      const knots: [number, number, number][] = [
        [0, 0, 0],
        [radius, 0, 0],
        [radius, height, 0],
        [0, height, 0],
      ];
      const line = profile(down ? knots.reverse() : knots);
      const { position, index } = exact(made({ kind: "revolve", line: "p", pieces: 90, flip }, [line]));
      const around = new Winding(position, index).at(0.01 * radius, height / 2, 0.01 * radius);
      // Groups of triangles that are far off count as one, which is a little less exact.
      expect(Math.abs(around - (flip ? -1 : 1))).toBeLessThan(0.25);
    }),
    { numRuns: 10 },
  );
});

test("a surface through lines has each of them on it, and looks up unless it is turned inside out", () => {
  fc.assert(
    fc.property(
      fc.array(evenly(-3, 3), { minLength: 2, maxLength: 6 }),
      fc.boolean(),
      fc.boolean(),
      (heights, rounded, flip) => {
        const lines = heights.map((y, i) =>
          makeLine({
            id: `l${i}`,
            number: i + 1,
            kind: "polyline",
            knots: [
              [0, y, 3 * i],
              [10, y, 3 * i],
            ],
          }),
        );
        const input = { kind: "loft", lines: lines.map(({ id }) => id), along: 10, between: 4, rounded, flip };
        expect(linesOf(madeSchema.parse(input))).toHaveLength(lines.length);
        const mesh = made(input, lines);
        lines.forEach((_, i) => {
          const row = mesh.position.subarray(3 * 11 * 4 * i, 3 * 11 * (4 * i + 1));
          for (let v = 0; v < 11; v++) {
            expect([...row.subarray(3 * v, 3 * v + 3)]).toEqual(
              [v, heights[i], 3 * i].map((x) => expect.closeTo(x, 4)),
            );
          }
        });
        const up = facetsOf(exact(mesh))
          .normal.filter((_, i) => i % 3 === 1)
          .reduce((sum, y) => sum + y, 0);
        expect(up > 0).toBe(!flip);
      },
    ),
    { numRuns: 30 },
  );
  expect(madeMesh(madeSchema.parse({ kind: "loft", lines: ["gone"] }), new Map())).toBeNull();
  expect(madeMesh(madeSchema.parse({ kind: "revolve" }), new Map())).toBeNull();
});

test("what a surface comes to is known before it is made", () => {
  const lines = [0, 3, 6, 9].map((z, i) => {
    const at = { id: `l${i}`, number: i + 1, kind: "polyline" as const };
    return makeLine({
      ...at,
      knots: [
        [1, 0, z],
        [1, 2, z + 1],
        [1.5, 3, z],
      ],
    });
  });
  const pieces = fc.integer({ min: 3, max: 20 });
  const any = fc.oneof(
    fc.record({ kind: fc.constant("box") }),
    fc.record({ kind: fc.constant("bumps"), width: side, depth: side, height: fc.constantFrom(0, 1), size: side }),
    fc.record({ kind: fc.constant("revolve"), line: fc.constant("l0"), pieces }),
    fc.record({
      kind: fc.constant("loft"),
      lines: fc.subarray(["l0", "l1", "l2", "l3"], { minLength: 2 }),
      closed: fc.boolean(),
      along: pieces,
      between: pieces,
    }),
  );
  fc.assert(
    fc.property(any, (input) => {
      const there = made(input, lines).index.length / 3;
      const told = trianglesOf(madeSchema.parse(input));
      // Triangles without extent are left out; two lines are closed by none.
      expect(there).toBeLessThanOrEqual(told);
      expect(there).toBeGreaterThanOrEqual(0.5 * told);
    }),
  );
});

describe("a band", () => {
  const ROUND = makeLine({ kind: "circle", knots: [[1, 2, -1]], radius: 2 }); // prettier-ignore
  const STADIUM = makeLine({ kind: "rectangle", knots: [[0, 1, 0]], length: 6, width: 1, corner: 0.5 }); // prettier-ignore

  test.each([
    [0.03, 0],
    [0, 0],
    [0.1, 0.2],
    [0, 0.2],
  ])("shows its outside, as its normals say, whatever its section: %d thick, edges of %d", (thickness, edges) => {
    for (const line of [ROUND, STADIUM]) {
      const mesh = made({ kind: "band", line: line.id, breadth: 0.6, thickness, edges }, [line]);
      const { normal, area } = facetsOf(exact(mesh));
      const told = mesh.attributes.find(({ name }) => name === "NORMAL")!.array;
      let least = 1;
      for (let c = 0; c < mesh.index.length; c++) {
        const [v, t] = [3 * mesh.index[c], c - (c % 3)];
        const cosine = told[v] * normal[t] + told[v + 1] * normal[t + 1] + told[v + 2] * normal[t + 2];
        if (area[t / 3] > 1e-9) least = Math.min(least, cosine);
      }
      expect(least).toBeGreaterThan(0.98);
      // With a thickness it is closed all round.
      if (thickness > 0 || edges > 0) expect(openEdges(mesh)).toBe(0);
    }
  });

  test("that travels keeps its shape and goes on by as much; once round it is where it began, to 1e-6", () => {
    fc.assert(
      fc.property(evenly(-9, 9), evenly(0.2, 1), (far, breadth) => {
        const input = { kind: "band", line: ROUND.id, breadth };
        const [still, gone, round] = [0, far, 4 * Math.PI].map((travel) => {
          const all = madeSchema.parse({ ...input, travel });
          return travelled(all, guidesOf([ROUND])) ?? Float64Array.from(madeMesh(all, guidesOf([ROUND]))!.position);
        });
        const [cx, , cz] = [1, 2, -1];
        const exactly = bandVertices(madeSchema.parse(input) as Band, new GuideLine(ROUND), 0);
        const wanted = Math.abs(Math.atan2(Math.sin(far / 2), Math.cos(far / 2)));
        let [apart, off] = [0, 0];
        for (let p = 0; p < still.length; p += 3) {
          for (let k = 0; k < 3; k++) apart = Math.max(apart, Math.abs(round[p + k] - exactly[p + k]));
          // Round a circle everything is turned by as much.
          const [a, b] = [still, gone].map((P) => Math.atan2(P[p + 2] - cz, P[p] - cx));
          off = Math.max(off, Math.abs(Math.abs(Math.atan2(Math.sin(b - a), Math.cos(b - a))) - wanted));
        }
        expect(apart).toBeLessThan(1e-6);
        expect(off).toBeLessThan(1e-4);
      }),
      { numRuns: 20 },
    );
  });

  test("on an open line it stays; its texture is as large as it is", () => {
    const line = makeLine({ kind: "polyline", knots: [[0, 0, 0], [5, 0, 0]] }); // prettier-ignore
    const all = madeSchema.parse({ kind: "band", line: line.id, breadth: 0.5, thickness: 0, travel: 2 });
    expect(travelled(all, guidesOf([line]))).toBeNull();
    const mesh = made(all, [line]);
    const uv = mesh.attributes.find(({ name }) => name === "TEXCOORD_0")!.array;
    const [us, vs] = [0, 1].map((k) => uv.filter((_, i) => i % 2 === k));
    expect(Math.max(...us)).toBeCloseTo(5, 5);
    expect(Math.max(...vs)).toBeCloseTo(0.5, 6);
    expect(mesh.position.filter((_, p) => p % 3 === 1).every((y) => Math.abs(y) < 1e-6)).toBe(true);
    // What looks up is its upper side.
    expect(facetsOf(exact(mesh)).normal[1]).toBeCloseTo(1, 6);
  });
});

/** How many edges of a mesh only one triangle has, whatever seams part it. */
function openEdges({ position: P, index }: TriangleMesh): number {
  const name = (v: number) => [0, 1, 2].map((k) => Math.round(1e4 * P[3 * v + k])).join(" ");
  const sides = new Map<string, number>();
  for (let t = 0; t < index.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const ends = [name(index[t + k]), name(index[t + ((k + 1) % 3)])].sort().join("|");
      sides.set(ends, (sides.get(ends) ?? 0) + 1);
    }
  return [...sides.values()].filter((count) => count === 1).length;
}

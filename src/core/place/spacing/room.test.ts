/** Room in space: cells cut by walls, what is near to parts of them, and darts, each compared with trying it out. */
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { cross, dot, subtract, type Vec3 } from "../../math";
import { Volume } from "../../host";
import { WorldMesh } from "../../mesh";
import { mesh, STAND } from "../testing";
import { cellsOf, eachCell, Insides, MAYBE } from "./cells";
import { APART, Darts } from "./darts";
import { AROUND, bucketOf, nearness, PARTS, RING, rowOf } from "./nearness";

const vector = (most: number): fc.Arbitrary<Vec3> =>
  fc.tuple(evenly(-most, most), evenly(-most, most), evenly(-most, most));
const share = fc.tuple(evenly(0, 0.9999), evenly(0, 0.9999), evenly(0, 0.9999));

/** A volume of four triangles, anywhere about the origin. */
const tetrahedron = fc
  .tuple(vector(3), vector(3), vector(3), vector(3))
  .map(
    (corners) => new Volume(WorldMesh.of("space", mesh(corners.flat(), [0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]), STAND)),
  );

test("cells cover a volume, each once, are no smaller than asked and no larger than they have to be", () => {
  const MOST = 2_500_000;
  fc.assert(
    fc.property(tetrahedron, evenly(-3, 0.5), evenly(0.5, 2), (volume, power, shape) => {
      const size: Vec3 = [10 ** power, shape * 10 ** power, 10 ** power];
      const cells = cellsOf(volume, size);
      const counted = (factor: number) =>
        [0, 1, 2].map((axis) => {
          const one = size[axis] * factor;
          return Math.floor(volume.most[axis] / one) - Math.floor(volume.least[axis] / one) + 1;
        });
      const factor = cells.size[0] / size[0];
      cells.size.forEach((one, axis) => expect(one / size[axis]).toBeCloseTo(factor, 9));
      expect(cells.count).toEqual(counted(factor));
      expect(cells.first).toEqual([0, 1, 2].map((axis) => Math.floor(volume.least[axis] / cells.size[axis])));
      const all = cells.count.reduce((product, n) => product * n, 1);
      expect(all).toBeLessThanOrEqual(MOST);
      if (factor > 1)
        expect(counted(factor / 2 ** (1 / 3)).reduce((product, n) => product * n, 1)).toBeGreaterThan(MOST);
      if (all > 5000) return;
      const seen = new Set<string>();
      eachCell(cells, (...at) => {
        seen.add(at.join());
        at.forEach((n, axis) => expect(n - cells.first[axis]).toBeLessThan(cells.count[axis]));
        at.forEach((n, axis) => expect(n).toBeGreaterThanOrEqual(cells.first[axis]));
      });
      expect(seen.size).toBe(all);
    }),
    { numRuns: 40 },
  );
});

test("a cell is cut where the plane of a triangle goes through it within the triangle's box, and nowhere else", () => {
  fc.assert(
    fc.property(tetrahedron, evenly(0.4, 0.9), (volume, size) => {
      const cells = cellsOf(volume, [size, size * 1.1, size * 0.8]);
      const { sides } = new Insides(volume, cells);
      const triangles = [0, 1, 2, 3].map((t) => {
        const out = new Float64Array(9);
        volume.writeTriangle(t, out);
        return [0, 3, 6].map((c): Vec3 => [out[c], out[c + 1], out[c + 2]]);
      });
      let cell = 0;
      eachCell(cells, (...at) => {
        // How far the cell is from being cut, in metres: negative within.
        const away = triangles.map(([a, b, c]) => {
          const normal = cross(subtract(b, a), subtract(c, a));
          const long = Math.hypot(...normal);
          const middle = at.map((n, axis) => (n + 0.5) * cells.size[axis]) as unknown as Vec3;
          const reach = normal.reduce((sum, x, axis) => sum + (Math.abs(x) * cells.size[axis]) / 2, 0) / long;
          const beyond = at.map((n, axis) => {
            const [least, most] = [Math.min(a[axis], b[axis], c[axis]), Math.max(a[axis], b[axis], c[axis])];
            return Math.max(least - (n + 1) * cells.size[axis], n * cells.size[axis] - most);
          });
          return Math.max(Math.abs(dot(subtract(middle, a), normal)) / long - reach, ...beyond);
        });
        const least = Math.min(...away);
        if (Math.abs(least) > 1e-5) expect([at, sides[cell] === MAYBE]).toEqual([at, least < 0]);
        cell++;
      });
    }),
    { numRuns: 40 },
  );
});

test("a part of a cell counts as near to a bucket where all of the one is near to all of the other", () => {
  fc.assert(
    fc.property(fc.nat(AROUND.length - 1), share, fc.nat(PARTS - 1), (around, at, part) => {
      const row = rowOf(around, bucketOf(...at));
      const near = ((nearness()[row + (part >> 5)] >>> (part & 31)) & 1) === 1;
      const corner = [part & 3, (part >> 2) & 3, part >> 4].map((n) => n / 4);
      const far = at.map((x, axis) => {
        const bucket = AROUND[around][axis] + Math.floor(8 * x) / 8;
        return Math.max(Math.abs(bucket - corner[axis] - 0.25), Math.abs(bucket + 0.125 - corner[axis]));
      });
      const apart = far.reduce((sum, x) => sum + x * x, 0);
      if (Math.abs(apart - APART) > 1e-6) expect(near).toBe(apart < APART);
    }),
    { numRuns: 3000 },
  );
  // All that can be nearer than a diagonal to something in the cell, and the nearest of it first.
  const reach = (cell: readonly number[]) => cell.reduce((sum, n) => sum + Math.max(0, Math.abs(n) - 1) ** 2, 0);
  const known = new Set(AROUND.map((cell) => cell.join()));
  for (let k = 0; k < (2 * RING + 3) ** 3; k++) {
    const cell = [k % 7, Math.floor(k / 7) % 7, Math.floor(k / 49)].map((n) => n - 3);
    expect([cell, known.has(cell.join())]).toEqual([cell, reach(cell) < APART && cell.some((n) => n !== 0)]);
  }
  const far = AROUND.map((cell) => cell.reduce((sum, n) => sum + n * n, 0));
  expect(far).toEqual([...far].sort((a, b) => a - b));
});

test("darts and searches come upon room where there is some, and nowhere else, also in a share of a cell", () => {
  const N = 7;
  const at = (i: number, j: number, k: number) => (i * N + j) * N + k;
  const middle = at(3, 3, 3);
  let [rooms, none, shared] = [0, 0, 0];
  fc.assert(
    fc.property(
      fc.infiniteStream(evenly(0, 1)),
      evenly(0.02, 0.4),
      fc.nat(1 << 20),
      fc.boolean(),
      (draws, full, seed, isShared) => {
        const draw = () => draws.next().value as number;
        const darts = new Darts({ cells: N ** 3, steps: [N * N, N, 1], mask: -1 }, seed, isShared ? 0 : 2);
        const others: Vec3[] = [];
        for (const [i, j, k] of AROUND) {
          if (draw() > full) continue;
          const [x, y, z] = [draw(), draw(), draw()].map((n) => n * 0.9999);
          darts.put(at(3 + i, 3 + j, 3 + k), x, y, z);
          others.push([i + x, j + y, k + z]);
        }
        const apart = (place: ArrayLike<number>) =>
          others.reduce(
            (least, other) => Math.min(least, Math.hypot(...other.map((n, axis) => n - place[axis]))),
            Infinity,
          );
        // A share of the cell: what lies on one side of a plane in a box.
        const low = draw() * 0.5;
        const box = Float64Array.of(low, low / 2, 0, 1, 1, low + 0.4);
        const holds = (x: number, y: number) => x + y > 2 * low;
        const isWithin = (place: ArrayLike<number>) =>
          [0, 1, 2].every((axis) => place[axis] >= box[axis] && place[axis] <= box[3 + axis]) &&
          holds(place[0], place[1]);
        const check = (found: boolean) => {
          const place = darts.found;
          if (found) expect(apart(place)).toBeGreaterThanOrEqual(Math.sqrt(APART) - 1e-12);
          if (found) for (const n of place) expect(n >= 0 && n <= 1).toBe(true);
          return found;
        };
        for (let attempt = 0; attempt < 3; attempt++) check(darts.throwInto(middle, seed, attempt));
        const found = check(darts.search(middle, seed, isShared ? { box, holds } : null));
        if (found && isShared) expect(isWithin(darts.found)).toBe(true);
        if (found && isShared) shared++;
        if (found) rooms++;
        else none++;
        if (found || isShared) return;
        // No room that is larger than the parts that were looked at: a 64th of the cell along each edge, twice halved.
        for (let n = 0; n < 400; n++)
          expect(apart([draw(), draw(), draw()])).toBeLessThan(Math.sqrt(APART) + Math.sqrt(3) / 16);
      },
    ),
    { numRuns: 400 },
  );
  for (const often of [rooms, none, shared]) expect(often).toBeGreaterThan(20);
});

/** Patterns over surfaces: clusters lie about their middles as they are said to, and grids are grids. */
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { add, cross, dot, fromAxisAngle, lengthOf, normalize, quatAt, rotate, scale, subtract, vectorAt, type Vec3 } from "../../math"; // prettier-ignore
import { dressing, evaluate, field, STAND, surroundings, type DressingInput } from "../testing";
import type { Placements } from "../placements";

const seed = fc.integer({ min: 0, max: 999_999 });
const angle = evenly(0, 2 * Math.PI);
const positionOf = (p: Placements, i: number): Vec3 => add(vectorAt(p.position, i), p.origin as Vec3);
const places = (p: Placements): Vec3[] => Array.from({ length: p.count }, (_, i) => positionOf(p, i));

/** What stands over a plane that is turned about an axis. */
function onPlane(input: DressingInput, axis: Vec3, turn: number): { p: Placements; normal: Vec3 } {
  const rotation = fromAxisAngle(axis, turn);
  const plane = field(20, () => 0, "plane", { ...STAND, rotation });
  const around = { ...surroundings([]), surfaces: new Map([["plane", { mesh: plane, ground: true }]]) };
  const over = dressing({ ...input, where: { kind: "over", surfaces: ["plane"], ...input.where } }, []);
  return { p: evaluate(over, around), normal: rotate(rotation, [0, 1, 0]) };
}

test("clusters have as many as they may, no farther than they may, to all sides alike, and closer together in the middle", () => {
  const RADIUS = 1.5;
  fc.assert(
    fc.property(seed, angle, angle, (seed, way, turn) => {
      const axis: Vec3 = [Math.cos(way), 0, Math.sin(way)];
      const spacing = { pattern: "even", distance: 4.5 } as const;
      const middles = onPlane({ variation: { seed }, spacing }, axis, turn);
      const { p, normal } = onPlane({ variation: { seed }, spacing: { ...spacing, clusters: true, clusterCount: [30, 60], clusterRadius: RADIUS } }, axis, turn); // prettier-ignore
      const u = normalize(cross(normal, Math.abs(normal[0]) < 0.7 ? [1, 0, 0] : [0, 1, 0]));
      const v = cross(normal, u);
      const all = places(p);
      let [clusters, n, sumRadius, sumSquare, sumU, sumV, sumUU, sumUV] = [0, 0, 0, 0, 0, 0, 0, 0];
      for (const middle of places(middles.p)) {
        // What lies beyond the rim is brought back to it.
        const inPlane = rotate(fromAxisAngle(axis, -turn), middle);
        if (Math.max(Math.abs(inPlane[0]), Math.abs(inPlane[2])) > 10 - RADIUS) continue;
        const own = all.map((place) => subtract(place, middle)).filter((off) => lengthOf(off) < 2.2);
        expect(own.length).toBeGreaterThanOrEqual(30);
        expect(own.length).toBeLessThanOrEqual(60);
        clusters++;
        for (const off of own) {
          const radius = lengthOf(off);
          expect(radius).toBeLessThan(RADIUS + 1e-4);
          expect(Math.abs(dot(off, normal))).toBeLessThan(1e-4);
          n++;
          sumRadius += radius / RADIUS;
          sumSquare += (radius / RADIUS) ** 2;
          const [x, y] = [dot(off, u) / radius, dot(off, v) / radius];
          sumU += x;
          sumV += y;
          sumUU += x * x;
          sumUV += x * y;
        }
      }
      // So far from what is expected as chance brings it in one of many millions.
      const near = (mean: number, wanted: number, spread: number) => expect(Math.abs(mean - wanted)).toBeLessThan((6 * spread) / Math.sqrt(n)); // prettier-ignore
      expect(clusters).toBeGreaterThan(4);
      near(sumRadius / n, 0.5, Math.sqrt(1 / 12));
      near(sumSquare / n, 1 / 3, 0.3);
      near(sumU / n, 0, Math.SQRT1_2);
      near(sumV / n, 0, Math.SQRT1_2);
      near(sumUU / n, 0.5, 0.36);
      near(sumUV / n, 0, 0.36);
    }),
    { numRuns: 12 },
  );
});

test("a grid's rows and columns are as far apart as asked, along the heading, and every second one is turned about as on a chequerboard", () => {
  const distance = evenly(0.6, 2);
  fc.assert(
    fc.property(fc.constantFrom("square", "hexagonal"), distance, angle, (pattern, distance, heading) => {
      const { p } = onPlane({ stance: { flip: "up" }, spacing: { pattern, distance, heading } }, [1, 0, 0], 0);
      const all = places(p);
      const forward = (i: number) => rotate(quatAt(p.rotation, i), [0, 0, 1]);
      const inner = all.flatMap(([x, , z], i) => (Math.max(Math.abs(x), Math.abs(z)) < 10 - 1.5 * distance ? [i] : []));
      expect(inner.length).toBeGreaterThan(10);
      for (const i of inner) {
        const offs = all.map((place) => scale(subtract(place, all[i]), 1 / distance));
        const beside = offs.flatMap((off, j) => (j !== i && lengthOf(off) < 1.2 ? [j] : []));
        expect(beside.length).toBe(pattern === "square" ? 4 : 6);
        for (const j of beside) {
          expect(lengthOf(offs[j])).toBeCloseTo(1, 5);
          if (pattern === "square") expect(dot(forward(i), forward(j))).toBeCloseTo(-1, 5);
        }
        const ahead = beside.map((j) => Math.abs(offs[j][0] * Math.sin(heading) - offs[j][2] * Math.cos(heading)));
        expect(ahead.filter((share) => share > 1 - 1e-4).length).toBe(2);
      }
      // Nothing of it is missing.
      const cell = distance * distance * (pattern === "square" ? 1 : Math.sqrt(3) / 2);
      expect(Math.abs(p.count - 400 / cell)).toBeLessThan(80 / distance + 4);
    }),
    { numRuns: 15 },
  );
});

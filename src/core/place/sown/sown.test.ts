import fc from "fast-check";
import { evenly } from "../../math/testing";
import { distance, fromAxisAngle, vectorAt, type Vec3 } from "../../math";
import { hexOf } from "../keys";
import { dressing, evaluate, field, mesh, STAND, surroundings } from "../testing";
import { WorldMesh } from "../../mesh";
import { SowingHand, sowsLess, type Cast } from "./hand";
import { countThere, packed, unpacked, without } from "./packed";
import { sownBy, sownKey } from "./sown";
import type { Placements } from "../placements";
import type { Sowing } from "./schema";

const HILLS = field(20, (x, z) => 1.5 * Math.sin(0.5 * x) + Math.cos(0.7 * z), "hills");
const point = fc.tuple(evenly(-9, 9), evenly(-1, 1), evenly(-9, 9));
const points = fc.array(point, { minLength: 1, maxLength: 40 });
const stroke = (number: number, places: readonly Vec3[], on = "hills"): Sowing => ({ number, on, from: [1, 2, 3], places: packed(places.flatMap(([x, y, z]) => [x - 1, y - 2, z - 3])) }); // prettier-ignore

const sow = (sown: Sowing[], more: Parameters<typeof dressing>[0] = {}, ground = HILLS): Placements =>
  evaluate(
    dressing({ what: { entries: [{ prop: "buoy" }, { prop: "oar" }], order: "mixed" }, stance: { meetsUp: "pivot" }, sown, ...more, where: { kind: "pinned", surfaces: ["hills"], ...more.where } }, []),
    { ...surroundings([]), surfaces: new Map([[ground.id, { mesh: ground, ground: true }]]) },
  ); // prettier-ignore
const at = (p: Placements, i: number): Vec3 =>
  vectorAt(p.position, i).map((x, k) => x + p.origin[k]) as unknown as Vec3;
const byKey = (p: Placements) =>
  new Map(Array.from(p.key, (key, i) => [hexOf(key), { at: at(p, i), prop: p.prop[i] }]));

test("places come back from their text; two texts are one; without some the others keep their numbers", () => {
  fc.assert(
    fc.property(points, points, fc.nat(39), (one, other, gone) => {
      const text = packed(one.flat()) + packed(other.flat());
      expect(Array.from(unpacked(text))).toEqual(Array.from(Float32Array.from([...one.flat(), ...other.flat()])));
      const left = without(text, [gone]);
      expect(countThere(left)).toBe(one.length + other.length - (gone < one.length + other.length ? 1 : 0));
      unpacked(left).forEach((x, k) => expect(Math.floor(k / 3) === gone ? NaN : x).toBe(Math.floor(k / 3) === gone ? NaN : unpacked(text)[k])); // prettier-ignore
    }),
  );
  expect(without(packed([1, 2, 3]), [0])).toBe("");
  expect(countThere(packed([Infinity, 0, 0, 3e38, 0, 0, 0, 0, 0]))).toBe(1);
});

test("what is sown stands on its surface next to where it was put, and is dealt by its stroke and nothing else", () => {
  fc.assert(
    fc.property(points, points, fc.nat(39), (one, other, gone) => {
      const [first, second] = [stroke(1, one), stroke(7, other)];
      const both = byKey(sow([first, second]));
      expect(both.size).toBe(one.length + other.length);
      one.forEach((place, i) => {
        const met = { triangle: -1, x: 0, y: 0, z: 0 };
        HILLS.tree.nearest(...place, met);
        expect(distance(both.get(hexOf(sownKey(1, i)))!.at, [met.x, met.y, met.z])).toBeLessThan(2e-5);
      });
      const less = [second, { ...first, places: without(first.places, [gone]) }].filter(({ places }) => places !== "");
      for (const [key, { at: there, prop }] of byKey(sow(less))) {
        expect(both.get(key)!.prop).toBe(prop);
        expect(distance(both.get(key)!.at, there)).toBeLessThan(1e-5);
      }
    }),
    { numRuns: 30 },
  );
  const draws = new Set([1, 2, 3, 4, 5, 6].map((n) => sow([stroke(n, Array(8).fill([0, 0, 0]))]).prop.join("")));
  expect(draws.size).toBeGreaterThan(3);
  expect([sownBy(sownKey(9, 4)), sownBy(0n)]).toEqual([{ number: 9, index: 4 }, null]);
});

test("it goes along with its surface, minds the limits where there are rules, and can be pegged like anything else", () => {
  const places: Vec3[] = Array.from({ length: 200 }, (_, i) => [9 * Math.sin(i), 0, 9 * Math.cos(2.3 * i)]);
  const was = byKey(sow([stroke(1, places)]));
  const stand = { position: [30, 0, 0] as Vec3, rotation: fromAxisAngle([0, 1, 0], Math.PI), scale: 1 };
  const moved = byKey(sow([stroke(1, places)], {}, WorldMesh.of("hills", HILLS.rest, stand)));
  for (const [key, { at: [x, y, z], prop }] of moved) { expect(was.get(key)!.prop).toBe(prop); expect(distance(was.get(key)!.at, [30 - x, y, -z])).toBeLessThan(1e-4); } // prettier-ignore

  const over = { where: { kind: "over" as const }, spacing: { pattern: "random" as const, amount: "density" as const, perArea: 0.5 } }; // prettier-ignore
  const [free, steep] = [sow([stroke(1, places)], over), sow([stroke(1, places)], { ...over, gaps: { heightOn: true, height: [0.3, 9], heightSoft: 0 } })]; // prettier-ignore
  const sown = (p: Placements) => [...byKey(p)].filter(([key]) => sownBy(BigInt(`0x${key}`)));
  expect(free.count).toBeGreaterThan(sown(free).length + 100);
  expect(sown(free)).toHaveLength(200);
  expect(new Map(sown(steep))).toEqual(new Map(sown(free).filter(([, one]) => one.at[1] >= 0.3)));

  const pegs = { [hexOf(sownKey(1, 0))]: { on: "hills", removed: true }, [hexOf(sownKey(1, 1))]: { on: "hills", point: [2, 0, 2] as Vec3 } }; // prettier-ignore
  const pegged = sow([stroke(1, places)], { pegs });
  expect([pegged.blanks, pegged.orphans]).toEqual([1, []]);
  const { at: there } = byKey(pegged).get(hexOf(sownKey(1, 1)))!;
  expect(Math.hypot(there[0] - 2, there[2] - 2)).toBeLessThan(1.5);
});

/** A plane that leans by an angle, and what is under a ray there. */
function leaning(angle: number): { cast: Cast; normal: Vec3; onIt: (a: number, b: number) => Vec3 } {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const normal: Vec3 = [-s, c, 0];
  const cast: Cast = ([x, y, z], [dx, dy, dz], far) => {
    const t = -(normal[0] * x + normal[1] * y) / (normal[0] * dx + normal[1] * dy);
    return t >= 0 && t <= far ? { on: "plane", point: [x + t * dx, y + t * dy, z + t * dz], normal } : null;
  };
  return { cast, normal, onIt: (a, b) => [c * a, s * a, b] };
}

test("a hand sows as a Poisson process at its density, once however often it is led there, and as much on a slope", () => {
  const size = { radius: 3, distance: 0.4, even: 0 };
  for (const lean of [0, 0.6]) {
    const { cast, normal, onIt } = leaning(lean);
    const counts: number[] = [];
    for (let seed = 0; seed < 25; seed++) {
      const hand = new SowingHand(seed, [], cast);
      // Held upright, whichever way the ground leans, and led there and back.
      const way = [0, 1, 2, 6, 9, 12, 9, 4, 0].map((a) => onIt(a, 0));
      const all = way.flatMap((place) => hand.lead(place, lean > 0 && seed % 2 === 0 ? [0, 1, 0] : normal, size));
      for (let a = 0; a < 10; a++) for (let b = -2; b < 2; b++) counts.push(all.filter(({ point }) => Math.floor(Math.hypot(point[0], point[1]) * Math.sign(point[0])) === a && Math.floor(point[2]) === b).length); // prettier-ignore
    }
    const mean = counts.reduce((sum, n) => sum + n, 0) / counts.length;
    const variance = counts.reduce((sum, n) => sum + (n - mean) ** 2, 0) / counts.length;
    expect(Math.abs(mean - 1 / 0.16)).toBeLessThan(0.35);
    expect(Math.abs(variance / mean - 1)).toBeLessThan(0.2);
  }
});

test("the evener, the farther apart, from what stood there before as well; never beyond the hand, and never without end", () => {
  const { cast, normal } = leaning(0);
  fc.assert(
    fc.property(evenly(0.2, 3), evenly(0.4, 1), evenly(0, 1), fc.nat(99), (radius, apart, even, seed) => {
      const before = new SowingHand(seed + 1, [], cast).lead([0, 0, 0], normal, { radius, distance: 2 * apart, even });
      const hand = new SowingHand(
        seed,
        before.flatMap(({ point: [...xyz] }) => xyz),
        cast,
      );
      const all = hand.lead([0, 0, 0], normal, { radius, distance: apart, even }).map(({ point: p }) => p);
      const least = 0.834 * even * apart - 1e-9;
      all.forEach((p, i) => {
        expect(Math.hypot(p[0], p[2])).toBeLessThan(radius + 1e-9);
        const others = [...all.slice(0, i), ...before.map(({ point: b }) => b)];
        expect(Math.min(...others.map((q) => distance(p, q)))).toBeGreaterThanOrEqual(least);
      });
    }),
    { numRuns: 60 },
  );
  for (const seed of [1, 2, 3]) expect(new SowingHand(seed, [], cast).lead([0, 0, 0], normal, { radius: 0.1, distance: 9, even: 1 })).toHaveLength(1); // prettier-ignore
  const full = new SowingHand(3, [], cast).lead([0, 0, 0], normal, { radius: 6, distance: 0.5, even: 1 });
  expect(full.length / ((Math.PI * 36) / 0.25)).toBeGreaterThan(0.8);
  for (const size of [
    { radius: 1e300, distance: 1e-300, even: 0 },
    { radius: 1, distance: 0, even: 0.5 },
    { radius: NaN, distance: NaN, even: NaN },
  ])
    // prettier-ignore
    expect(new SowingHand(3, [], cast).lead([0, 0, 0], normal, size).length).toBeLessThan(4400);
});

test("however dense and far, a hand asks for so many rays at a time; what it has not come to is sown as it is led on", () => {
  const { cast, normal } = leaning(0);
  let rays = 0;
  const hand = new SowingHand(1, [], (...ray) => (rays++, cast(...ray)));
  const size = { radius: 1, distance: 0.08, even: 1 };
  const sown: number[] = [];
  for (let call = 0; call < 12; call++) {
    const before = rays;
    sown.push(...hand.lead([call === 0 ? 0 : 6, 0, 0], normal, size).map(({ point: [x] }) => x));
    expect(rays - before).toBeLessThan(16_000 + 32_100);
  }
  // Over a hill between them, of which the straight way knows nothing.
  const hill: Cast = ([x, , z]) => ({ on: "hill", point: [x, 2 * Math.sin((Math.PI * x) / 6), z], normal });
  const within: Cast = (from, way, far) => { const met = hill(from, way, far)!; return Math.abs(from[1] - far / 2 - met.point[1]) <= far / 2 ? met : null; }; // prettier-ignore
  const over = new SowingHand(1, [], within);
  over.lead([0, 0, 0], normal, { radius: 0.3, distance: 0.1, even: 0 });
  const way = over.lead([6, 0, 0], normal, { radius: 0.3, distance: 0.1, even: 0 });
  expect(way.filter(({ point: [x] }) => x > 2 && x < 4).length).toBeGreaterThan(40);
  for (let x = 0; x < 6; x++) expect(sown.filter((at) => at >= x && at < x + 1).length).toBeGreaterThan(100);
  expect([sowsLess(size), sowsLess({ radius: 9, distance: 0.08 })]).toEqual([false, true]);
});

test("each stroke lies on its own field; limits are for rules, and where there are none they take nothing away", () => {
  const above = field(4, () => 50, "above");
  const both = {
    ...surroundings([]),
    surfaces: new Map([HILLS, above].map((mesh) => [mesh.id, { mesh, ground: true }])),
  };
  const sown = [stroke(1, [[1, 0, 1]], "above"), stroke(2, [[1, 0, 1]]), stroke(3, [[1, 7, 1]], "loose")];
  const heights = (more: Parameters<typeof dressing>[0]) =>
    [...byKey(evaluate(dressing({ what: { entries: [{ prop: "buoy" }] }, stance: { meetsUp: "pivot" }, sown, where: { kind: "pinned", surfaces: ["hills", "above"] }, ...more }, []), both)).values()].map((one) => one.at[1]); // prettier-ignore
  const [one, two, three] = heights({});
  expect([one, three, Math.abs(two) < 3]).toEqual([50, 7, true]);
  expect(heights({ gaps: { heightOn: true, height: [900, 901], heightSoft: 0 } })).toEqual([one, two, three]);
});

test("places that are no numbers, or too far, are none; a mesh of one triangle serves", () => {
  const one = WorldMesh.of("hills", mesh([0, 0, 0, 0, 0, 1, 1, 0, 0], [0, 1, 2]), STAND);
  expect(sow([{ number: 1, on: "hills", from: [0, 0, 0], places: packed([NaN, 0, 0, 5, 5, 5, 1e20, 0, 0]) }], {}, one).count).toBe(1); // prettier-ignore
  expect(sow([stroke(1, [[0, 0, 0]], "gone")]).count).toBe(0);
  expect(sow([stroke(1, [[4, 5, 6]], "loose")], { where: { kind: "loose" } }).position).toHaveLength(3);
});

/** The flat layout of a patch: a pattern within outlines, what is put there by hand, and how it is shown. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { makeLine } from "../line/testing";
import { GuideLine } from "../line";
import { distance, type Vec3 } from "../math";
import { addedKey, hexOf } from "./keys";
import { onOf } from "./on";
import { FLAG } from "./slots";
import { BOUNDS, dressing, field, seen } from "./testing";
import type { Dressing } from "./schema";
import type { Placements } from "./placements";

const bowl = (x: number, z: number): number => 0.02 * (x * x + z * z);
const SURFACES = { plain: field(40, () => 0, "plain"), bowl: field(40, bowl, "bowl") };
const OUTLINE = makeLine({
  kind: "polyline",
  closed: true,
  knots: [[10, 0, 5], [16, 0, 5], [17, 0, 11], [12, 0, 12]], // prettier-ignore
});
const MIDDLE: [number, number] = [13, 8];

function evaluated(input: Partial<Dressing> | object, flat = false) {
  const { plain, bowl } = SURFACES;
  const around = {
    guides: new Map([["line", new GuideLine(OUTLINE)]]),
    bounds: BOUNDS,
    surfaces: new Map([plain, bowl].map((mesh) => [mesh.id, { mesh, ground: true }])),
  };
  return seen(dressing(input as never, []), around, flat);
}

const STANCE = { up: "normal", meetsUp: "pivot" };
const patchOf = (layout: object, more: object = {}, surface = "plain") => ({
  where: { kind: "patch", surfaces: [surface], areas: ["line"], patch: { layout, ...more } },
  stance: STANCE,
});
const at = (p: Placements, i: number): Vec3 => [0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k]) as never;
const near = (p: Placements, [x, , z]: Vec3): boolean =>
  Array.from({ length: p.count }, (_, i) => at(p, i)).some((one) => Math.hypot(one[0] - x, one[2] - z) < 1e-3);

test("within outlines on a plane it is what the same pattern comes to over the area alone, about the place that is held", () => {
  const pattern = fc.constantFrom("even", "random", "square", "hexagonal");
  // Which of a grid's places are left where a number is asked for is each field's own.
  const amounts = fc.constantFrom("distance", "count");
  fc.assert(
    fc.property(pattern, amounts, evenly(-5, 5), evenly(-5, 5), fc.nat(50), (pattern, wanted, x, z, seed) => {
      const amount = pattern === "even" || pattern === "random" ? wanted : "distance";
      const more = { spacing: { pattern, distance: 0.9, count: 25, amount }, variation: { seed } };
      const over = evaluated({ where: { kind: "over", areas: ["line"] }, stance: STANCE, ...more });
      const p = evaluated({ ...patchOf({ kind: "area", middle: MIDDLE }, { handle: [x, 0, z] }), ...more });
      expect(over.count).toBeGreaterThan(14);
      expect(p.count).toBe(over.count);
      for (let i = 0; i < over.count; i++) {
        const [ox, , oz] = at(over, i);
        expect(near(p, [ox - MIDDLE[0] + x, 0, oz - MIDDLE[1] + z])).toBe(true);
      }
    }),
    { numRuns: 24 },
  );
});

test("without an outline there is nothing; on another surface, or slid over it, every place keeps key, prop, turn and size", () => {
  const layout = { kind: "area", middle: MIDDLE };
  const none = evaluated({ where: { kind: "patch", surfaces: ["plain"], patch: { layout } } });
  expect([none.count, none.orphans]).toEqual([0, []]);
  const more = { variation: { turnOn: true, sizeOn: true, size: [0.5, 2] }, what: { entries: [{ prop: "buoy" }, { prop: "oar" }] } }; // prettier-ignore
  const [one, other] = [evaluated({ ...patchOf(layout), ...more }), evaluated({ ...patchOf(layout, { handle: [3, 0, -2], turn: 1 }, "bowl"), ...more })]; // prettier-ignore
  expect([...other.key]).toEqual([...one.key]);
  for (const surface of ["plain", "bowl"]) {
    const { where } = dressing(patchOf(layout, {}, surface) as never, []);
    expect([...one.key].map((key) => onOf({ where, pegs: {} }, key, []))).toEqual([...one.key].map(() => surface));
  }
  expect([...other.prop]).toEqual([...one.prop]);
  expect([...other.scale]).toEqual([...one.scale]);
});

test("what is moved or added by hand in the layout goes with it, whatever carries it and wherever that is held; it leaves what else there is alone", () => {
  const put = evenly(-6, 6);
  fc.assert(
    fc.property(put, put, evenly(-8, 8), fc.nat(11), fc.boolean(), (x, y, slid, which, listed) => {
      const places = Array.from({ length: 12 }, (_, id) => ({ id, at: [(id % 4) - 1.5, Math.floor(id / 4) - 1] }));
      const layout = listed ? { kind: "list", places } : { columns: 4, rows: 3 };
      const plain = evaluated(patchOf(layout));
      const key = hexOf(plain.key[which]);
      const added = hexOf(addedKey(1));
      const pegs = {
        [key]: { on: "plain", flat: [x, y], prop: "oar" },
        [added]: { on: "plain", flat: [y, x], added: true },
      };
      const p = evaluated({ ...patchOf(layout, { handle: [slid, 0, 1] }), pegs, gaps: { heightOn: true, height: [90, 91] } }); // prettier-ignore
      // The gaps leave nothing else, and what is there by hand stays.
      expect([...p.key].map(hexOf)).toEqual([key, added]);
      // Ahead is south, and west lies to the right of it.
      expect(at(p, 0).map((value) => value + 0)).toEqual([slid - x, 0, 1 + y].map((value) => expect.closeTo(value, 4)));
      expect(at(p, 1)).toEqual([slid - y, 0, 1 + x].map((value) => expect.closeTo(value, 4)));
      expect([...p.flags].every((flags) => (flags & FLAG.pegged) !== 0 && (flags & FLAG.moved) !== 0)).toBe(true);
      expect(p.props[p.prop[0]]).toBe("oar");
      const all = evaluated({ ...patchOf(layout), pegs });
      expect(all.count).toBe(13);
      for (let i = 0; i < 12; i++) if (i !== which) expect(distance(at(all, i), at(plain, i))).toBeLessThan(1e-5);
      const gone = evaluated({ ...patchOf(layout), pegs: { [added]: { ...pegs[added], flat: [900, 0] } } });
      expect(gone.orphans).toEqual([added]);
    }),
    { numRuns: 30 },
  );
});

test("laid out flat each footprint lies about its place at its size, turned as on the surface, whatever that is shaped like", () => {
  fc.assert(
    fc.property(fc.constantFrom("plain", "bowl"), evenly(-3, 3), evenly(-3, 3), (surface, turn, up) => {
      const layout = { columns: 5, rows: 4, across: 1.1, along: 0.8, stagger: 0.25 };
      const input = { ...patchOf(layout, { handle: [2, 0, 1], turn }, surface), stance: { ...STANCE, turnUp: up }, what: { entries: [{ prop: "oar" }] } }; // prettier-ignore
      expect(evaluated(input).laid).toBeNull();
      const { laid, count } = evaluated(input, true);
      // What Fit moves it by goes on top: ahead is along, and across is to the left.
      const moved = evaluated({ ...input, fit: { along: 0.3, across: 0.2 } }, true).laid!;
      for (let i = 0; i < count; i++) {
        const [right, ahead] = [laid!.at[2 * i], laid!.at[2 * i + 1]];
        const row = Math.floor(i / 5);
        expect(right).toBeCloseTo(((i % 5) - 2) * 1.1 + (row % 2) * 0.25 * 1.1, 9);
        expect(ahead).toBeCloseTo((row - 1.5) * 0.8, 9);
        expect(moved.at[2 * i]).toBe(right);
        expect(moved.footprints[8 * i] - laid!.footprints[8 * i]).toBeCloseTo(-0.2, 2);
        expect(moved.footprints[8 * i + 1] - laid!.footprints[8 * i + 1]).toBeCloseTo(0.3, 2);
        // The oar reaches 5 cm aside, half a metre back and 70 cm ahead; left is −right on the flat, and turns go round to the left.
        const [c, s] = [Math.cos(up), Math.sin(up)];
        [[0.05, 0.7], [-0.05, 0.7], [-0.05, -0.5], [0.05, -0.5]].forEach(([x, z], corner) => {
          expect(laid!.footprints[8 * i + 2 * corner] - right).toBeCloseTo(-(c * x + s * z), 2);
          expect(laid!.footprints[8 * i + 2 * corner + 1] - ahead).toBeCloseTo(c * z - s * x, 2);
        }); // prettier-ignore
      }
    }),
    { numRuns: 20 },
  );
});

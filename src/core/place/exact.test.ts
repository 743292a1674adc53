/** Known answers: what comes of turns, sizes and reaches, and of looking only at near neighbours, against working it all out. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { makeLine } from "../line/testing";
import { fromTurns, multiply, quatAt, rotate, vectorAt, type Quat, type Vec3 } from "../math";
import { FLAG, NO_PROP } from "./slots";
import { BOUNDS, dressing, evaluate, field, place, surroundings } from "./testing";
import type { Placements } from "./placements";

const angle = fc.oneof(evenly(-Math.PI, Math.PI), evenly(-0.3, 0.3), fc.constant(0));
const factor = evenly(0.3, 3);
const stances = fc.constantFrom({}, { forward: "heading", heading: 0.9 }, { up: "point", point: [3, -9, 4] }, { meetsUp: "top", meetsAlong: "back", meetsAcross: "left" }); // prettier-ignore

/** The corners of a placement's box in the world, from the placement's own origin. */
function corners(p: Placements, i: number): Vec3[] {
  const { min, max } = BOUNDS.get(p.props[p.prop[i]])!;
  const turn = quatAt(p.rotation, i);
  const [sx, sy, sz] = vectorAt(p.scale, i);
  const side = p.flags[i] & FLAG.mirrored ? -1 : 1;
  return [0, 1, 2, 3, 4, 5, 6, 7].map((k) => {
    const [x, y, z] = [0, 1, 2].map((axis) => (k & (1 << axis) ? max[axis] : min[axis]));
    return rotate(turn, [side * sx * x, sy * y, sz * z]);
  });
}

test("turns are up · across · along after the frame, sizes multiply, and the reach is that of the box along the line", () => {
  const turns = fc.tuple(angle, angle, angle);
  const sizes = fc.tuple(factor, factor, factor, factor);
  fc.assert(
    fc.property(turns, sizes, stances, fc.boolean(), ([a, b, c], [size, w, h, d], stance, mirrored) => {
      const what = { entries: [{ prop: "oar" }, { prop: null }, { prop: "buoy" }] };
      const common = { what, stance, spacing: { distance: 1 } } as const;
      const variation = {
        ...{ turnOn: true, turnAlong: [a, a], turnAcross: [b, b], turnUp: [c, c] },
        ...{ sizeOn: true, size: [size, size], width: [w, w], height: [h, h], depth: [d, d] },
        mirror: mirrored ? 1 : 0,
      } as const;
      const line = [makeLine({ kind: "polyline", knots: [[0, 0, 0], [3, 2, -4]] })]; // prettier-ignore
      const tangent = [3, 2, -4].map((x) => x / Math.hypot(3, 2, 4));
      const plain = place(common, line);
      const p = place({ ...common, variation } as Parameters<typeof place>[0], line);
      const drawn = fromTurns(a, b, c);
      for (let i = 0; i < p.count; i++) {
        const blank = p.prop[i] === NO_PROP;
        const expected: Quat = blank ? quatAt(plain.rotation, i) : multiply(quatAt(plain.rotation, i), drawn);
        const found = quatAt(p.rotation, i);
        const sign = expected.reduce((sum, x, k) => sum + x * found[k], 0) < 0 ? -1 : 1;
        expect(found).toEqual(expected.map((x) => expect.closeTo(sign * x, 5)));
        if (blank) continue;
        expect(vectorAt(p.scale, i)).toEqual([w, h, d].map((x) => expect.closeTo(size * x, 4)));
        const along = corners(p, i).map((corner) =>
          corner.reduce((sum, x, k) => sum + tangent[k] * (p.origin[k] + p.position[3 * i + k] + x), -p.at[i]),
        );
        expect(p.reach[2 * i]).toBeCloseTo(-Math.min(...along), 4);
        expect(p.reach[2 * i + 1]).toBeCloseTo(Math.max(...along), 4);
      }
    }),
    { numRuns: 150 },
  );
});

/** Lines that wind about in a small room, so that far pieces of them come near each other. */
const coord = evenly(-1.6, 1.6);
const tangles = fc
  .array(fc.tuple(coord, coord, coord), { minLength: 5, maxLength: 14 })
  .map((knots) => makeLine({ kind: "smooth", knots: knots.map(([x, y, z], i): Vec3 => [x + 0.01 * i, y, z]) }));

test("keeping clear among near neighbours comes to the same as among all, on lines that rise, turn and come back", () => {
  fc.assert(
    fc.property(
      tangles,
      fc.constantFrom("radius", "footprint", "box"),
      fc.integer({ min: 1, max: 3 }),
      stances,
      fc.constantFrom(0, 0.15, -0.05),
      (line, clear, rows, stance, clearance) => {
        const fit = { clear, clearance, rows, rowDistance: 0.4 } as const;
        const rules = {
          fit,
          stance,
          what: { entries: [{ prop: "oar" }, { prop: "buoy" }] },
          spacing: { distance: 0.3 },
          variation: { turnOn: true, turnUp: [-3, 3], sizeOn: true, size: [0.5, 1.5], mirror: 0.5 },
        } as Parameters<typeof dressing>[0];
        const near = evaluate(dressing(rules, [line]), surroundings([line]));
        // What is dropped has left its line, so that all are looked at; where there is no ground it stays all the same.
        const far = field(1, () => 0, "far", { position: [1e5, 0, 0], rotation: [0, 0, 0, 1], scale: 1 });
        const around = { ...surroundings([line]), surfaces: new Map([["far", { mesh: far, ground: true }]]) };
        const all = evaluate(dressing({ ...rules, fit: { ...fit, drop: "down" } } as typeof rules, [line]), around);
        const blanks = (p: Placements) => Array.from(p.flags, (flags) => flags & FLAG.blank);
        expect(blanks(near)).toEqual(blanks(all));
        expect(near.position).toEqual(all.position);
      },
    ),
    { numRuns: 120 },
  );
});

test("laid end to end round a circle and moved along it, all stay just as far from its middle, both ends on it", () => {
  const circle = makeLine({ kind: "circle", knots: [[0, 0, 0]], radius: 2 });
  fc.assert(
    fc.property(evenly(-0.4, 0.4), (by) => {
      const rules = { spacing: { by: "end", gap: 0.1 }, stance: { meetsUp: "pivot", up: "line" } } as const;
      const [still, moved] = [place(rules, [circle]), place({ ...rules, fit: { along: by } }, [circle])];
      const radius = (p: Placements, i: number) =>
        Math.hypot(...vectorAt(p.position, i).map((x, axis) => x + p.origin[axis]));
      expect(still.count).toBeGreaterThan(10);
      for (let i = 0; i < still.count; i++) {
        expect(radius(moved, i)).toBeCloseTo(radius(still, i), 5);
        expect(moved.at[i]).toBeCloseTo(still.at[i] + by, 4);
      }
    }),
    { numRuns: 20 },
  );
});

import fc from "fast-check";
import { evenly } from "../../math/testing";
import { anyLine, makeLine } from "../../line/testing";
import { distance, dot, lengthOf, normalize, quatAt, rotate, subtract, vectorAt, type Vec3 } from "../../math";

import { evaluate, BOUNDS, dressing, place, straight, surroundings } from "../testing";
import type { Placements } from "../placements";

const turned = (p: Placements, i: number, v: Vec3): Vec3 => rotate(quatAt(p.rotation, i), v);
const front = (p: Placements, i: number) => turned(p, i, [0, 0, 1]);
const up = (p: Placements, i: number) => turned(p, i, [0, 1, 0]);
const placed = (p: Placements, i: number): Vec3 => {
  const [x, y, z] = vectorAt(p.position, i);
  return [x + p.origin[0], y + p.origin[1], z + p.origin[2]];
};
const pivot = { meetsUp: "pivot" as const };

describe("forward", () => {
  test("a compass heading is the same on every line: 0 is north (−Z), a quarter is east (+X)", () => {
    fc.assert(
      fc.property(anyLine, evenly(0, 6.2), (line, heading) => {
        const p = place({ stance: { forward: "heading", heading, up: "plumb" }, spacing: { by: "count", count: 5 } }, [
          line,
        ]);
        for (let i = 0; i < p.count; i++) {
          const wanted: Vec3 = [Math.sin(heading), 0, -Math.cos(heading)];
          expect(distance(front(p, i), wanted)).toBeLessThan(1e-5);
        }
      }),
      { numRuns: 40 },
    );
  });

  test("props face a point, or away from it, from wherever they stand; a thing's middle counts as its point", () => {
    const point: Vec3 = [3, 2, -5];
    const facing = (forward: "at" | "away", thing: string | null = null) =>
      evaluate(dressing({ stance: { ...pivot, forward, point, thing }, fit: { across: 1, rows: 3 } }), {
        ...surroundings([straight(10)]),
        things: new Map([["beacon", [0, 9, 4] as Vec3]]),
      });
    for (const [p, goal, sign] of [
      [facing("at"), point, 1],
      [facing("away"), point, -1],
      [facing("at", "beacon"), [0, 9, 4] as Vec3, 1],
      [facing("at", "gone"), point, 1],
    ] as const) {
      for (let i = 0; i < p.count; i++) {
        const way = normalize(subtract(goal, placed(p, i)));
        expect(dot(front(p, i), way)).toBeCloseTo(sign, 5);
      }
    }
  });

  test("where there is no facing the point, the frame stays the line's and nothing becomes NaN", () => {
    const p = place({ stance: { ...pivot, forward: "at", point: [5, 0, 0] }, spacing: { distance: 5 } });
    for (const value of p.rotation) expect(value).not.toBeNaN();
    const above = place({ stance: { ...pivot, forward: "at", point: [5, 4, 0] }, spacing: { by: "list", list: [5] } });
    expect(distance(front(above, 0), [1, 0, 0])).toBeLessThan(1e-5);
  });
});

describe("up", () => {
  test("from a point leads away from it, square to forward", () => {
    const ring = makeLine({ kind: "circle", knots: [[0, 0, 0]], radius: 2 });
    const p = place({ stance: { up: "point", point: [0, 0, 0] }, spacing: { by: "count", count: 12 } }, [ring]);
    for (let i = 0; i < p.count; i++) {
      expect(dot(up(p, i), normalize(placed(p, i)))).toBeGreaterThan(1 - 1e-5);
    }
  });

  test("the line's roll turns the frame at its knot and is eased between, also on top of the world's up", () => {
    const rolled = straight(8);
    const line = { ...rolled, knots: rolled.knots.map((knot, i) => ({ ...knot, roll: i * 1.2 })) };
    for (const rule of ["line", "roll"] as const) {
      const p = place({ stance: { up: rule }, spacing: { distance: 4 } }, [line]);
      const angles = [0, 1, 2].map((i) => Math.acos(Math.min(1, up(p, i)[1])));
      [0, 0.6, 1.2].forEach((angle, i) => expect(angles[i]).toBeCloseTo(angle, 3));
    }
    const world = place({ stance: { up: "world" }, spacing: { distance: 4 } }, [line]);
    expect(up(world, 2)[1]).toBeCloseTo(1, 5);
  });
});

test("turns are in the line's own frame: the same on a line that runs any other way", () => {
  const angle = evenly(-3, 3);
  fc.assert(
    fc.property(angle, angle, angle, angle, (turnAlong, turnAcross, turnUp, heading) => {
      const stance = { ...pivot, turnAlong, turnAcross, turnUp };
      const there = makeLine({
        kind: "polyline",
        knots: [
          [0, 0, 0],
          [5 * Math.cos(heading), 0, -5 * Math.sin(heading)],
        ],
      });
      const [east, other] = [place({ stance }, [straight(5)]), place({ stance }, [there])];
      const back = (v: Vec3): Vec3 => [
        v[0] * Math.cos(heading) - v[2] * Math.sin(heading),
        v[1],
        v[0] * Math.sin(heading) + v[2] * Math.cos(heading),
      ];
      for (const axis of [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as Vec3[]) {
        expect(distance(back(turned(other, 1, axis)), turned(east, 1, axis))).toBeLessThan(1e-5);
      }
    }),
  );
});

test("every other prop is turned half round, and keeps its turn when others are left blank", () => {
  const axes = { up: [0, 1, 0], along: [0, 0, 1], across: [1, 0, 0] } as const;
  for (const flip of ["up", "along", "across"] as const) {
    const p = place({ stance: { flip }, gaps: { chance: 0.4 } });
    const still = place({ gaps: { chance: 0.4 } });
    for (let i = 0; i < p.count; i++) {
      for (const [name, axis] of Object.entries(axes)) {
        const kept = name === flip || i % 2 === 0;
        expect(distance(turned(p, i, axis), turned(still, i, axis))).toBeCloseTo(kept ? 0 : 2, 5);
      }
    }
  }
});

test("whichever side meets the line lies on it, at any size and turn", () => {
  const { min, max } = BOUNDS.get("oar")!;
  const sides = {
    meetsUp: { bottom: min[1], centre: (min[1] + max[1]) / 2, top: max[1], pivot: 0 },
    meetsAlong: { back: min[2], centre: (min[2] + max[2]) / 2, front: max[2], pivot: 0 },
    meetsAcross: { right: min[0], centre: 0, left: max[0], pivot: 0 },
  };
  const pick = <K extends string>(of: Record<K, number>) => fc.constantFrom(...(Object.keys(of) as K[]));
  fc.assert(
    fc.property(
      pick(sides.meetsUp),
      pick(sides.meetsAlong),
      pick(sides.meetsAcross),
      evenly(-3, 3),
      (meetsUp, meetsAlong, meetsAcross, turnUp) => {
        const p = place({
          what: { entries: [{ prop: "oar" }], own: [{ prop: "oar", size: 1.5, turn: 0.4 }] },
          stance: { meetsUp, meetsAlong, meetsAcross, turnUp },
          spacing: { distance: 2 },
          variation: { sizeOn: true, height: [0.5, 2] },
        });
        for (let i = 0; i < p.count; i++) {
          const s = p.scale.subarray(3 * i, 3 * i + 3);
          const contact = turned(p, i, [
            sides.meetsAcross[meetsAcross] * s[0],
            sides.meetsUp[meetsUp] * s[1],
            sides.meetsAlong[meetsAlong] * s[2],
          ]);
          const foot = placed(p, i).map((x, k) => x + contact[k]) as unknown as Vec3;
          expect(lengthOf(subtract(foot, [2 * i, 0, 0]))).toBeLessThan(1e-5);
        }
      },
    ),
  );
});

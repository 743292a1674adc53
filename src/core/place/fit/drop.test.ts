import fc from "fast-check";
import { makeLine } from "../../line/testing";
import { WorldMesh, hitsFor, hullOf, type Seen } from "../../mesh";
import { quatAt, rotate, vectorAt, type Vec3 } from "../../math";
import { evaluate, dressing, field, mesh, STAND, straight, surroundings } from "../testing";

import { FLAG } from "../slots";
import type { Placements } from "../placements";
import type { z } from "zod";
import type { dressingSchema } from "../schema";

const hills = (x: number, z: number) => 1.5 * Math.sin(0.5 * x) + Math.cos(0.7 * z + 0.2 * x);

/** Heights of a ground over a point, one triangle after the other. */
function heightsOver({ position: p, index }: WorldMesh, x: number, z: number): number[] {
  const found: number[] = [];
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [vectorAt(p, index[t]), vectorAt(p, index[t + 1]), vectorAt(p, index[t + 2])];
    const area = (b[0] - a[0]) * (c[2] - a[2]) - (b[2] - a[2]) * (c[0] - a[0]);
    if (Math.abs(area) < 1e-12) continue;
    const u = ((x - a[0]) * (c[2] - a[2]) - (z - a[2]) * (c[0] - a[0])) / area;
    const v = ((b[0] - a[0]) * (z - a[2]) - (b[2] - a[2]) * (x - a[0])) / area;
    if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
    found.push(a[1] + u * (b[1] - a[1]) + v * (c[1] - a[1]));
  }
  return found;
}

test("looking straight down finds what going through all triangles finds, however they lie over each other", () => {
  const coordinate = fc.integer({ min: -40, max: 40 }).map((x) => x / 8);
  const corner = fc.tuple(coordinate, coordinate, coordinate);
  const wanted: Readonly<Record<Seen, (heights: number[], y: number) => number>> = {
    above: (heights) => Math.max(...heights),
    lowest: (heights) => Math.min(...heights),
    itself: (heights, y) => {
      const below = heights.filter((height) => height <= y + 1e-6);
      return below.length > 0 ? Math.max(...below) : Math.min(...heights);
    },
  };
  fc.assert(
    fc.property(
      fc.array(fc.tuple(corner, corner, corner), { minLength: 1, maxLength: 30 }),
      fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 1, maxLength: 40 }),
      fc.constantFrom<Seen>("above", "lowest", "itself"),
      (triangles, points, seen) => {
        const corners = triangles.flat();
        const ground = WorldMesh.of(
          "soup",
          mesh(
            corners.flat(),
            corners.map((_, i) => i),
          ),
          STAND,
        );
        // Off the lattice that the corners lie on, so that no point lies on an edge.
        const moved = points.map(([x, y, z]): Vec3 => [x + 0.0131, y, z + 0.0173]);
        const hits = hitsFor(points.length);
        hits.triangle.fill(-1);
        ground.heights.cast(Float64Array.from(moved.flat()), points.length, seen, hits, 7);
        moved.forEach(([x, y, z], i) => {
          const heights = heightsOver(ground, x, z);
          expect(hits.triangle[i] >= 0).toBe(heights.length > 0);
          if (heights.length === 0) return;
          expect(hits.height[i]).toBeCloseTo(wanted[seen](heights, y), 6);
          expect(hits.ground[i]).toBe(7);
        });
      },
    ),
    { numRuns: 300 },
  );
});

type Fit = NonNullable<z.input<typeof dressingSchema>["fit"]>;

/** Corners of an odd shape within the oar's box. */
const ODD = hullOf([-0.05, -0.6, -0.5, 0.05, -0.4, 0.7, 0, 0, 0, 0.02, -0.55, 0.3, -0.03, -0.1, -0.2]);

/** Oars dropped onto ground from a line above it. */
function dropped(
  fit: Fit,
  ground: WorldMesh = field(16, hills),
  input: Parameters<typeof dressing>[0] = {},
): Placements {
  const lines = [
    straight(14, {
      knots: [
        [-6.7, 4, -2.3],
        [5.9, 5, 3.1],
      ],
    }),
  ];
  const dressed = dressing({ what: { entries: [{ prop: "oar" }] }, fit: { drop: "down", ...fit }, ...input }, lines);
  const surfaces = new Map([[ground.id, { mesh: ground, ground: true }]]);
  return evaluate(dressed, { ...surroundings(lines), surfaces, hulls: new Map([["oar", ODD]]) });
}

/** Points of a prop's own coordinates in the world, as placement `i` has them. */
const inWorld = (p: Placements, i: number, points: ArrayLike<number>): Vec3[] =>
  Array.from({ length: points.length / 3 }, (_, k): Vec3 => {
    const [x, y, z] = vectorAt(points, k);
    const side = p.flags[i] & FLAG.mirrored ? -1 : 1;
    const turned = rotate(quatAt(p.rotation, i), [
      side * x * p.scale[3 * i],
      y * p.scale[3 * i + 1],
      z * p.scale[3 * i + 2],
    ]);
    return turned.map((value, axis) => p.origin[axis] + p.position[3 * i + axis] + value) as unknown as Vec3;
  });

const over = (ground: WorldMesh, [x, y, z]: Vec3): number => y - Math.max(...heightsOver(ground, x, z));
const bottom = [-0.05, -0.6, -0.5, 0.05, -0.6, -0.5, 0.05, -0.6, 0.7, -0.05, -0.6, 0.7, 0, -0.6, 0.1];

const loose: NonNullable<z.input<typeof dressingSchema>["variation"]> = {
  positionOn: true,
  across: [-0.4, 0.4],
  turnOn: true,
  turnUp: [-3, 3],
  sizeOn: true,
  mirror: 0.5,
};

describe("what is dropped touches within 1e-5 m:", () => {
  const ground = field(16, hills);
  const each = (p: Placements, check: (i: number) => void) => {
    expect(p.count).toBeGreaterThan(10);
    for (let i = 0; i < p.count; i++) check(i);
  };

  test("its pivot", () => {
    const p = dropped({ dropBy: "pivot" }, ground, { variation: loose });
    each(p, (i) => expect(Math.abs(over(ground, inWorld(p, i, [0, 0, 0])[0]))).toBeLessThan(1e-5));
  });

  test("the lowest point of its mesh, sunk and with room under it", () => {
    const p = dropped({ sink: 0.05, lift: 0.002 }, ground, { variation: loose });
    each(p, (i) => {
      const points = inWorld(p, i, ODD);
      const lowest = points.reduce((low, point) => (point[1] < low[1] ? point : low));
      expect(over(ground, lowest)).toBeCloseTo(-0.048, 5);
    });
  });

  test("leaning by any share on a slope the corner that reaches it first, and none of the others digs in", () => {
    const slope = field(16, (x, z) => Math.tan(0.35) * x - 0.1 * z);
    for (const lean of [0.1, 0.4, 1]) {
      const p = dropped({ lean, sink: 0.05, lift: 0.002 }, slope, { variation: loose });
      each(p, (i) => {
        const first = Math.min(...inWorld(p, i, ODD).map((point) => over(slope, point)));
        expect(first).toBeCloseTo(-0.048, 5);
      });
    }
  });

  test("the first corner of its footprint, none of them below; or all of them in the mean", () => {
    const highest = dropped({ dropBy: "footprint" }, ground, { variation: loose });
    each(highest, (i) => {
      expect(Math.min(...inWorld(highest, i, bottom).map((p) => over(ground, p)))).toBeCloseTo(0, 5);
    });
    const mean = dropped({ dropBy: "footprint", dropRest: "mean" }, ground, { variation: loose });
    each(mean, (i) => {
      const gaps = inWorld(mean, i, bottom).map((p) => over(ground, p));
      expect(gaps.reduce((sum, gap) => sum + gap) / 5).toBeCloseTo(0, 5);
    });
    // On a plane the plane that fits best is the plane itself.
    const slope = field(16, (x, z) => 0.3 * x - 0.2 * z);
    const plane = dropped({ dropBy: "footprint", dropRest: "plane" }, slope, { variation: loose });
    each(plane, (i) => {
      expect(Math.min(...inWorld(plane, i, bottom).map((p) => over(slope, p)))).toBeCloseTo(0, 5);
    });
  });

  test("whatever way it looks: down its own up, along the normal, to the nearest point", () => {
    const out = { triangle: -1, x: 0, y: 0, z: 0 };
    // So broad that the nearest point never lies on its rim, along whose normal there need not be any ground.
    const broad = field(32, hills);
    for (const drop of ["own", "normal", "nearest"] as const) {
      const p = dropped({ drop, dropBy: "pivot" }, broad);
      each(p, (i) => {
        const [x, y, z] = inWorld(p, i, [0, 0, 0])[0];
        broad.tree.nearest(x, y, z, out);
        expect(Math.hypot(out.x - x, out.y - y, out.z - z)).toBeLessThan(1e-5);
      });
    }
  });
});

test.each([
  [0.31, 0.17],
  [0.31, 0],
  [0, 0.17],
])(
  "the nearest point is as far from where it was as no other: straight to a slope of %d and %d along its normal",
  (east, south) => {
    const slope = field(40, (x, z) => east * x + south * z);
    const lines = [straight(5, { knots: [[-3, 4, 5], [4, 5, 9]] })]; // prettier-ignore
    const over = { ...surroundings(lines), surfaces: new Map([["field", { mesh: slope, ground: true }]]) };
    const along = (drop: "off" | "nearest" | "normal") =>
      evaluate(dressing({ fit: { drop, dropBy: "pivot" }, spacing: { distance: 0.7 } }, lines), over);
    const before = along("off");
    const steep = Math.hypot(east, 1, south);
    for (const after of [along("nearest"), along("normal")]) {
      expect(after.count).toBeGreaterThan(8);
      for (let i = 0; i < after.count; i++) {
        const [x, y, z] = inWorld(before, i, [0, 0, 0])[0];
        const off = (y - east * x - south * z) / steep;
        const foot = [x + (east * off) / steep, y - off / steep, z + (south * off) / steep];
        inWorld(after, i, [0, 0, 0])[0].forEach((value, k) => expect(value).toBeCloseTo(foot[k], 4));
      }
    }
  },
);

test("what stands on ground already stays on it, whichever way it looks, though there is more ground underneath", () => {
  const both = field(16, (x, z) => 0.31 * x + 0.17 * z);
  // The same field once more, a metre below, as the underside of a slab.
  const n = both.position.length / 3;
  const position = Float64Array.from([...both.position, ...both.position.map((x, k) => (k % 3 === 1 ? x - 1 : x))]);
  const slab = new WorldMesh("slab", position, Uint32Array.from([...both.index, ...both.index.map((i) => i + n)]));
  const lines = [
    straight(5, {
      knots: [
        [-5.3, 0.31 * -5.3 + 0.17 * -3.1, -3.1],
        [6.1, 0.31 * 6.1 + 0.17 * 4.7, 4.7],
      ],
    }),
  ];
  for (const drop of ["down", "own", "normal", "nearest"] as const) {
    const dressed = dressing({ fit: { drop, dropBy: "pivot" }, spacing: { distance: 0.3 } }, lines);
    const p = evaluate(dressed, {
      ...surroundings(lines),
      surfaces: new Map([["slab", { mesh: slab, ground: true }]]),
    });
    for (let i = 0; i < p.count; i++) {
      const [x, y, z] = inWorld(p, i, [0, 0, 0])[0];
      expect(y).toBeCloseTo(0.31 * x + 0.17 * z, 4);
    }
  }
});

describe("leaning", () => {
  const upOf = (p: Placements, i: number) => rotate(quatAt(p.rotation, i), [0, 1, 0]);

  test("all the way brings up and normal together within 1e-4; half the way, to half the angle", () => {
    const ground = field(16, hills);
    const normal = new Float64Array(3);
    const none = dropped({ dropBy: "pivot" }, ground, { stance: { up: "plumb" } });
    for (const leanBy of ["smooth", "flat"] as const) {
      const full = dropped({ dropBy: "pivot", lean: 1, leanBy }, ground, { stance: { up: "plumb" } });
      const half = dropped({ dropBy: "pivot", lean: 0.5, leanBy }, ground, { stance: { up: "plumb" } });
      for (let i = 0; i < full.count; i++) {
        // Props hang by their top, so where they meet the line is where they are placed.
        const [x, y, z] = inWorld(none, i, [0, -0.6, 0])[0];
        const hits = hitsFor(1);
        hits.triangle.fill(-1);
        ground.heights.cast(Float64Array.of(x, y, z), 1, "above", hits, 0);
        if (leanBy === "flat") ground.flatNormal(hits.triangle[0], normal);
        else ground.smoothNormal(hits.triangle[0], x, hits.height[0], z, normal);
        if (normal[1] < 0) normal.forEach((value, k) => (normal[k] = -value));
        const up = upOf(full, i);
        expect(Math.hypot(up[0] - normal[0], up[1] - normal[1], up[2] - normal[2])).toBeLessThan(1e-4);
        expect(Math.acos(upOf(half, i)[1])).toBeCloseTo(Math.acos(normal[1]) / 2, 4);
      }
    }
  });

  test("by the footprint stands a prop square on a slope, all four corners on it", () => {
    const slope = field(16, (x, z) => 0.4 * x + 0.1 * z);
    const p = dropped({ dropBy: "footprint", lean: 1, leanBy: "footprint" }, slope, {
      variation: { ...loose, turnAlong: [0, 0], turnAcross: [0, 0] },
    });
    for (let i = 0; i < p.count; i++)
      for (const corner of inWorld(p, i, bottom)) expect(Math.abs(over(slope, corner))).toBeLessThan(1e-4);
  });
});

describe("where there is no ground", () => {
  const small = field(4, () => 0);
  const gone = (p: Placements) => Array.from(p.flags, (flags) => (flags & FLAG.groundless) !== 0);
  const heights = (p: Placements) => Array.from({ length: p.count }, (_, i) => p.origin[1] + p.position[3 * i + 1]);

  test("a prop stays, stands on the floor, is left out or goes to the nearest; it is marked in any case", () => {
    const keep = dropped({ dropBy: "pivot" }, small);
    const marked = gone(keep);
    expect(marked).toContain(true);
    expect(marked).toContain(false);
    const before = heights(dropped({ drop: "off" }));
    for (const [i, y] of heights(keep).entries()) expect(y).toBeCloseTo(marked[i] ? before[i] : 0, 5);
    const floor = dropped({ dropBy: "pivot", without: "floor", floor: -2 }, small);
    for (const [i, y] of heights(floor).entries()) expect(y).toBeCloseTo(marked[i] ? -2 : 0, 5);
    const left = dropped({ dropBy: "pivot", without: "leave" }, small);
    expect(Array.from(left.flags, (flags) => (flags & FLAG.blank) !== 0)).toEqual(marked);
    const nearest = dropped({ dropBy: "pivot", without: "nearest" }, small);
    for (let i = 0; i < nearest.count; i++) {
      for (const axis of [0, 2])
        expect(Math.abs(nearest.origin[axis] + nearest.position[3 * i + axis])).toBeLessThan(2 + 0.61);
      expect(heights(nearest)[i]).toBeCloseTo(0, 5);
    }
    for (const p of [floor, left, nearest]) expect(gone(p)).toEqual(marked);
  });

  test("of several grounds only those named count; with none there is nothing to stand on", () => {
    const p = dropped({ dropBy: "pivot", onto: ["elsewhere"] }, small);
    expect(gone(p).every(Boolean)).toBe(true);
  });
});

test("dropping changes no draw: what is switched on before and after comes to the same turns and sizes", () => {
  const [on, off] = [
    dropped({}, undefined, { variation: loose }),
    dropped({ drop: "off" }, undefined, { variation: loose }),
  ];
  expect(on.rotation).toEqual(off.rotation);
  expect(on.scale).toEqual(off.scale);
  expect(on.key).toEqual(off.key);
});

test("what comes down to one spot from far above each other is kept clear there", () => {
  const steep = makeLine({
    kind: "polyline",
    knots: [
      [0, 1, 0],
      [0.6, 12, 0],
    ],
  });
  const flat = field(6, () => 0);
  const around = { ...surroundings([steep]), surfaces: new Map([["field", { mesh: flat, ground: true }]]) };
  const standing = (fit: object) => {
    const dressed = dressing({ spacing: { distance: 2 }, stance: { up: "plumb" }, fit: { drop: "down", ...fit } }, [
      steep,
    ]);
    const { count, blanks } = evaluate(dressed, around);
    return count - blanks;
  };
  expect(standing({})).toBeGreaterThan(4);
  // Buoys are 0.4 m broad, and all of them come down within 0.6 m.
  expect(standing({ clear: "box" })).toBe(2);
});

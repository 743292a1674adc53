/** Boxes against each other: as their corners say, whatever their sizes, turns and middles; and the grid forgets none. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { cross, dot, rotate, type Quat, type Vec3 } from "../math";
import { Boxes } from "./boxes";
import { FLAG } from "./slots";

const triple = (least: number, most: number) => fc.tuple(evenly(least, most), evenly(least, most), evenly(least, most));
const turn = fc
  .oneof(
    fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1), evenly(-1, 1)),
    fc.tuple(fc.constant(0), evenly(-1, 1), fc.constant(0), evenly(-1, 1)),
  ) // prettier-ignore
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q) => q.map((x) => Math.fround(x / Math.hypot(...q))) as unknown as Quat);
// Beside each other and above each other more often than chance would have it.
const at = fc.oneof(triple(-6, 6), evenly(-6, 6).map((x): [number, number, number] => [x, 0, 0]), evenly(-6, 6).map((y): [number, number, number] => [0, y, 0])); // prettier-ignore
const thing = fc.record({ at, turn, size: triple(0.2, 3), prop: fc.nat(1), mirrored: fc.boolean() });
const AXES: Vec3[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore

interface Solid {
  corners: Vec3[];
  axes: Vec3[];
  middle: Vec3;
  radius: number;
}

/** By how much two overlap along a direction; infinite along none. */
function depth(a: Solid, b: Solid, way: Vec3): number {
  const long = Math.hypot(...way);
  if (long < 1e-6) return Infinity;
  const [p, q] = [a, b].map(({ corners }) => corners.map((corner) => dot(corner, way) / long));
  return Math.min(Math.max(...p) - Math.min(...q), Math.max(...q) - Math.min(...p));
}

/** What separates two convex bodies is square to a face of one, or to an edge of each; seen from above, to an edge. */
function overlapOf(a: Solid, b: Solid, shape: "radius" | "footprint" | "box"): number {
  if (shape === "radius") return a.radius + b.radius - Math.hypot(a.middle[0] - b.middle[0], a.middle[2] - b.middle[2]);
  const all = [...a.axes, ...b.axes];
  const ways =
    shape === "footprint"
      ? all.map(([x, , z]): Vec3 => [-z, 0, x])
      : [...all, ...a.axes.flatMap((u) => b.axes.map((v) => cross(u, v)))];
  return Math.min(...ways.map((way) => depth(a, b, way)));
}

test("boxes overlap by as much as their corners say, and whoever meets one that is there is told", () => {
  let [meets, all] = [0, 0];
  fc.assert(
    fc.property(
      fc.oneof(fc.array(thing, { minLength: 2, maxLength: 3 }), fc.array(thing, { minLength: 2, maxLength: 14 })),
      fc.array(fc.tuple(triple(-1, 1), fc.oneof(triple(0.05, 1), triple(0.8, 1.2))), { minLength: 2, maxLength: 2 }),
      fc.constantFrom("radius" as const, "footprint" as const, "box" as const),
      evenly(-0.1, 0.5),
      (things, props, shape, room) => {
        const standing = {
          position: Float32Array.from(things.flatMap(({ at }) => at)),
          rotation: Float32Array.from(things.flatMap(({ turn }) => turn)),
          scale: Float32Array.from(things.flatMap(({ size }) => size)),
          prop: Uint16Array.from(things, ({ prop }) => prop),
          flags: Uint16Array.from(things, ({ mirrored }) => (mirrored ? FLAG.mirrored : 0)),
        };
        const solids = things.map(({ at, turn, size, prop, mirrored }): Solid => {
          const [middle, half] = props[prop];
          const there = (own: Vec3): Vec3 => {
            const [x, y, z] = rotate(turn, [
              own[0] * size[0] * (mirrored ? -1 : 1),
              own[1] * size[1],
              own[2] * size[2],
            ]);
            return [at[0] + x, at[1] + y, at[2] + z];
          };
          const corners = Array.from({ length: 8 }, (_, corner) => there([0, 1, 2].map((k) => middle[k] + (corner & (1 << k) ? half[k] : -half[k])) as unknown as Vec3)); // prettier-ignore
          return { corners, axes: AXES.map((axis) => rotate(turn, axis)), middle: there(middle), radius: Math.max(half[0] * size[0], half[2] * size[2]) }; // prettier-ignore
        });
        const members = Uint32Array.from(things, (_, i) => i);
        const boxes = new Boxes(standing, members, Float64Array.from(props.flat(2)), shape, room);
        for (let i = 0; i < things.length; i++) {
          let most = -Infinity;
          for (let j = 0; j < i; j++) {
            const by = overlapOf(solids[i], solids[j], shape) + room;
            most = Math.max(most, by);
            // What touches may be told either way.
            if (Math.abs(by) > 2e-3) expect(Math.abs(boxes.overlap(i, j) - Math.max(0, by))).toBeLessThan(2e-4);
          }
          const hit = boxes.hit(i);
          expect(hit).toBeLessThan(i);
          if (Math.abs(most) > 2e-3) expect([i, hit >= 0]).toEqual([i, most > 0]);
          boxes.put(i);
          all++;
          if (most > 0) meets++;
        }
      },
    ),
    { numRuns: 250 },
  );
  expect(Math.min(meets, all - meets) / all).toBeGreaterThan(0.15);
});

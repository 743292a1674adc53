import { hungBy, snapFrame } from "../tie";
import fc from "fast-check";
import { between, distance, dot, fromAxisAngle, lengthOf, normalize, rotate, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { preparationSchema } from "./prepare";
import { snapPointsOf } from "./snap-points";

const vector = (reach: number) => fc.tuple(evenly(-reach, reach), evenly(-reach, reach), evenly(-reach, reach));
const axis = vector(1).filter((v) => lengthOf(v) > 0.1);
const turned = fc.tuple(axis, evenly(0, 6)).map(([v, angle]) => fromAxisAngle(normalize(v), angle));

const post = (prepared: object) => ({
  bounds: { min: [-0.1, 0, -0.2] as Vec3, max: [0.1, 3, 0.2] as Vec3 },
  prepared: preparationSchema.parse(prepared),
});

describe("snap points", () => {
  it("come by themselves at pivot, sides and the ends of what is long, and are those the artist set before", () => {
    const names = snapPointsOf(post({ snaps: [{ name: "hook", position: [0, 2, 0] }] })).map(({ name }) => name);
    expect(names).toEqual("hook,pivot,top,bottom,left,right,front,back,first end,last end".split(","));
    const own = snapPointsOf(post({ snaps: [{ name: "top", position: [0, 2.5, 0], direction: [0, 0, 2] }] }));
    expect(own.filter(({ name }) => name === "top")).toEqual([
      { name: "top", position: [0, 2.5, 0], direction: [0, 0, 1], free: true, own: true },
    ]);
  });

  it("go along with how the prop is prepared: turned, sized, its pivot elsewhere", () => {
    const snaps = [{ name: "hook", position: [0.1, 3, 0], direction: [1, 0, 0] }];
    const [hook] = snapPointsOf(post({ snaps, size: 2, front: "-z", pivot: "top" }));
    // Turned half about up, twice as large, counted from the middle of the top.
    expect(distance(hook.position, [-0.2, 0, 0])).toBeLessThan(1e-12);
    expect(distance(hook.direction, [-1, 0, 0])).toBeLessThan(1e-12);
    expect(() => post({ snaps: [...snaps, ...snaps] })).toThrow(/another snap point's name/);
    expect(() => post({ snaps: [{ ...snaps[0], direction: [0, 0, 0] }] })).toThrow(/points somewhere/);
  });

  it("meet with directions opposed where one prop hangs by its own on another's, whatever both are turned and sized", () => {
    const size = evenly(0.5, 2);
    const scale = fc.tuple(fc.boolean(), size, size, size).map(([m, x, y, z]): Vec3 => [m ? -x : x, y, z]);
    const standing = fc.record({ position: vector(9), rotation: turned, scale });
    const on = fc.record({ position: vector(9), rotation: turned });
    fc.assert(
      fc.property(
        vector(1),
        axis,
        standing,
        on,
        fc.boolean(),
        evenly(0, 6),
        (position, direction, stands, there, free, by) => {
          const [own] = snapPointsOf(post({ snaps: [{ name: "eye", position, direction }] }));
          const eye = snapFrame({ ...stands, ...hungBy(stands, own, there, free, by) }, own);
          expect(distance(eye.position, there.position)).toBeLessThan(1e-9);
          expect(dot(rotate(eye.rotation, [0, 1, 0]), rotate(there.rotation, [0, 1, 0]))).toBeLessThan(-1 + 1e-12);
        },
      ),
    );
  });

  it("turn in quarters against each other where that is said, and otherwise as little as can be", () => {
    const [own] = snapPointsOf(post({ snaps: [{ name: "peg", position: [0, 0, 0], direction: [0, -1, 0] }] }));
    const on = { position: [0, 0, 0] as Vec3, rotation: fromAxisAngle([0, 1, 0], 0.3) };
    const standing = { position: [0, 0, 0] as Vec3, rotation: fromAxisAngle([0, 1, 0], 1), scale: [1, 1, 1] as Vec3 };
    const front = (free: boolean, turn = 0): number => {
      const [x, , z] = rotate(hungBy(standing, own, on, free, turn).rotation, [0, 0, 1]);
      return Math.atan2(x, z);
    };
    expect(front(true)).toBeCloseTo(1, 12);
    expect(front(true, 0.25)).toBeCloseTo(1.25, 12);
    const apart = (front(false) - 0.3) / (Math.PI / 2);
    expect(Math.abs(apart - Math.round(apart))).toBeLessThan(1e-12);
    expect(Math.abs(front(false) - 1)).toBeLessThanOrEqual(Math.PI / 4);
  });

  it("have their direction for up, even where it is the world's down", () => {
    const up = rotate(between([0, 1, 0], [0, -1, 0]), [0, 1, 0]);
    expect(distance(up, [0, -1, 0])).toBeLessThan(1e-12);
  });
});

/** Frames of what is bound to a mesh that moves: as the mesh moves, so do they. */
import fc from "fast-check";
import { bind, WorldMesh } from "../mesh";
import {
  add,
  cross,
  distance,
  dot,
  fromAxisAngle,
  normalize,
  quatAt,
  rotate,
  scale,
  vectorAt,
  type Vec3,
} from "../math";
import { evenly } from "../math/testing";
import { carriedFrames } from "./carried-frames";
import { mesh, STAND } from "./testing";

const DIRECTION: Vec3 = [0.8, 0, 0.6];

/** A roof of two slopes that meet at an angle, each of two triangles. */
function roof(steep: number): WorldMesh {
  const points = [-2, 0, -2, -2, 0, 2, 0, steep, 2, 0, steep, -2, 2, 0, -2, 2, 0, 2];
  return WorldMesh.of("roof", mesh(points, [0, 1, 2, 0, 2, 3, 3, 2, 5, 3, 5, 4]), STAND);
}

test("carried rigidly, all keep their height, their turn to the mesh and their up; steep edges have the slope's own up", () => {
  fc.assert(
    fc.property(
      evenly(-3, 3),
      evenly(0.1, 3),
      evenly(0.05, 2.5),
      evenly(-0.3, 0.4),
      fc.nat(3),
      (angle, tilt, steep, rise, triangle) => {
        const rest = roof(steep);
        const turn = fromAxisAngle(normalize([Math.sin(angle), 0.4, tilt]), angle);
        const by: Vec3 = [30 * tilt, -7, 12 * angle];
        const goes = (p: Vec3) => add(rotate(turn, p), by);
        const moved = WorldMesh.of("roof", mesh(Array.from({ length: 6 }, (_, v) => goes(vectorAt(rest.position, v))).flat(), [...rest.index]), STAND); // prettier-ignore
        const [a, b, c] = [0, 1, 2].map((k) => vectorAt(rest.position, rest.index[3 * triangle + k]));
        const foot = add(add(scale(a, 0.5), scale(b, 0.2)), scale(c, 0.3));
        const flat = normalize(cross(add(b, scale(a, -1)), add(c, scale(a, -1))));
        const point = add(foot, scale(flat, 0.25));
        const bound = bind([rest], Uint16Array.of(0), Float64Array.from(point), Uint32Array.of(triangle), [DIRECTION]);
        const [feet, rotation] = [new Float64Array(3), new Float64Array(4)].map((one) => Float32Array.from(one));
        const [before, after] = [rest, moved].map((now) => {
          carriedFrames({ bound, meshes: [now] }, [1, 2, 3], { all: rise, each: null }, feet, rotation);
          return { at: add(vectorAt(feet, 0), [1, 2, 3]), q: quatAt(rotation, 0) };
        });
        const up = rotate(before.q, [0, 1, 0]);
        // Straight up from its triangle, as high as it was, and raised along its up.
        expect(distance(before.at, add(point, scale(up, rise)))).toBeLessThan(1e-5);
        // At an edge of more than 45° there is no up between the slopes.
        if (Math.acos(flat[1]) > 0.9) expect(dot(up, flat)).toBeGreaterThan(0.999);
        expect(distance(after.at, goes(before.at))).toBeLessThan(2e-5);
        for (const axis of [
          [1, 0, 0],
          [0, 1, 0],
          [0, 0, 1],
        ] as Vec3[])
          // prettier-ignore
          expect(distance(rotate(after.q, axis), rotate(turn, rotate(before.q, axis)))).toBeLessThan(2e-5);
        expect(dot(rotate(before.q, [0, 0, 1]), DIRECTION)).toBeGreaterThan(0);
      },
    ),
  );
});

test("with nothing to turn to, they face south as far as their up lets them, or up where that is south", () => {
  for (const [points, ahead] of [
    [
      [0, 0, 0, 0, 0, 1, 1, 0, 0],
      [0, 0, 1],
    ],
    [[0, 0, 0, 1, 0.3, 0, 0, 0, -1], null],
    [
      [0, 0, 0, 1, 0, -0.2, 0, 1, 0],
      [0, -1, 0],
    ],
  ] as const) {
    const plane = WorldMesh.of("plane", mesh([...points], [0, 1, 2]), STAND);
    const bound = bind([plane], Uint16Array.of(0), Float64Array.from([0.2, 0.05, 0.2]), null);
    const [feet, rotation] = [new Float32Array(3), new Float32Array(4)];
    carriedFrames({ bound, meshes: [plane] }, [0, 0, 0], { all: 0, each: null }, feet, rotation);
    const q = quatAt(rotation, 0);
    const up = normalize(cross(vectorAt(plane.position, 1), vectorAt(plane.position, 2)));
    expect(distance(rotate(q, [0, 1, 0]), up)).toBeLessThan(1e-5);
    const south: Vec3 = [0, 0, 1];
    const wish = ahead ?? normalize(add(south, scale(up, -dot(south, up))));
    expect(distance(rotate(q, [0, 0, 1]), wish as Vec3)).toBeLessThan(1e-5);
  }
});

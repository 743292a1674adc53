import fc from "fast-check";
import { evenly } from "../math/testing";
import { Euler, Matrix4, Quaternion, Vector3 } from "three";
import { Boxes } from "../place";
import { boxMesh } from "../place/testing";
import { Body } from ".";

const at = (position: readonly number[], turn: readonly number[] = [0, 0, 0], size: readonly number[] = [1, 1, 1]) =>
  Float64Array.from(
    new Matrix4().compose(
      new Vector3().fromArray([...position]),
      new Quaternion().setFromEuler(new Euler(turn[0], turn[1], turn[2])),
      new Vector3().fromArray([...size]),
    ).elements,
  );
const cube = new Body(boxMesh([-0.5, -0.5, -0.5], [0.5, 0.5, 0.5]));
const three = (low: number, high: number) => fc.tuple(...([0, 1, 2] as const).map(() => evenly(low, high)));

test("boxes as meshes meet just where the separating axis theorem says so", () => {
  fc.assert(
    fc.property(three(-1.4, 1.4), three(-3, 3), three(-3, 3), three(0.4, 2), (place, turn, turnToo, size) => {
      const [a, b] = [at([0, 0, 0], turn), at(place, turnToo, size)];
      const turns = [turn, turnToo].map(([x, y, z]) => new Quaternion().setFromEuler(new Euler(x, y, z)).toArray());
      const standing = {
        position: Float32Array.from([0, 0, 0, ...place]),
        rotation: Float32Array.from(turns.flat()),
        scale: Float32Array.from([1, 1, 1, ...size]),
        prop: new Uint16Array(2),
        flags: new Uint16Array(2),
      };
      const boxes = new Boxes(standing, Uint32Array.of(0, 1), Float64Array.of(0, 0, 0, 0.5, 0.5, 0.5), "box");
      const by = boxes.overlap(0, 1);
      // What overlaps by less than a thousandth may be told either way.
      if (by > 0 && by < 2e-3) return;
      expect(cube.meets(cube, a, b)).toBe(by > 0);
      expect(cube.meets(cube, b, a)).toBe(by > 0);
    }),
    { numRuns: 300 },
  );
});

test("what only touches is clear; room between is kept; what lies wholly inside another meets it", () => {
  expect(cube.meets(cube, at([0, 0, 0]), at([1, 0, 0]))).toBe(false);
  expect(cube.meets(cube, at([0, 0, 0]), at([0.99, 0, 0]))).toBe(true);
  fc.assert(
    fc.property(evenly(0.01, 2), evenly(0.01, 2), (gap, room) => {
      if (Math.abs(gap - room) < 2e-3) return;
      expect(cube.meets(cube, at([0, 0, 0]), at([0, 0, 1 + gap]), room)).toBe(gap < room);
    }),
  );
  const small = at([0.1, 0.2, 0], [1, 0, 1], [0.2, 0.2, 0.2]);
  expect([cube.meets(cube, at([0, 0, 0]), small), cube.meets(cube, small, at([0, 0, 0]))]).toEqual([true, true]);
});

test("whether few triangles come near hangs on nothing that was asked before, and is the same from both sides", () => {
  const wedge = new Body({
    position: Float32Array.of(-0.5, 0, -0.5, 0.5, 0, -0.5, 0, 0.6, 0.5, 0, 0, 0.5),
    index: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3),
  });
  const place = fc.tuple(three(-2, 2), three(-3, 3)).map(([position, turn]) => at(position, turn));
  fc.assert(
    fc.property(place, place, place, fc.boolean(), (one, two, aside, both) => {
      const other = both ? wedge : cube;
      const first = wedge.meets(other, one, two, 0.3);
      cube.meets(wedge, aside, one, 0.3);
      wedge.meets(cube, two, aside, 0.3);
      expect(wedge.meets(other, one, two, 0.3)).toBe(first);
      expect(other.meets(wedge, two, one, 0.3)).toBe(first);
    }),
    { numRuns: 300 },
  );
});

test("what stands in the opening of an arch is clear of it, and how far a bar passes through a wall is told", () => {
  const arch = new Body(
    [
      boxMesh([-1, 0, -0.2], [-0.7, 2, 0.2]),
      boxMesh([0.7, 0, -0.2], [1, 2, 0.2]),
      boxMesh([-1, 2, -0.2], [1, 2.3, 0.2]),
    ].reduce((sum, one) => ({
      position: Float32Array.from([...sum.position, ...one.position]),
      index: Uint32Array.from([...sum.index, ...one.index.map((v) => v + sum.position.length / 3)]),
      attributes: [],
    })),
  );
  const here = at([5, 1, 5], [0, 1, 0]);
  const beside = (x: number) =>
    Float64Array.from(new Matrix4().fromArray(here).multiply(new Matrix4().fromArray(at([x, 0.5, 0]))).elements);
  expect(arch.meets(cube, here, beside(0))).toBe(false);
  expect(arch.meets(cube, here, beside(0.3))).toBe(true);
  const wall = new Body({ position: Float32Array.of(-9, -9, 0, 9, -9, 0, 0, 9, 0), index: Uint32Array.of(0, 1, 2) });
  const bar = at([0.3, -1, 0.2], [0, 0, 0], [0.3, 0.4, 4]);
  expect(cube.crossing(bar, wall)).toBeCloseTo(0.5, 3);
  expect(cube.crossing(at([0.3, -1, 2.1], [0, 0, 0], [0.3, 0.4, 4]), wall)).toBe(0);
});

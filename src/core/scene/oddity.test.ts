import fc from "fast-check";
import { evenly } from "../math/testing";
import { besideOf, longestOf, oddityOf, preparedBounds, propSchema, stoodUp } from ".";
import type { PropBounds } from "../mesh";

const prop = (bounds: PropBounds, prepared: object = {}) => ({
  bounds,
  prepared: propSchema.shape.prepared.parse(prepared),
});
const cube = (size: number, prepared = {}) => prop({ min: [0, 0, 0], max: [size, size, size] }, prepared);

test("what is far too large or small by itself or beside the others is odd, by a factor that makes it likely; what is meant so is not", () => {
  const size = evenly(1e-5, 1e5);
  const beside = fc.option(evenly(0.05, 5));
  fc.assert(
    fc.property(size, beside, (size, beside) => {
      const odd = oddityOf(cube(size), beside);
      const likely = size >= 0.005 && size <= 60 && (beside === null || (size < 100 * beside && size > beside / 100));
      expect(odd === null).toBe(likely);
      if (!odd) return;
      expect([odd.kind, odd.factor < 1]).toEqual(odd.factor < 1 ? ["large", true] : ["small", false]);
      expect(oddityOf(cube(size, { asMeant: true }), beside)).toBeNull();
    }),
  );
  expect(oddityOf(cube(90), 1)).toEqual({ kind: "large", size: 90, factor: 0.01 });
  expect(oddityOf(cube(0.002), null)).toMatchObject({ kind: "small", factor: 100 });
  expect([besideOf([1, 2, 9], 9), besideOf([3], 3)]).toEqual([2, null]);
});

test("what is slender and has its foot at its file's origin lies on its back, and stands once it is stood up", () => {
  const lying = prop({ min: [-0.2, -0.15, 0], max: [0.3, 0.15, 4] });
  const other = prop({ min: [-0.2, -0.15, -4], max: [0.3, 0.15, 0] });
  for (const one of [lying, other]) {
    expect(oddityOf(one, 1)).toMatchObject({ kind: "lies", size: 4 });
    const stood = { ...one, prepared: stoodUp(one) };
    expect(oddityOf(stood, 1)).toBeNull();
    const { min, max } = preparedBounds(stood);
    expect([min[1], max[1], longestOf(stood)]).toEqual([expect.closeTo(0, 9), 4, 4]);
    // Its left stays its left.
    expect([min[0], max[0]]).toEqual([expect.closeTo(-0.2, 9), expect.closeTo(0.3, 9)]);
  }
  // An oar that lies about its middle, a plank on the ground, and what has been set up are as they are.
  const oar = prop({ min: [-0.1, -0.1, -1.5], max: [0.1, 0.1, 1.5] });
  const plank = prop({ min: [-0.1, 0, 0], max: [0.1, 0.05, 3] });
  const set = prop(lying.bounds, { front: "-z" });
  expect([oar, plank, set].map((one) => oddityOf(one, 1))).toEqual([null, null, null]);
  expect(stoodUp(oar)).toBe(oar.prepared);
});

import fc from "fast-check";
import { evenly } from "./testing";
import { Anderson } from ".";

/** A round that draws nearer to `end` in each direction by a share of its own. */
const rounds = (at: Float64Array, end: readonly number[], left: readonly number[]) =>
  at.map((x, i) => end[i] + left[i] * (x - end[i]));

const off = (at: Float64Array, end: readonly number[]) => Math.hypot(...at.map((x, i) => x - end[i]));

test("what draws nearer at one speed is there after two rounds; at two speeds, in a tenth of the rounds", () => {
  fc.assert(
    fc.property(fc.array(evenly(-5, 5), { minLength: 4, maxLength: 4 }), evenly(0.2, 0.95), (end, share) => {
      const at = new Float64Array(4);
      const on = new Anderson([at]);
      for (let round = 0; round < 2; round++) on.next([rounds(at, end, [share, share, share, share])]);
      expect(off(at, end)).toBeLessThan(1e-9 * (1 + Math.hypot(...end)));
    }),
  );
  const end = [3, -2];
  const count = (by: (at: Float64Array, round: Float64Array) => void): number => {
    const at = new Float64Array(2);
    for (let n = 1; ; n++) {
      by(at, rounds(at, end, [0.98, 0.6]));
      if (off(at, end) < 1e-3) return n;
    }
  };
  const ons = new Map<Float64Array, Anderson>();
  const plain = count((at, round) => at.set(round));
  const quick = count((at, round) => {
    if (!ons.has(at)) ons.set(at, new Anderson([at]));
    ons.get(at)!.next([round]);
  });
  expect(10 * quick).toBeLessThan(plain);
});

test("what was taken back lies where the last round came to, and is not ahead of it", () => {
  const [x, y] = [Float64Array.of(0), Float64Array.of(8)];
  const on = new Anderson([x, y]);
  on.next([Float64Array.of(4), Float64Array.of(4)]);
  expect([on.ahead, x[0], y[0]]).toEqual([false, 4, 4]);
  on.next([Float64Array.of(6), Float64Array.of(2)]);
  expect([on.ahead, x[0], y[0]]).toEqual([true, 8, 0]);
  on.takeBack();
  expect([on.ahead, x[0], y[0]]).toEqual([false, 6, 2]);
});

/** What holds them takes frames along, with where they face; what it does not hold stays. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { conjugate, multiply, quatAt, rotate, subtract, vectorAt, type Quat } from "../math";
import { heldFrames } from "./held-frames";
import type { Carry } from "../tie";

const number = evenly(-3, 3);
const point = fc.tuple(number, number, number);
const turn = fc
  .tuple(number, number, number, number)
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q) => q.map((x) => x / Math.hypot(...q)) as unknown as Quat);

test("held frames go along with what holds them: foot, stance and where they face; all others stay", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(point, turn, turn), { minLength: 3, maxLength: 9 }),
      point,
      point,
      point,
      turn,
      fc.boolean(),
      (all, origin, from, to, by, facesOtherwise) => {
        const carry: Carry = { turn: by, from, to };
        const feet = Float32Array.from(all.flatMap(([foot]) => foot));
        const rotation = Float32Array.from(all.flatMap(([, q]) => q));
        const facing = facesOtherwise ? Float32Array.from(all.flatMap(([, , q]) => q)) : rotation;
        const key = BigUint64Array.from(all, (_, i) => BigInt(i));
        const held = heldFrames({ origin, feet, rotation, facing }, key, [[1n, carry]]);
        expect(held.facing === held.rotation).toBe(!facesOtherwise);
        for (let i = 0; i < all.length; i++) {
          const foot = vectorAt(feet, i);
          const off = subtract(foot, subtract(from, origin));
          const there = i === 1 ? rotate(by, off).map((x, k) => x + to[k] - origin[k]) : foot;
          vectorAt(held.feet, i).forEach((x, k) => expect(x).toBeCloseTo(there[k], 4));
          for (const [now, before] of [
            [held.rotation, rotation],
            [held.facing, facing],
          ] as const) {
            // prettier-ignore
            const turned = multiply(quatAt(now, i), conjugate(quatAt(before, i)));
            const wanted: Quat = i === 1 ? by : [0, 0, 0, 1];
            // A quaternion and its opposite are the same turn.
            expect(Math.abs(turned.reduce((sum, x, k) => sum + x * wanted[k], 0))).toBeCloseTo(1, 4);
          }
        }
      },
    ),
    { numRuns: 50 },
  );
  const still: [number, number, number] = [0, 0, 0];
  const frames = { origin: still, feet: Float32Array.of(1, 2, 3), rotation: Float32Array.of(0, 0, 0, 1), facing: Float32Array.of(0, 0, 0, 1) }; // prettier-ignore
  expect(heldFrames(frames, BigUint64Array.of(7n), []).feet).toEqual(frames.feet);
});

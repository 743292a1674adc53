import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import type { Unit } from "@/core/schema";
import { dragged, stepped, STEPS, typed } from "./number-steps";

const units = Object.keys(STEPS) as Unit[];
const plain = { shiftKey: false, altKey: false };
const value = evenly(-1e4, 1e4);

test("a step there and back is where one was; Shift goes ten times as far, Alt a tenth, but whole numbers stay whole", () => {
  fc.assert(
    fc.property(fc.constantFrom(...units), fc.integer({ min: -999, max: 999 }), value, (unit, steps, at) => {
      const from = unit === "whole" ? Math.round(at) : Number(at.toFixed(9));
      const by = (keys: Partial<typeof plain>) => stepped(from, unit, steps, { ...plain, ...keys }) - from;
      expect(by({})).toBeCloseTo(steps * STEPS[unit], 7);
      expect(by({ shiftKey: true })).toBeCloseTo(10 * steps * STEPS[unit], 7);
      expect(by({ altKey: true })).toBeCloseTo((unit === "whole" ? 1 : 0.1) * steps * STEPS[unit], 7);
      expect(stepped(stepped(from, unit, steps, plain), unit, -steps, plain)).toBeCloseTo(from, 7);
      if (unit === "whole") expect(Number.isInteger(stepped(from, unit, steps, { ...plain, altKey: true }))).toBe(true);
      expect(dragged(from, unit, 2 * steps, plain)).toBe(stepped(from, unit, steps, plain));
    }),
  );
  expect(stepped(0.1, "m", 20, plain)).toBe(0.3);
  expect(dragged(1, "m", 1, plain)).toBe(1.01);
});

test("what is typed is reckoned in the unit; what is none, or not allowed, is refused with what was typed", () => {
  const positive = (value: number) => (value > 0 ? null : "has to be above zero.");
  expect(typed(" 2 * 30 cm ", "m", positive)).toBeCloseTo(0.6, 12);
  expect(typed("90", "rad", positive)).toBeCloseTo(Math.PI / 2, 12);
  expect(() => typed(" -1 ", "m", positive)).toThrow("“-1”: has to be above zero.");
  for (const wrong of ["", "two", "1 +", "3 kg"]) expect(() => typed(wrong, "m", () => null)).toThrow();
});

import fc from "fast-check";
import { evenly } from "../math/testing";
import { InputError } from "./errors";
import { evaluateExpression, formatValue } from "./expression";
import type { Unit } from "./param";

test.each([
  ["0.45", "m", 0.45],
  ["2 * 0.45 m", "m", 0.9],
  ["30 cm", "m", 0.3],
  ["1/3", "m", 1 / 3],
  ["1,5", "m", 1.5],
  ["0,125", "m", 0.125],
  ["1,0005", "m", 1.0005],
  ["2 m + 30cm - 5 mm", "m", 2.295],
  ["-(1 + 2) * 10 cm", "m", -0.3],
  ["2 m + 1", "m", 3],
  ["1 m / 4", "m", 0.25],
  ["6 ft", "m", 1.8288],
  ["90", "rad", Math.PI / 2],
  ["90°", "rad", Math.PI / 2],
  ["1/4 turn", "rad", NaN],
  ["(1/4) turn", "rad", Math.PI / 2],
  ["180/6", "rad", Math.PI / 6],
  ["8", "share", 0.08],
  ["8 %", "share", 0.08],
  ["100/12", "share", 1 / 12],
  ["110 %", "factor", 1.1],
  ["1.1 ×", "factor", 1.1],
  ["2 × 3", "number", 6],
  ["1e3", "number", 1000],
  ["−4", "number", -4],
] as [string, Unit, number][])("“%s” as %s is %d", (text, unit, expected) => {
  if (Number.isNaN(expected)) expect(() => evaluateExpression(text, unit)).toThrow(InputError);
  else expect(evaluateExpression(text, unit)).toBeCloseTo(expected, 12);
});

test.each([
  ["", "is empty: write a length such as"],
  ["abc", "“abc” is not a number"],
  ["3 kg", "has “kg” in it, which is no unit here"],
  ["1 / 0", "divides by zero"],
  ["2 *", "is not finished"],
  ["(1 + 2", "bracket that is not closed"],
  ["2 m * 3 m", "multiplies or divides units"],
  ["1 2", "is not a number"],
  ["9e999", "is too large"],
  ["constructor", "is not a number"],
  ["1 toString", "has “toString” in it, which is no unit here"],
  ["2 valueOf", "has “valueOf” in it, which is no unit here"],
  ["1,000", "“1,000” can be read as 1000 or as 1.000"],
  ["2 * 12,500 m", "“12,500” can be read as 12500 or as 12.500"],
  [".", "is not a number"],
  [",", "is not a number"],
  ["1".repeat(300), "is too long"],
])("“%s” is refused: %s", (text, sentence) => {
  expect(() => evaluateExpression(text, "m")).toThrow(sentence);
});

test("whatever is typed gives a finite number or a sentence", () => {
  fc.assert(
    fc.property(
      fc.string({ maxLength: 30 }),
      fc.constantFrom<Unit>("m", "s", "m/s", "rad", "share", "factor", "number"),
      (text, unit) => {
        try {
          expect(Number.isFinite(evaluateExpression(text, unit))).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(InputError);
        }
      },
    ),
  );
});

test("what a field shows reads back as the same value up to its last digit", () => {
  fc.assert(
    fc.property(
      evenly(-5000, 5000),
      fc.constantFrom<[Unit, number]>(
        ["m", 5e-4],
        ["s", 5e-4],
        ["m/s", 5e-4],
        ["rad", 1e-4],
        ["share", 1e-4],
        ["factor", 1e-3],
        ["number", 1e-4],
      ),
      (value, [unit, digit]) => {
        expect(Math.abs(evaluateExpression(formatValue(value, unit), unit) - value)).toBeLessThanOrEqual(digit);
      },
    ),
  );
});

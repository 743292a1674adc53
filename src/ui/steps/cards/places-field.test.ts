import fc from "fast-check";
import { STEP_SCHEMAS } from "@/core/place";
import { placesIn as read, placesText } from "./PlacesField";

const placesIn = (text: string) => read(text, STEP_SCHEMAS.spacing.shape.list);

test("places are read between semicolons, lines, and commas with a space; with units and arithmetic", () => {
  expect(placesIn("0, 1.2, 3.5")).toEqual([0, 1.2, 3.5]);
  expect(placesIn("0; 30 cm;\n 2 * 0.25 m;")).toEqual([0, 0.3, 0.5]);
  expect(placesIn("1,5; 2,25")).toEqual([1.5, 2.25]);
  expect(placesIn("  ")).toEqual([]);
});

test("what is no length is refused in a sentence", () => {
  expect(() => placesIn("0; a fathom")).toThrow("“a fathom” is not a number");
  expect(() => placesIn("1; 2 kg")).toThrow();
});

test("a list shown and read again is the same to a tenth of a millimetre", () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -99_999, max: 99_999 })), (tenths) => {
      const places = tenths.map((n) => n / 1000);
      const again = placesIn(placesText(places));
      expect(again).toHaveLength(places.length);
      again.forEach((at, i) => expect(Math.abs(at - places[i])).toBeLessThan(1e-4));
    }),
  );
});

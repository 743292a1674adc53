import { addedKey } from "@/core/place";
import type { Placements } from "@/core/place";
import { placesLaid } from "../state/layouts";
import { flatBox, flatCorners, toFlat } from "./flat";

const key = BigUint64Array.of(addedKey(1), addedKey(2), addedKey(3));
/** A square about (1, 2), one about (−3, 0.5), and one that lies in no layout. */
const about = (x: number, y: number) => [x + 0.1, y + 0.1, x - 0.1, y + 0.1, x - 0.1, y - 0.1, x + 0.1, y - 0.1];
const laid = {
  at: Float64Array.of(1, 2, -3, 0.5, NaN, NaN),
  footprints: Float64Array.from([...about(1, 2), ...about(-3, 0.5), ...about(NaN, NaN)]),
};
const placements = {
  key,
  count: 3,
  prop: new Uint16Array(3),
  flags: new Uint16Array(3),
} as unknown as Placements;

test("what is ahead lies above; all of the layout and its handle is shown, and nothing is looked for that lies in none", () => {
  const corners = flatCorners(laid);
  expect([corners[0], corners[1]]).toEqual([1.1, -2.1]);
  const [least, most] = flatBox(placements, corners);
  expect(least[0]).toBeLessThan(-3.1);
  expect(least[1]).toBeLessThan(-2.1);
  expect(most[0]).toBeGreaterThan(1.1);
  expect(most[1]).toBeGreaterThan(0);
  expect(most[1]).toBeLessThan(1);
  const places = placesLaid(placements, laid, new Set(key.subarray(1)));
  expect([...places]).toEqual([[key[1], [-3, 0.5]]]);
  expect(toFlat([3, -4])).toEqual([3, 4]);
});

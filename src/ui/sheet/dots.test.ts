/** Dots on the sheet: as many pixels as they have, of their colour, and nothing beyond the picture. */
import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { packed, putDot } from "./dots";

test("a dot colours so many pixels about its place and no others, fewer only at the picture's edges", () => {
  const [width, height] = [12, 7];
  fc.assert(
    fc.property(evenly(-3, 15), evenly(-3, 10), fc.constantFrom(1 as const, 2 as const), (x, y, size) => {
      const pixels = new Uint32Array(width * height);
      putDot(pixels, width, x, y, size, 7);
      for (const [p, value] of pixels.entries()) {
        const [column, row] = [p % width, Math.floor(p / width)];
        const near = (at: number, middle: number) => {
          const first = Math.round(middle - size / 2);
          return at >= first && at < first + size;
        };
        expect(value).toBe(near(column, x) && near(row, y) ? 7 : 0);
      }
    }),
  );
});

test("a colour is packed as pixels are read: red, green, blue, alpha", () => {
  expect([...new Uint8Array(Uint32Array.of(packed("#1e6f77")).buffer)]).toEqual([0x1e, 0x6f, 0x77, 0xff]);
  expect(packed("none at all")).toBe(packed("#b9a784"));
});

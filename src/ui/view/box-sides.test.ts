import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { distance, fromTurns } from "@/core/math";
import { surfaceSchema, type Surface } from "@/core/scene";
import { beyondSide, boxSides, pullSide } from "./box-sides";
import type { Draft } from "immer";

test("a box is pulled by a side and stays where the other side is, however it is turned and sized", () => {
  const side = evenly(0.5, 5);
  fc.assert(
    fc.property(fc.tuple(side, side, side), fc.integer({ min: 0, max: 5 }), side, side, (sizes, which, turn, size) => {
      const [width, height, depth] = sizes;
      const box = surfaceSchema.parse({
        id: "box",
        name: "Box",
        made: { kind: "box", width, height, depth },
        position: [1, 2, 3],
        rotation: fromTurns(turn, 0.4, turn),
        scale: size,
      });
      const before = boxSides(box);
      const pulled = structuredClone(box) as Draft<Surface>;
      pullSide(pulled, box, before[which], 1.25);
      const after = boxSides(pulled as Surface);
      const across = which ^ 1;
      expect(beyondSide(before[which], after[which].middle)).toBeCloseTo(1.25, 1.5);
      expect(distance(before[across].middle, after[across].middle)).toBeLessThan(0.01 * size + 0.002);
      expect(boxSides({ ...box, locked: true })).toEqual([]);
    }),
  );
});

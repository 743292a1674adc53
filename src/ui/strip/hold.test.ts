import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { place, straight } from "@/core/place/testing";
import { FLAG, type Dressing } from "@/core/place";
import { caughtAt } from "./catch";
import { barTop, gapsOn, gripAt } from "./grips";
import { layoutOf, type StripScene } from "./layout";
import { rowBoxes, rowsOf } from "./model";

const held = (stretches: Dressing["gaps"]["stretches"]) => ({ gaps: { stretches } }) as Dressing;

test("held gaps of a closed line lie on it, the one through its start in two pieces, and are as long as they are told", () => {
  const metres = evenly(-30, 30);
  fc.assert(
    fc.property(metres, evenly(0, 9.99), (from, long) => {
      const pieces = gapsOn(held([{ line: "a", from, to: from + long }]), "a", 10, true);
      const sum = pieces.reduce((total, piece) => total + piece.to - piece.from, 0);
      expect(sum).toBeCloseTo(long, 6);
      for (const piece of pieces) {
        expect(piece.from).toBeGreaterThanOrEqual(-1e-9);
        expect(piece.to).toBeLessThanOrEqual(10 + 1e-9);
      }
    }),
  );
  expect(gapsOn(held([{ line: "b", from: 1, to: 2 }]), "a", 10, false)).toEqual([]);
});

test("what is pegged catches on ends, marks, touching neighbours and halfway between them, the nearest within reach", () => {
  const p = place({ spacing: { distance: 2 } });
  const [row] = rowsOf(p);
  const moved = row.order[2];
  const moving = new Set([moved]);
  const catches = (at: number, marks: number[] = []) => caughtAt(p, row, moved, at, 0.1, moving, marks);
  const [behind, before] = [p.reach[2 * moved], p.reach[2 * moved + 1]];
  expect(catches(0.05)).toBe(0);
  expect(catches(row.length - 0.02)).toBe(row.length);
  expect(catches(3.43, [3.4, 3.5])).toBe(3.4);
  expect(catches(p.at[row.order[1]] + before + behind + 0.03)).toBeCloseTo(p.at[row.order[1]] + behind + before, 6);
  expect(catches(4.05)).toBeCloseTo((p.at[row.order[1]] + p.at[row.order[3]]) / 2, 6);
  expect(catches(3.4)).toBeNull();
});

test("on the strip the bars of gaps, the slide and the insets are found where they are drawn, and nothing else", () => {
  const p = place(
    { spacing: { distance: 1, fromStart: 2, fromEnd: 1 }, gaps: { stretches: [{ line: "line", from: 4, to: 6 }] } },
    [straight(10)],
  );
  for (let i = 0; i < p.count; i++) expect((p.flags[i] & FLAG.blank) !== 0).toBe(p.at[i] >= 4 && p.at[i] <= 6);
  const rows = rowsOf(p);
  const boxes = rowBoxes([40], 172);
  const dressing = {
    ...held([{ line: "line", from: 4, to: 6 }]),
    stance: { meetsUp: "bottom" },
    spacing: { fromStart: 2, fromEnd: 1, slide: 0.5 },
  } as Dressing;
  const scene = { dressing, placements: p, rows, boxes, heights: [1], movable: [true] } as unknown as StripScene;
  const view = { scale: 50, from: -1 };
  const { hangs, cord } = layoutOf(scene, 0);
  const onBar = barTop(hangs, cord) + 2;
  const at = (metres: number, y = onBar) => gripAt(scene, view, 0, (metres + 1) * 50, y);
  expect(at(4)).toEqual({ kind: "gap", index: 0, part: "from" });
  expect(at(6.05)).toEqual({ kind: "gap", index: 0, part: "to" });
  expect(at(5)).toEqual({ kind: "gap", index: 0, part: "whole" });
  // The ring at the start of a line that may start anywhere.
  expect(at(0, cord)).toEqual({ kind: "start" });
  expect(gripAt({ ...scene, movable: [false] }, view, 0, 50, cord)).toBeNull();
  expect(at(2.5)).toEqual({ kind: "slide" });
  expect(at(2, cord - 40)).toEqual({ kind: "inset", end: "fromStart" });
  expect(at(9, cord - 40)).toEqual({ kind: "inset", end: "fromEnd" });
  expect(at(5, cord - 40)).toBeNull();
  expect(at(7.5)).toBeNull();
});

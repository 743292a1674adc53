import { makeLine } from "@/core/line/testing";
import { drawnByKnots, drawnLine, forgetOthers, guideOf, spanMiddles } from "./guides";
import { putLaid } from "./laid";

const knots = [
  [0, 5, 0],
  [4, 5, 0],
] as const;
const line = makeLine({ kind: "polyline", knots });
const laid = makeLine({ kind: "polyline", knots, laid: { kind: "surface", on: [] } });

test("a line that is laid is drawn where the worker says that it lies, and by its knots before that; its knots stay up", () => {
  expect(drawnLine(laid).points).toEqual([
    [0, 5, 0],
    [4, 5, 0],
  ]);
  const points = Float64Array.of(0, 0, 0, 2, 1, 0, 4, 0, 0);
  const normals = Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0);
  const track = { points, normals, closed: false, knots: Uint32Array.of(0, 2) };
  putLaid({ changed: [[line.id, track]], gone: [] });
  expect(drawnLine(laid).points).toEqual([
    [0, 0, 0],
    [2, 1, 0],
    [4, 0, 0],
  ]);
  expect(drawnByKnots(laid).points).toEqual([
    [0, 5, 0],
    [4, 5, 0],
  ]);
  expect(spanMiddles(laid)).toEqual([[2, 5, 0]]);
  putLaid({ changed: [], gone: [line.id] });
  expect(drawnLine(laid).points).toEqual([
    [0, 5, 0],
    [4, 5, 0],
  ]);
});

test("the same line is worked out once, another by its id anew", () => {
  const [drawn, guide] = [drawnLine(line), guideOf(line)];
  expect(drawnLine({ ...line })).toBe(drawn);
  expect(guideOf(line)).toBe(guide);
  const longer = makeLine({ kind: "polyline", knots: [knots[0], [6, 5, 0]] });
  expect(drawnLine(longer).curve.length).toBe(6);
  const again = drawnLine(line);
  forgetOthers([line]);
  expect(drawnLine(line)).toBe(again);
  forgetOthers([]);
  expect(drawnLine(line)).not.toBe(again);
  expect(drawnLine(line)).toEqual(again);
});
